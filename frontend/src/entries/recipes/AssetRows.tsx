import { useState } from 'react'
import { PostPanel } from '../../frame/PostPanel'
import { useAct } from '../../frame/useAct'
import { counted } from '../../ledger/words'
import { Button } from '../../ui/Button'
import { useSettled } from '../../ui/useSettled'
import type { AssetRow } from './queries'

interface AssetRowsProps {
  rows: AssetRow[]
  onDone: () => void
}

const METHODS = {
  'straight-line': 'evenly',
  'reducing-balance': '% of what is left',
  units: 'by use',
  none: 'not at all',
} as const
const FIELDS = [
  { name: 'name', head: 'Name', wide: 'w-44' },
  { name: 'account', head: 'Account', wide: 'w-20' },
  { name: 'bought', head: 'Bought', wide: 'w-28' },
  { name: 'cost', head: 'Cost', wide: 'w-24 text-right' },
  { name: 'life', head: 'Years', wide: 'w-16 text-right' },
  { name: 'rate', head: '% a year', wide: 'w-16 text-right' },
  { name: 'residual', head: 'Down to', wide: 'w-24 text-right' },
] as const

/** Assets before they are taken into the register, each field of them to be put right. */
export function AssetRows({ rows, onDone }: AssetRowsProps) {
  const [keyed, key] = useState(rows)
  const settled = useSettled(JSON.stringify(keyed), 200)
  const acting = useAct({
    act: { act: 'assets', assets: JSON.parse(settled) },
    keepsLast: true,
    onDone,
  })
  function put(place: number, changed: Partial<AssetRow>) {
    key(keyed.map((row, at) => (at === place ? { ...row, ...changed } : row)))
  }
  return (
    <section aria-label="Assets to be taken in" className="space-y-4">
      <header className="flex items-baseline gap-4">
        <h1 className="grow text-[21px] leading-7 font-semibold">
          {counted(keyed.length, 'asset')} for the register
        </h1>
        <Button look="bare" onClick={onDone}>
          Do nothing
        </Button>
      </header>
      <div className="overflow-x-auto">
        <table className="border-collapse">
          <caption className="sr-only">Assets to be taken in</caption>
          <thead className="text-left text-deep">
            <tr>
              {FIELDS.map((field) => (
                <th key={field.name} scope="col" className="pr-1 font-semibold">
                  {field.head}
                </th>
              ))}
              <th scope="col" className="font-semibold">
                Written off
              </th>
              <th />
            </tr>
          </thead>
          <tbody>
            {keyed.map((row, place) => (
              <tr key={row.asset}>
                {FIELDS.map((field) => (
                  <td key={field.name} className="pr-1 pb-1">
                    <input
                      aria-label={`${field.head} of ${row.asset}`}
                      className={`border border-edge bg-sheet px-2 py-1 ${field.wide}`}
                      value={row[field.name]}
                      onChange={(event) => put(place, { [field.name]: event.target.value })}
                    />
                  </td>
                ))}
                <td className="pr-1 pb-1">
                  <select
                    aria-label={`Written off, ${row.asset}`}
                    className="border border-edge bg-sheet px-2 py-1"
                    value={row.method}
                    onChange={(event) => put(place, { method: event.target.value })}
                  >
                    {Object.entries(METHODS).map(([method, says]) => (
                      <option key={method} value={method}>
                        {says}
                      </option>
                    ))}
                  </select>
                </td>
                <td>
                  {keyed.length > 1 && (
                    <Button
                      look="bare"
                      aria-label={`Leave ${row.asset} out`}
                      onClick={() => key(keyed.filter((_, at) => at !== place))}
                    >
                      leave out
                    </Button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="max-w-2xl text-quiet">
        One entry of the books is one asset; of one by use, the years are its units. Nothing moves
        by taking them in: depreciation and disposals go by them from then on.
      </p>
      <PostPanel label="Take into the register" acting={acting} />
    </section>
  )
}
