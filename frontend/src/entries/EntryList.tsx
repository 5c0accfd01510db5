import { useQuery, useSuspenseQuery } from '@tanstack/react-query'
import { proposalsOptions } from '../frame/approvals'
import { useClient } from '../frame/queries'
import { useSpan } from '../frame/useSpan'
import { amountWords, counted, longDayWords, shortDayWords } from '../ledger/words'
import { Button } from '../ui/Button'
import { useFirstRow } from '../ui/focus'
import { moveInRows } from '../ui/rows'
import {
  bookkeeperOptions,
  type Draft,
  draftsOptions,
  type PostingRow,
  postingsOptions,
} from './queries'
import { recipesOptions } from './recipes/queries'

interface EntryListProps {
  open: string
  onOpen: (name: string) => void
}

/** Drafts first, then what the practice posted in the year, the latest first. */
export function EntryList({ open, onOpen }: EntryListProps) {
  const client = useClient()
  const list = useFirstRow<HTMLUListElement>()
  const [span] = useSpan()
  const first = client.year.first_day
  const last = span.isDefault ? client.year.last_day : span.last
  const { data } = useSuspenseQuery(postingsOptions(client.code, { ours: true, first, last }))
  const { data: kept } = useSuspenseQuery(draftsOptions(client.code))
  const { data: handed } = useQuery(proposalsOptions(client.code))
  // What came back is listed above with its remark.
  const back = handed?.proposals.map((proposal) => proposal.draft)
  const drafts = kept.drafts.filter((draft) => !back?.includes(draft.id))
  return (
    <section aria-label="Entries" className="flex min-h-0 flex-col border-r border-edge pt-2.5">
      <div className="flex items-baseline gap-3.5 px-5 pb-2">
        <span className="font-semibold">{counted(data.count, 'entry', 'entries')}</span>
        <span className="text-quiet">{counted(drafts.length, 'draft')}</span>
        <button
          type="button"
          className="ml-auto text-tide hover:underline"
          onClick={() => onOpen('all')}
        >
          all postings
        </button>
      </div>
      <div className="px-5 pb-2.5">
        <Button
          look={open === 'new' ? 'plain' : 'post'}
          className="w-full"
          hint="n"
          onClick={() => onOpen('new')}
        >
          New entry
        </Button>
        <Leads open={open} onOpen={onOpen} />
        <ForBookkeeper isOpen={open === 'bookkeeper'} onOpen={() => onOpen('bookkeeper')} />
      </div>
      <ul ref={list} className="min-h-0 flex-1 overflow-auto pb-4" onKeyDown={moveInRows}>
        <Proposals open={open} onOpen={onOpen} />
        {drafts.map((draft) => (
          <DraftRow key={draft.id} draft={draft} open={open} onOpen={onOpen} />
        ))}
        {data.rows.map((row) => (
          <EntryRow key={row.id} row={row} open={open} onOpen={onOpen} />
        ))}
        {data.rows.length === 0 && (
          <li className="px-5 py-3 text-quiet">
            Nothing of ours is posted from {longDayWords(first)} on. Corrections from Review and
            entries written here will stand in this list.
          </li>
        )}
      </ul>
    </section>
  )
}

/** To the recipes, with what is due of schedules, the register of fixed assets and the rates. */
function Leads({ open, onOpen }: EntryListProps) {
  const client = useClient()
  const [span] = useSpan()
  const { data } = useQuery(recipesOptions(client.code, span.last))
  const due = data?.due.length ?? 0
  const leads = [
    {
      name: 'recipes',
      says: 'Recipes',
      aside: due > 0 ? `${counted(due, 'step')} due` : '',
      key: 'r',
    },
    { name: 'assets', says: 'Fixed assets', aside: '', key: 'f' },
    { name: 'tax', says: 'Tax return', aside: '', key: '' },
    { name: 'rates', says: 'Exchange rates', aside: '', key: '' },
  ]
  return leads.map((lead) => (
    <button
      key={lead.name}
      type="button"
      aria-current={open === lead.name || undefined}
      className={`mt-1.5 flex w-full items-baseline gap-2 text-left ${open === lead.name ? 'font-semibold text-ink' : 'text-tide hover:underline'}`}
      onClick={() => onOpen(lead.name)}
    >
      {lead.says}
      <span className="grow font-normal text-quiet">{lead.aside}</span>
      <kbd className="text-[13px] text-quiet">{lead.key}</kbd>
    </button>
  ))
}

