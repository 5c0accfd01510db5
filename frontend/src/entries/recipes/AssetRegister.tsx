import { useSuspenseQuery } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { PrintedHead } from '../../frame/PrintedHead'
import { assetsOptions, useClient } from '../../frame/queries'
import { useSpan } from '../../frame/useSpan'
import { amountWords, counted, isNil, longDayWords } from '../../ledger/words'
import { Button } from '../../ui/Button'
import { useKeys } from '../../ui/keys'
import { ProblemNote } from '../../ui/ProblemNote'
import { AssetRows } from './AssetRows'
import { AssetYears } from './AssetYears'
import { how } from './assetWords'
import { type Asset, type AssetRow, readAssets } from './queries'

interface AssetRegisterProps {
  onOpen: (name: string, begins?: Record<string, string>) => void
}

/** The register of fixed assets as at the last day that is looked at, tied to what the books have. */
export function AssetRegister({ onOpen }: AssetRegisterProps) {
  const client = useClient()
  const [span] = useSpan()
  const { data } = useSuspenseQuery(assetsOptions(client.code, span.last))
  const [keyed, key] = useState<AssetRow[] | null>(null)
  const [wrong, fail] = useState<Error | null>(null)
  const [chosen, choose] = useState<string | null>(null)
  const file = useRef<HTMLInputElement>(null)
  const shown =
    data.assets.find((asset) => asset.asset === chosen) ??
    data.assets.find((asset) => asset.years.length > 0) ??
    data.assets[0]
  useKeys('Fixed assets', [
    {
      keys: 'd',
      does: 'depreciation to the day',
      run: () => onOpen('recipe-depreciation'),
    },
  ])
  async function take(picked: File | undefined) {
    if (!picked) return
    fail(null)
    try {
      key((await readAssets(client.code, picked)).assets)
    } catch (problem) {
      fail(problem as Error)
    }
  }
  if (keyed) return <AssetRows rows={keyed} onDone={() => key(null)} />
  return (
    <section aria-label="Fixed assets" className="space-y-4">
      <PrintedHead says={`Fixed assets, ${longDayWords(span.last)}`} />
      <header className="screen-only flex flex-wrap items-baseline gap-x-4 gap-y-2">
        <h1 className="text-[21px] leading-7 font-semibold">Fixed assets</h1>
        <span className="grow text-quiet">as at {longDayWords(span.last)}</span>
        <Button onClick={() => file.current?.click()}>Take in a table</Button>
        {data.assets.length > 0 && (
          <>
            <Button onClick={() => onOpen('recipe-disposal', { asset: shown?.asset ?? '' })}>
              Dispose of one
            </Button>
            <Button look="post" hint="d" onClick={() => onOpen('recipe-depreciation')}>
              Depreciation
            </Button>
          </>
        )}
        <input
          ref={file}
          hidden
          type="file"
          accept=".csv,text/csv"
          aria-label="A table of assets"
          onChange={(event) => take(event.target.files?.[0])}
        />
      </header>
      <ProblemNote problem={wrong} />
      {data.offered.length > 0 && (
        <p className="screen-only flex items-baseline gap-4 border-l-4 border-cork bg-sheet px-4 py-2">
          <span className="grow">
            The books bought <strong>{counted(data.offered.length, 'thing')}</strong> that the
            register does not have.
          </span>
          <Button look="post" onClick={() => key(data.offered)}>
            Look at {data.offered.length > 1 ? 'them' : 'it'}
          </Button>
        </p>
      )}
      {data.assets.length === 0 ? (
        <p className="max-w-2xl text-quiet">
          The register is empty. It is built from what the books bought, or taken in as a CSV table
          with the columns asset, account, name, bought, cost, method, life, residual. Depreciation,
          disposals and the proof of these accounts go by it.
        </p>
      ) : (
        <>
          <Table register={data} chosen={shown?.asset} onChoose={choose} />
          {shown && (
            <AssetYears
              asset={shown}
              year={client.year.label}
              onChange={() => key([shown.keyed])}
            />
          )}
        </>
      )}
    </section>
  )
}

const HEAD = 'border-b border-ink py-1 font-semibold text-deep'
const FIGURE = 'py-1 pl-4 text-right'

interface TableProps {
  register: {
    assets: Asset[]
    cost: string
    depreciation: string
    carrying: string
    due: string
  }
  chosen?: string
  onChoose: (asset: string) => void
}

function Table({ register, chosen, onChoose }: TableProps) {
  return (
    <table className="w-full border-collapse">
      <caption className="sr-only">Register of fixed assets</caption>
      <thead className="text-left">
        <tr>
          <th scope="col" className={HEAD}>
            Asset
          </th>
          <th scope="col" className={HEAD}>
            Bought
          </th>
          <th scope="col" className={HEAD}>
            Written off
          </th>
          {['Cost', 'Depreciation', 'Carrying', 'Still due'].map((head) => (
            <th key={head} scope="col" className={`${HEAD} pl-4 text-right`}>
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {register.assets.map((asset) => (
          <tr
            key={asset.asset}
            className={`border-b border-rule ${asset.asset === chosen ? 'bg-sheet shadow-[inset_4px_0_0_var(--cork)]' : ''}`}
          >
            <th scope="row" className="py-1 pl-2 text-left font-normal">
              <button
                type="button"
                data-row
                aria-pressed={asset.asset === chosen}
                className="text-left hover:underline"
                onClick={() => onChoose(asset.asset)}
              >
                <span className="mr-2 text-quiet">{asset.account}</span>
                {asset.name}
              </button>
              {asset.disposed && (
                <span className="ml-2 text-quiet">gone on {longDayWords(asset.disposed)}</span>
              )}
            </th>
            <td>{longDayWords(asset.bought)}</td>
            <td className="text-quiet">{how(asset)}</td>
            <td className={FIGURE}>{amountWords(asset.cost)}</td>
            <td className={FIGURE}>{amountWords(asset.depreciation)}</td>
            <td className={`${FIGURE} font-semibold`}>{amountWords(asset.carrying)}</td>
            <td className={`${FIGURE} ${isNil(asset.due) ? 'text-quiet' : 'text-rust'}`}>
              {isNil(asset.due) ? '–' : amountWords(asset.due)}
            </td>
          </tr>
        ))}
      </tbody>
      <tfoot>
        <tr className="border-t border-ink font-semibold">
          <th scope="row" colSpan={3} className="py-1 pl-2 text-left">
            All that is there
          </th>
          <td className={FIGURE}>{amountWords(register.cost)}</td>
          <td className={FIGURE}>{amountWords(register.depreciation)}</td>
          <td className={FIGURE}>{amountWords(register.carrying)}</td>
          <td className={FIGURE}>{amountWords(register.due)}</td>
        </tr>
      </tfoot>
    </table>
  )
}
