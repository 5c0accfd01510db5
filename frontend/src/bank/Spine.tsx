import { defaultRangeExtractor, type Range, useVirtualizer } from '@tanstack/react-virtual'
import { type ReactNode, useEffect, useMemo, useRef, useState } from 'react'
import { counted, shortDayWords } from '../ledger/words'
import { Button } from '../ui/Button'
import { useKeys } from '../ui/keys'
import { PointCase } from './PointCase'
import { type Picked, pickedSums, togglePicked, wantedOf } from './picked'
import type { Reconciliation, SpineRow } from './queries'
import { Row } from './Row'
import type { BankDeeds } from './useBankDeeds'

export type Shown = 'all' | 'to settle' | 'not presented'

interface SpineProps {
  state: Reconciliation
  shown: Shown
  deeds: BankDeeds
}

const FOLDS_FROM = 3

type Stretch = { fold: SpineRow[] } | { row: SpineRow }

const COLUMNS = 'grid grid-cols-[minmax(0,1fr)_92px_minmax(0,1fr)]'
const ROW_HEIGHT = 29
/** Room above and below what is gone to: for the heads, and to see what comes next. */
const ABOVE = 32
const BELOW = 128

/** The dates down the middle, the books left, the statement right; what agrees folds away. */
export function Spine({ state, shown, deeds }: SpineProps) {
  const [unfolded, setUnfolded] = useState<ReadonlySet<string>>(new Set())
  const [active, setActive] = useState<string | null>(null)
  const [picked, setPicked] = useState<Picked>({ entries: [], lines: [] })
  // The case that is open, and the row that it is open at.
  const [opened, openCase] = useState<{ point: string; at: string } | null>(null)
  const stretches = useMemo(
    () => folded(state.rows, shown, unfolded),
    [state.rows, shown, unfolded],
  )
  const rows = stretches.flatMap((stretch) => ('row' in stretch ? [stretch.row] : []))
  // What is settled leaves its name: then the next that is not takes the keys.
  const at = rows.findIndex((row) => keyOf(row) === active)
  const open = rows.findIndex((row) => row.kind !== 'agreed')
  const place = at >= 0 ? at : Math.max(open, 0)
  const current = rows[place]
  const frame = useRef<HTMLDivElement>(null)
  const sums = pickedSums(picked, state.rows)
  const locked = state.finished

  const placeOf = useMemo(
    () =>
      new Map(
        stretches.map((stretch, index) => ['row' in stretch ? keyOf(stretch.row) : '', index]),
      ),
    [stretches],
  )
  const kept = [current && keyOf(current), opened?.at].flatMap(
    (name) => placeOf.get(name ?? '') ?? [],
  )
  const virtual = useVirtualizer({
    count: stretches.length,
    getScrollElement: () => frame.current,
    estimateSize: () => ROW_HEIGHT,
    getItemKey: (index) => nameOf(stretches[index] as Stretch),
    // What is looked at and what is being put right stay, however far one scrolls away.
    rangeExtractor: (range: Range) =>
      [...new Set([...defaultRangeExtractor(range), ...kept])].sort((one, other) => one - other),
    overscan: 20,
    scrollPaddingStart: ABOVE,
    scrollPaddingEnd: BELOW,
  })
  const index = current && placeOf.get(keyOf(current))
  useEffect(() => {
    if (index !== undefined) virtual.scrollToIndex(index, { align: 'auto' })
  }, [index, virtual.scrollToIndex])

  // The line stays in view above its case, which is opened below it.
  const openedIndex = opened ? placeOf.get(opened.at) : undefined
  useEffect(() => {
    if (openedIndex !== undefined) virtual.scrollToIndex(openedIndex, { align: 'start' })
  }, [openedIndex, virtual.scrollToIndex])

  function go(next: number) {
    const row = rows[Math.max(0, Math.min(next, rows.length - 1))]
    if (row) setActive(keyOf(row))
  }
  function pick(kind: 'entries' | 'lines', id: string) {
    if (!locked) setPicked(togglePicked(picked, kind, id))
  }
  function agreePicked() {
    if (!sums.even) return
    deeds.agree([wantedOf(picked)])
    setPicked({ entries: [], lines: [] })
  }
  function settle(row: SpineRow | undefined) {
    if (!row || locked) return
    if (row.kind === 'proposed') deeds.agree([{ ...wantedOf(idsOf(row)), why: row.why.join('; ') }])
    else if (row.point) openCase({ point: row.point, at: keyOf(row) })
  }
  function pickAll(row: SpineRow | undefined) {
    if (!row || row.kind === 'agreed' || locked) return
    const ids = idsOf(row)
    let next = picked
    for (const id of ids.entries) next = togglePicked(next, 'entries', id)
    for (const id of ids.lines) next = togglePicked(next, 'lines', id)
    setPicked(next)
  }
  useKeys('Bank', [
    {
      keys: 'ArrowDown',
      does: 'next row',
      run: () => go(place + 1),
    },
    { keys: 'ArrowUp', does: 'row before', run: () => go(place - 1) },
    { keys: 'Enter', does: 'agree the row, or put it right', run: () => settle(current) },
    { keys: '1', does: 'agree the row, or put it right', run: () => settle(current) },
    { keys: 'x', does: 'pick the row, to agree with others', run: () => pickAll(current) },
    { keys: 'a', does: 'agree what is picked', run: agreePicked },
    {
      keys: 's',
      does: 'agree all that is sure',
      run: () => !locked && state.sure + state.likely > 0 && deeds.agreeSure(state.sure === 0),
    },
    {
      keys: 'Backspace',
      does: 'take the agreement apart',
      run: () => !locked && current?.group && deeds.apart([current.group]),
    },
    ...(opened ? [{ keys: 'Escape', does: 'close the case', run: () => openCase(null) }] : []),
  ])
  return (
    <>
      {/* biome-ignore lint/a11y/useSemanticElements: it scrolls, and is walked by keys */}
      <div
        ref={frame}
        role="group"
        aria-label="Books and statement: arrows move, Enter settles"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it is moved in by keys
        tabIndex={0}
        className="min-h-0 flex-1 scroll-pt-8 scroll-pb-32 overflow-auto border-b border-rule"
      >
        <div className={`sticky top-0 z-10 ${COLUMNS}`}>
          <Head left="Books" right="Amount" />
          <div className="border-b border-ink bg-paper pb-1 text-center text-[13px] font-semibold text-deep">
            Day
          </div>
          <Head left="Statement" right="Amount" />
        </div>
        <div className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map((item) => {
            const stretch = stretches[item.index] as Stretch
            return (
              <div
                key={item.key}
                ref={virtual.measureElement}
                data-index={item.index}
                className={`absolute inset-x-0 ${COLUMNS}`}
                style={{ top: item.start }}
              >
                {'fold' in stretch ? (
                  <Fold
                    rows={stretch.fold}
                    onOpen={() => {
                      setUnfolded(new Set([...unfolded, ...stretch.fold.map((row) => keyOf(row))]))
                      setActive(keyOf(stretch.fold[0] as SpineRow))
                    }}
                  />
                ) : (
                  <>
                    <Row
                      name={keyOf(stretch.row)}
                      row={stretch.row}
                      state={state}
                      picked={picked}
                      isActive={stretch.row === current}
                      onActive={() => setActive(keyOf(stretch.row))}
                      onPick={pick}
                      onSettle={() => settle(stretch.row)}
                      onApart={() => stretch.row.group && deeds.apart([stretch.row.group])}
                      onPoint={(point) => openCase({ point, at: keyOf(stretch.row) })}
                    />
                    {opened?.at === keyOf(stretch.row) && (
                      <InPlace key={opened.point} onClose={() => openCase(null)}>
                        <PointCase
                          point={opened.point}
                          onDone={() => openCase((now) => (now === opened ? null : now))}
                        />
                      </InPlace>
                    )}
                  </>
                )}
              </div>
            )
          })}
        </div>
        {rows.length === 0 && stretches.length === 0 && (
          <p className="p-6 text-quiet">
            {shown === 'all'
              ? 'The statement has no lines, and the books have no entries in its days.'
              : 'Nothing here: show all to see what is agreed.'}
          </p>
        )}
      </div>
      {(picked.entries.length > 0 || picked.lines.length > 0) && (
        <div className="flex items-center gap-4 bg-straw px-3 py-1.5 text-ink">
          <span>
            Picked: books {sums.books}, statement {sums.statement}
            {!sums.even && `, apart by ${sums.apart}`}
          </span>
          <Button look="post" hint="a" disabled={!sums.even || deeds.busy} onClick={agreePicked}>
            Agree them
          </Button>
          <Button look="bare" onClick={() => setPicked({ entries: [], lines: [] })}>
            Pick none
          </Button>
        </div>
      )}
    </>
  )
}