/** How much the bookkeeper was not told yet; opens it. */
function ForBookkeeper({ isOpen, onOpen }: { isOpen: boolean; onOpen: () => void }) {
  const client = useClient()
  const { data } = useQuery(bookkeeperOptions(client.code, false))
  const count = data?.changes.length ?? 0
  return (
    <button
      type="button"
      aria-current={isOpen || undefined}
      className={`mt-1.5 flex w-full items-baseline gap-2 py-1 text-left ${isOpen ? 'font-semibold text-ink' : 'text-tide hover:underline'}`}
      onClick={onOpen}
    >
      For the bookkeeper
      <span className="grow font-normal text-quiet">
        {data && (count > 0 ? `${count} not told yet` : 'all told')}
      </span>
      <kbd className="text-[13px] text-quiet">b</kbd>
    </button>
  )
}

const ROW =
  'grid w-full grid-cols-[62px_1fr_auto] gap-1 border-t border-rule px-5 py-1.5 text-left leading-[18px]'
const SELECTED = 'bg-sheet shadow-[inset_4px_0_0_var(--cork)]'

/** What waits for approval, and what came back to this person with a remark. */
function Proposals({ open, onOpen }: EntryListProps) {
  const client = useClient()
  const { data } = useQuery(proposalsOptions(client.code))
  return (data?.proposals ?? []).map((proposal) => {
    const name = proposal.draft ? `draft-${proposal.draft}` : `proposal-${proposal.number}`
    return (
      <li key={proposal.number}>
        <button
          type="button"
          data-row
          aria-current={open === name || undefined}
          className={`${ROW} ${open === name ? SELECTED : 'hover:bg-wash'}`}
          onClick={() => onOpen(name)}
        >
          <strong
            className={`font-semibold ${proposal.state === 'waiting' ? 'text-tide' : 'text-rust'}`}
          >
            {proposal.state === 'waiting' ? 'waits' : 'back'}
          </strong>
          <span className="col-span-2 min-w-0">
            <span className="block truncate">{proposal.reason}</span>
            <span className="block text-[13px] text-quiet">
              {proposal.state === 'waiting'
                ? `for approval, by ${proposal.by}, ${shortDayWords(proposal.at)} ${proposal.at.slice(11, 16)}`
                : `${proposal.back_from}: ${proposal.remark}`}
            </span>
          </span>
        </button>
      </li>
    )
  })
}

function DraftRow({ draft, open, onOpen }: EntryListProps & { draft: Draft }) {
  const name = `draft-${draft.id}`
  const reason = typeof draft.content.reason === 'string' ? draft.content.reason : ''
  return (
    <li>
      <button
        type="button"
        data-row
        aria-current={open === name || undefined}
        className={`${ROW} ${open === name ? SELECTED : 'hover:bg-wash'}`}
        onClick={() => onOpen(name)}
      >
        <strong className="font-semibold text-deep">draft</strong>
        <span className="col-span-2 min-w-0">
          <span className="block truncate">{reason || 'no reason yet'}</span>
          <span className="block text-[13px] text-quiet">
            kept by {draft.made_by}, {shortDayWords(draft.made_at)} {draft.made_at.slice(11, 16)}
          </span>
        </span>
      </button>
    </li>
  )
}

function EntryRow({ row, open, onOpen }: EntryListProps & { row: PostingRow }) {
  return (
    <li>
      <button
        type="button"
        data-row
        aria-current={open === row.id || undefined}
        className={`${ROW} ${open === row.id ? SELECTED : 'hover:bg-wash'}`}
        onClick={() => onOpen(row.id)}
      >
        <span className="text-quiet" title={row.id}>
          {row.id.replace(/-\d{4}-/, '-')}
        </span>
        <span className="min-w-0">
          <span className={`block truncate ${row.taken_back ? 'line-through' : ''}`}>
            {row.reason ?? row.memo}
          </span>
          <span className="block text-[13px] text-quiet">
            {row.entry_kind} · {shortDayWords(row.date)} · {row.by}
            {row.reverses_on && ` · reverses ${shortDayWords(row.reverses_on)}`}
            {row.taken_back && ' · taken back'}
          </span>
        </span>
        <span>{amountWords(row.total)}</span>
      </button>
    </li>
  )
}
