import { amountWords } from '../../ledger/words'
import { Button } from '../../ui/Button'
import { how } from './assetWords'
import type { Asset } from './queries'

interface AssetYearsProps {
  asset: Asset
  /** The label of the year that is looked at. */
  year: string
  onChange: () => void
}

const TALL = 90

/** What each year writes off an asset, as bars of what is left and as figures. */
export function AssetYears({ asset, year, onChange }: AssetYearsProps) {
  const cost = Number(asset.cost)
  return (
    <section aria-label={`The years of ${asset.name}`} className="space-y-2">
      <h2 className="flex items-baseline gap-4 border-b border-ink font-sans font-semibold text-deep">
        <span className="grow">
          {asset.name}: {how(asset)}
          {Number(asset.residual) > 0 && `, down to ${amountWords(asset.residual)}`}
        </span>
        <Button look="bare" className="screen-only" onClick={onChange}>
          Change
        </Button>
      </h2>
      {asset.years.length === 0 ? (
        <p className="text-quiet">
          {asset.method === 'units'
            ? 'It is written off by what it is used, not by years.'
            : 'It keeps its value.'}
        </p>
      ) : (
        <div className="overflow-x-auto">
          <table className="border-collapse text-[13px]">
            <caption className="sr-only">Year by year</caption>
            <tbody>
              <tr className="align-bottom">
                <td />
                {asset.years.map((row) => (
                  <td key={row.year} className="px-1">
                    <div
                      className={row.year === year ? 'bg-cork' : 'bg-moss-fill'}
                      style={{ height: cost ? (Number(row.left) / cost) * TALL : 0 }}
                    />
                  </td>
                ))}
              </tr>
              <tr className="border-t border-ink">
                <th scope="row" className="pr-3 text-left font-normal text-quiet">
                  Year
                </th>
                {asset.years.map((row) => (
                  <th
                    key={row.year}
                    scope="col"
                    className={`px-2 text-right ${row.year === year ? 'font-semibold' : 'font-normal'}`}
                  >
                    {row.year}
                  </th>
                ))}
              </tr>
              {(['amount', 'left'] as const).map((name) => (
                <tr key={name} className="border-t border-rule">
                  <th
                    scope="row"
                    className="pr-3 text-left font-normal whitespace-nowrap text-quiet"
                  >
                    {name === 'amount' ? 'Written off' : 'Left'}
                  </th>
                  {asset.years.map((row) => (
                    <td key={row.year} className="px-2 text-right">
                      {amountWords(row[name])}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  )
}
