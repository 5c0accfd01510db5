import { Popover } from 'radix-ui'
import { useState } from 'react'
import { longDayWords, shortDayWords } from '../ledger/words'
import { Button } from '../ui/Button'
import { KeysLayer, useKeys } from '../ui/keys'
import { DayField } from './DayField'
import { useClient } from './queries'
import { useSpan } from './useSpan'

/** The days that all figures are of, from and to: any day of the year, not months alone. */
export function SpanDays() {
  const [span] = useSpan()
  const [open, setOpen] = useState(false)
  useKeys('Figures', [
    { keys: 'd', does: 'the days that figures are of', run: () => setOpen(true) },
  ])
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        className={`ml-auto pt-2 whitespace-nowrap ${span.isDefault ? 'text-quiet' : 'font-semibold'} hover:text-ink`}
        title="The days that all figures on the pages are of; d opens it"
      >
        {shortDayWords(span.first)} – {shortDayWords(span.last)}{' '}
        <kbd className="border border-edge px-1 font-sans text-xs font-normal text-quiet">d</kbd>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          aria-label="The days that figures are of"
          className="z-50 w-80 border border-edge bg-sheet px-4 py-3 shadow-md"
        >
          <KeysLayer>
            <Days onDone={() => setOpen(false)} />
          </KeysLayer>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}

function Days({ onDone }: { onDone: () => void }) {
  const client = useClient()
  const [span, setSpan] = useSpan()
  const [first, setFirst] = useState(span.first)
  const [last, setLast] = useState(span.last)
  const { first_day: begins, last_day: ends } = client.year
  const earliest = client.years[0]?.first_day ?? begins
  const within = first >= earliest && last >= begins && last <= ends
  const wrong =
    first && last && !(within && first <= last)
      ? `From ${longDayWords(earliest)} on, to a later day up to ${longDayWords(ends)}.`
      : null
  return (
    <form
      className="space-y-3"
      onSubmit={(event) => {
        event.preventDefault()
        if (!first || !last || wrong) return
        setSpan({ first, last })
        onDone()
      }}
    >
      <div className="grid grid-cols-2 gap-3">
        <DayField label="From" value={first} onDay={setFirst} />
        <DayField label="To" value={last} onDay={setLast} />
      </div>
      {wrong && <p className="text-rust">{wrong}</p>}
      <p className="flex items-center gap-3">
        <Button look="post" type="submit" disabled={!first || !last || wrong !== null}>
          Show these days
        </Button>
        {!span.isDefault && (
          <Button
            look="bare"
            onClick={() => {
              setSpan(null)
              onDone()
            }}
          >
            as before
          </Button>
        )}
      </p>
    </form>
  )
}
