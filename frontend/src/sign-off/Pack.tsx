import { useMutation } from '@tanstack/react-query'
import type { ReactNode } from 'react'
import { answered, api } from '../api/client'
import { useClient } from '../frame/queries'
import { dayWords } from '../ledger/words'
import { Button } from '../ui/Button'
import { useNotice } from '../ui/notice'
import { ProblemNote } from '../ui/ProblemNote'
import { saveFile } from '../ui/saveFile'

/** The books as a zip: who takes them away says their password once more. */
function GivenOut({ received, children }: { received: boolean; children: ReactNode }) {
  const client = useClient()
  const tell = useNotice()
  const giving = useMutation({
    mutationFn: async () => {
      const params = { path: { client: client.code }, query: { as_received: received } }
      const asked = api.GET('/api/clients/{client}/books.zip', { params, parseAs: 'blob' })
      saveFile(`${client.code} books.zip`, (await answered(asked)) as Blob)
    },
    onSuccess: () => tell({ text: `${client.name}: the books are given out.` }),
    onError: (problem) => tell({ text: problem.message }),
  })
  return (
    <button
      type="button"
      className="text-tide hover:underline"
      disabled={giving.isPending}
      onClick={() => giving.mutate()}
    >
      {children}
    </button>
  )
}

/** All that there is of the client, for one who leaves. */
function Everything() {
  const client = useClient()
  const tell = useNotice()
  const giving = useMutation({
    mutationFn: async () => {
      const params = { path: { client: client.code } }
      const asked = api.GET('/api/clients/{client}/everything.zip', { params, parseAs: 'blob' })
      saveFile(`${client.code} everything.zip`, (await answered(asked)) as Blob)
    },
    onSuccess: () => tell({ text: `${client.name}: everything is given out.` }),
    onError: (problem) => tell({ text: problem.message }),
  })
  return (
    <button
      type="button"
      className="text-tide hover:underline"
      disabled={giving.isPending}
      onClick={() => giving.mutate()}
    >
      everything in one zip
    </button>
  )
}

/** The finished work as at a day, to hand over: signed or not, it says which. */
export function Pack({ at }: { at: string }) {
  const client = useClient()
  const tell = useNotice()
  const write = useMutation({
    mutationFn: async () => {
      const params = { path: { client: client.code }, query: { at } }
      const asked = api.GET('/api/clients/{client}/pack.zip', { params, parseAs: 'blob' })
      const name = `${client.code} ${at}.zip`
      saveFile(name, (await answered(asked)) as Blob)
      return name
    },
    onSuccess: (name) => tell({ text: `The pack is in ${name}, where your browser saves files.` }),
  })
  const audit = useMutation({
    mutationFn: async () => {
      const year = client.year.label
      const params = { path: { client: client.code }, query: { year } }
      const asked = api.GET('/api/clients/{client}/audit-file.xml', { params, parseAs: 'blob' })
      saveFile(`${client.code} ${year}.xml`, (await answered(asked)) as Blob)
    },
    onSuccess: () => tell({ text: `${client.name}: the audit file is written.` }),
  })
  return (
    <section aria-label="The pack">
      <h2 className="mb-1 font-sans font-semibold text-deep">The pack</h2>
      <p className="border-t border-ink pt-2 text-quiet">
        Trial balance, statements, entries, tie-outs, points and lists: to read (PDF), to work on
        (workbook), and for programs (CSV, JSON).
      </p>
      <Button className="mt-2" disabled={write.isPending} onClick={() => write.mutate()}>
        {write.isPending ? 'Writing it …' : `Fetch it as at ${dayWords(at)}`}
      </Button>
      <ProblemNote problem={write.error} className="mt-2" />
      <p className="mt-3 text-quiet">
        For other programs: <GivenOut received={false}>the books, with every correction</GivenOut>,{' '}
        <GivenOut received>as received</GivenOut>, <Everything /> with an index to read, or{' '}
        <button
          type="button"
          className="text-tide hover:underline"
          disabled={audit.isPending}
          onClick={() => audit.mutate()}
        >
          {audit.isPending
            ? 'writing the audit file …'
            : `the year ${client.year.label} as a standard audit file`}
        </button>
        .
      </p>
      <ProblemNote problem={audit.error} />
    </section>
  )
}
