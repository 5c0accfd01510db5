import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { Schemas } from '../api/client'
import { EffectList } from '../ledger/EffectList'
import {
  amountWords,
  changeWords,
  isNil,
  longDayWords,
  negated,
  shortDayWords,
} from '../ledger/words'
import { Dialog } from '../ui/Dialog'
import { usePreparedEffect } from './prepared'
import { type Client, figuresOptions, useClient } from './queries'
import { useSpan } from './useSpan'

/** The figures that are shown one by one: whether debits equal credits stands apart. */
type Named = Exclude<keyof Schemas['FiguresAnswer'], 'turned_over' | 'out_by'>

const NAMES: Named[] = [
  'profit',
  'tax',
  'receivables',
  'payables',
  'money',
  'bank_difference',
  'owners',
]

/** The figures as at the end of the span; while something is prepared, before, after and change. */
export function EffectStrip() {
  const client = useClient()
  const [span] = useSpan()
  const effect = usePreparedEffect()
  const [open, setOpen] = useState(false)
  const { data: figures } = useQuery(figuresOptions(client.code, span.last))
  const asAt = effect?.as_at ?? span.last
  const names = NAMES.filter((name) =>
    name === 'bank_difference'
      ? typeof figures?.bank_difference === 'string'
      : name !== 'owners' || client.has_owners,
  )
  return (
    <section
      aria-label={`Figures as at ${longDayWords(asAt)}`}
      className="screen-only flex h-[46px] shrink-0 items-center overflow-x-auto overflow-y-hidden bg-strip px-5 text-[12px] text-strip-ink [scrollbar-width:thin] min-[1180px]:text-[13px]"
    >
      <button
        type="button"
        className="flex items-center text-left disabled:cursor-default"
        disabled={!effect}
        title={effect ? 'Show every account that moves' : undefined}
        onClick={() => setOpen(true)}
      >
        {names.map((name) => (
          <Figure
            key={name}
            label={labelOf(name, client, effect?.[name]?.after ?? figures?.[name] ?? '', asAt)}
            value={figures?.[name] ?? undefined}
            moved={effect?.[name] ?? undefined}
            flip={flips(name, effect?.[name]?.after ?? figures?.[name] ?? '')}
          />
        ))}
      </button>
      <div className="ml-auto pl-2.5 text-right leading-[17px] whitespace-nowrap">
        <span className="block text-xs leading-[14px] text-strip-quiet">
          {figures && !isNil(figures.out_by) ? 'Debits ≠ credits, out by' : 'Debits = credits'}
        </span>
        {figures && !isNil(figures.out_by) ? (
          <em className="font-semibold text-strip-moved not-italic">
            {changeWords(figures.out_by)}
          </em>
        ) : effect && !isNil(effect.turned_over.change) ? (
          <>
            {amountWords(effect.turned_over.before)} →{' '}
            <em className="font-semibold text-strip-moved not-italic">
              {amountWords(effect.turned_over.after)}
            </em>
          </>
        ) : (
          figures && amountWords(figures.turned_over)
        )}
      </div>
      {open && effect && (
        <Dialog title="What moves" onClose={() => setOpen(false)}>
          <EffectList effect={effect} />
        </Dialog>
      )}
    </section>
  )
}

function labelOf(name: Named, client: Client, value: string, asAt: string): string {
  switch (name) {
    case 'profit':
      return `Profit to ${shortDayWords(asAt)}`
    case 'tax':
      return value.startsWith('-') ? 'Tax to pay' : 'Tax to reclaim'
    case 'receivables':
      return 'Owed to us'
    case 'payables':
      return 'Owed by us'
    case 'money':
      return 'Bank and cash'
    case 'bank_difference':
      return 'Bank difference'
    default:
      return client.entity === 'company' || client.entity === 'sole-trader' ? 'Owner' : 'Owners'
  }
}

interface FigureProps {
  label: string
  value: string | undefined
  moved: Schemas['BeforeAfter'] | undefined
  /** Shown as what is owed: a credit without brackets. */
  flip: boolean
}

/** What is owed by us, to owners as on their page, and tax that is to be paid, are read as sums owed. */
function flips(name: Named, value: string): boolean {
  return name === 'payables' || name === 'owners' || (name === 'tax' && value.startsWith('-'))
}

function Figure({ label, value, moved, flip }: FigureProps) {
  const signed = (amount: string) => (flip ? negated(amount) : amount)
  const words = (amount: string) => amountWords(signed(amount))
  const moves = moved && !isNil(moved.change)
  return (
    <span className="block border-r border-strip-rule px-2 min-[1180px]:px-4 leading-[17px] first:pl-0">
      <span className="block text-xs leading-[14px] whitespace-nowrap text-strip-quiet">
        {label}
      </span>
      <span className="block whitespace-nowrap">
        {moves ? (
          <>
            {words(moved.before)} →{' '}
            <em className="font-semibold text-strip-moved not-italic">
              {words(moved.after)} {changeWords(signed(moved.change))}
            </em>
          </>
        ) : (
          words(moved?.before ?? value ?? '') || '…'
        )}
      </span>
    </span>
  )
}
