import { DropdownMenu } from 'radix-ui'
import { longDayWords } from '../ledger/words'
import { useClient } from './queries'
import { useYearLabel } from './useYearLabel'

/** Whose books these are, and of which year: never to be mistaken. */
export function ClientSwitch() {
  const client = useClient()
  const [, setYear] = useYearLabel()
  return (
    <div className="min-w-0 border-l border-edge pl-5">
      <DropdownMenu.Root>
        <DropdownMenu.Trigger className="block max-w-full truncate text-left whitespace-nowrap">
          <strong className="block truncate font-display text-[17px] leading-5 font-semibold">
            {client.name}
          </strong>
          <span className="block text-[13px] leading-[17px] text-quiet">
            year to {longDayWords(client.year.last_day).replace(/(\w{3})\w*( \d{4})$/, '$1$2')} ▾
          </span>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="start"
            sideOffset={6}
            className="z-50 min-w-60 border border-edge bg-sheet py-2 shadow-lg"
          >
            <DropdownMenu.Label className="px-4 pb-1 text-quiet">
              Years of {client.code}
            </DropdownMenu.Label>
            {client.years.map((year) => (
              <DropdownMenu.Item
                key={year.label}
                className="flex cursor-pointer justify-between gap-6 px-4 py-1 outline-none data-highlighted:bg-wash"
                onSelect={() => setYear(year.label)}
              >
                <span className={year.label === client.year.label ? 'font-semibold' : ''}>
                  {year.label}
                </span>
                <span className="text-quiet">to {longDayWords(year.last_day)}</span>
              </DropdownMenu.Item>
            ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </div>
  )
}
