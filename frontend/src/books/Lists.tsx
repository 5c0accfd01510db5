import { useMutation, useQuery } from '@tanstack/react-query'
import { answered, api } from '../api/client'
import { useClient } from '../frame/queries'
import { counted } from '../ledger/words'
import { Button } from '../ui/Button'
import { useKeys } from '../ui/keys'
import { useNotice } from '../ui/notice'
import { ProblemNote } from '../ui/ProblemNote'
import { saveFile } from '../ui/saveFile'
import { Waiting } from '../ui/Waiting'

type Form = 'csv' | 'xlsx'

/** Each list of the books, with every correction, to be saved apart or all together. */
export function Lists() {
  const client = useClient()
  const tell = useNotice()
  const shown = useQuery({
    queryKey: ['client', client.code, 'lists', client.revision],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/lists', { params: { path: { client: client.code } } }),
      ),
  })
  const save = useMutation({
    mutationFn: async ({ name, form }: { name: string | null; form: Form }) => {
      const file = `${client.code} ${name ?? 'lists'}.${form}`
      saveFile(file, await fetched(client.code, name, form))
      return file
    },
    onSuccess: (file) => tell({ text: `${file} is where your browser saves files.` }),
  })
  useKeys('Lists', [
    {
      keys: 'w',
      does: 'all lists in one workbook',
      run: () => save.mutate({ name: null, form: 'xlsx' }),
    },
  ])
  if (shown.error) return <ProblemNote problem={shown.error} />
  if (!shown.data) return <Waiting />
  return (
    <section aria-label="Lists" className="min-h-0 flex-1 overflow-auto pb-8">
      <p className="mb-3 max-w-[75ch] text-quiet">
        What the books hold now, with every correction. Each of these is taken in again as it is,
        here or by another program. Papers and statements go with everything in one zip, on
        Sign-off.
      </p>
      <ProblemNote problem={save.error} className="mb-2" />
      <table className="border-collapse">
        <caption className="sr-only">Lists to be saved</caption>
        <thead>
          <tr className="border-b border-ink text-left text-deep">
            <th scope="col" className="py-1 pr-10 font-semibold">
              List
            </th>
            <th scope="col" className="py-1 pr-10 text-right font-semibold">
              Holds
            </th>
            <th scope="col" className="py-1 font-semibold">
              Save as
            </th>
          </tr>
        </thead>
        <tbody>
          {shown.data.lists.map((list, place) => (
            <tr key={list.name} className="border-b border-rule align-baseline">
              <th scope="row" className="py-1 pr-10 text-left font-normal">
                {list.title}
              </th>
              <td className="py-1 pr-10 text-right tabular-nums">{counted(list.rows, 'row')}</td>
              <td className="space-x-2 py-1">
                {(['csv', 'xlsx'] as const).map((form) => (
                  <Button
                    key={form}
                    look="bare"
                    autoFocus={place === 0 && form === 'csv'}
                    className="py-0!"
                    aria-label={`${list.title} as ${FORMS[form]}`}
                    onClick={() => save.mutate({ name: list.name, form })}
                  >
                    {FORMS[form]}
                  </Button>
                ))}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Button className="mt-4" hint="w" onClick={() => save.mutate({ name: null, form: 'xlsx' })}>
        All of them in one workbook
      </Button>
    </section>
  )
}

const FORMS: Record<Form, string> = { csv: 'CSV', xlsx: 'workbook' }

async function fetched(client: string, name: string | null, form: Form): Promise<Blob> {
  const path = { client, name: name ?? '' }
  const as = { params: { path }, parseAs: 'blob' } as const
  const asked =
    name === null
      ? api.GET('/api/clients/{client}/lists.xlsx', as)
      : form === 'csv'
        ? api.GET('/api/clients/{client}/lists/{name}.csv', as)
        : api.GET('/api/clients/{client}/lists/{name}.xlsx', as)
  return (await answered(asked)) as Blob
}