/** The case of a line, opened below it: both sides and the sum above stay in view. */
function InPlace({ onClose, children }: { onClose: () => void; children: ReactNode }) {
  return (
    <section
      aria-label="Put it right"
      className="relative col-span-3 min-h-[430px] border-b border-l-4 border-b-rule border-l-cork bg-paper px-5 pt-2"
    >
      <Button look="bare" className="absolute! top-0.5 right-5" hint="Esc" onClick={onClose}>
        Close
      </Button>
      {children}
    </section>
  )
}

function Head({ left, right }: { left: string; right: string }) {
  return (
    <div className="flex justify-between border-b border-ink bg-paper px-2.5 pb-1 text-[13px] font-semibold text-deep">
      <span>{left}</span>
      <span>{right}</span>
    </div>
  )
}

function Fold({ rows, onOpen }: { rows: SpineRow[]; onOpen: () => void }) {
  const first = rows[0]?.day ?? ''
  const last = rows.at(-1)?.day ?? ''
  const days =
    first === last ? shortDayWords(first) : `${shortDayWords(first)} to ${shortDayWords(last)}`
  return (
    <button
      type="button"
      className="col-span-3 border-b border-rule bg-moss-wash px-2.5 py-0.5 text-center text-[13px] text-moss hover:underline"
      onClick={onOpen}
    >
      ✓ {days} · {counted(rows.length, 'agreement')}
    </button>
  )
}

