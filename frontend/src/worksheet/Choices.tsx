import { Popover } from 'radix-ui'
import { useState } from 'react'
import type { Schemas } from '../api/client'
import { useClient } from '../frame/queries'
import { useSheet } from '../frame/useSheet'
import { useSpan } from '../frame/useSpan'
import { dayWords } from '../ledger/words'
import { Button } from '../ui/Button'
import { Dialog } from '../ui/Dialog'
import { ArrangeForm } from './ArrangeForm'
import { BudgetForm } from './BudgetForm'

type Sheet = Schemas['WorksheetAnswer']

/** What the worksheet is of: the days alone, closings, a dimension, another grouping, a budget. */
export function Choices({ sheet }: { sheet: Sheet }) {
  const client = useClient()
  const [span] = useSpan()
  const [of, choose] = useSheet()
  const [form, open] = useState<'arrange' | 'budget' | null>(null)
  const chosen = [of.alone, of.closing, of.dimension, of.grouped].filter(Boolean).length
  const dimension = sheet.dimensions.find((known) => known.value === of.dimension)
  return (
    <>
      <Popover.Root>
        <Popover.Trigger className="screen-only whitespace-nowrap text-tide hover:underline">
          {chosen ? [dimension?.name, of.grouped, 'chosen'].find(Boolean) : 'Show'}
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="end"
            aria-label="What the worksheet shows"
            className="z-50 w-80 space-y-2 border border-edge bg-sheet px-4 py-3 shadow-md"
          >
            {span.first > client.year.first_day && (
              <label className="flex gap-2">
                <input
                  type="checkbox"
                  checked={of.alone}
                  onChange={() => choose({ alone: !of.alone })}
                />
                income and costs from {dayWords(span.first)} alone
              </label>
            )}
            <label className="flex gap-2">
              <input
                type="checkbox"
                checked={of.closing}
                onChange={() => choose({ closing: !of.closing })}
              />
              closing entries, in a column of their own
            </label>
            {sheet.dimensions.length > 0 && (
              <label className="block">
                <span className="block text-quiet">Only what stands on</span>
                <select
                  className="w-full border border-edge bg-sheet px-2 py-1"
                  value={of.dimension ?? ''}
                  onChange={(event) => choose({ dimension: event.target.value || null })}
                >
                  <option value="">everything</option>
                  {sheet.dimensions.map((known) => (
                    <option key={known.value} value={known.value}>
                      {known.name}
                    </option>
                  ))}
                </select>
              </label>
            )}
            <label className="block">
              <span className="block text-quiet">Accounts grouped</span>
              <select
                className="w-full border border-edge bg-sheet px-2 py-1"
                value={of.grouped ?? ''}
                onChange={(event) => choose({ grouped: event.target.value || null })}
              >
                <option value="">by their types</option>
                {sheet.arrangements.map((name) => (
                  <option key={name}>{name}</option>
                ))}
              </select>
            </label>
            <p className="flex gap-4">
              <Button look="bare" onClick={() => open('arrange')}>
                Another grouping
              </Button>
              <Button look="bare" onClick={() => open('budget')}>
                Budget
              </Button>
            </p>
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
      {form === 'arrange' && (
        <Dialog title="Accounts grouped for another reader" onClose={() => open(null)}>
          <ArrangeForm
            sheet={sheet}
            onDone={(name) => {
              open(null)
              choose({ grouped: name })
            }}
          />
        </Dialog>
      )}
      {form === 'budget' && (
        <Dialog title="A budget beside the figures" onClose={() => open(null)}>
          <BudgetForm onDone={() => open(null)} />
        </Dialog>
      )}
    </>
  )
}