export function keyOf(row: SpineRow): string {
  return (
    row.group ??
    [...row.entries.map((entry) => entry.transaction), ...row.lines.map((line) => line.ref)].join(
      ' ',
    )
  )
}

function nameOf(stretch: Stretch): string {
  return 'row' in stretch ? keyOf(stretch.row) : `fold ${keyOf(stretch.fold[0] as SpineRow)}`
}

function idsOf(row: SpineRow): Picked {
  return {
    entries: row.entries.map((entry) => `${entry.transaction}\u0000${entry.line}`),
    lines: row.lines.map((line) => line.ref),
  }
}

/** Three agreed rows or more in a run fold into one line, until it is opened. */
function folded(rows: SpineRow[], shown: Shown, unfolded: ReadonlySet<string>): Stretch[] {
  const wanted = rows.filter((row) => {
    if (shown === 'all') return true
    if (shown === 'to settle') return row.kind !== 'agreed'
    return row.kind === 'entry'
  })
  const found: Stretch[] = []
  let run: SpineRow[] = []
  function end() {
    if (run.length >= FOLDS_FROM) found.push({ fold: run })
    else found.push(...run.map((row) => ({ row })))
    run = []
  }
  for (const row of wanted) {
    if (row.kind === 'agreed' && !unfolded.has(keyOf(row))) run.push(row)
    else {
      end()
      found.push({ row })
    }
  }
  end()
  return found
}
