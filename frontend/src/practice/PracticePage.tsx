import { useMutation, useQueryClient, useSuspenseQuery } from '@tanstack/react-query'
import type { JSX } from 'react'
import { Link, useParams } from 'react-router'
import { answered, api, type Schemas } from '../api/client'
import { PlainPage } from '../frame/PlainPage'
import { ProblemNote } from '../ui/ProblemNote'
import { ClientsList } from './ClientsList'
import { People } from './People'
import { practiceOptions } from './queries'
import { RecordList } from './RecordList'

const VIEWS = [
  ['', 'People'],
  ['clients', 'Clients'],
  ['rules', 'Rules'],
  ['record', 'Record'],
] as const

const VIEW: Record<string, JSX.Element> = {
  clients: <ClientsList />,
  rules: <Rules />,
  record: <RecordList />,
}

/** The practice: its people, what holds for everybody, and what was done besides posting. */
export function PracticePage() {
  const { view = '' } = useParams()
  const { data: practice } = useSuspenseQuery(practiceOptions)
  return (
    <PlainPage title={practice.name}>
      <nav aria-label="The practice" className="mb-4 flex gap-6">
        {VIEWS.map(([to, title]) => (
          <h1 key={to} className="text-[21px] leading-7">
            <Link
              to={`/practice${to && `/${to}`}`}
              aria-current={view === to ? 'page' : undefined}
              className={view === to ? 'font-semibold' : 'text-quiet hover:text-ink'}
            >
              {title}
            </Link>
          </h1>
        ))}
      </nav>
      {VIEW[view] ?? <People />}
    </PlainPage>
  )
}

/** Whether what is done is somewhere else too. */
function Copies({ copies }: { copies: Schemas['PracticeAnswer']['copies'] }) {
  const isLate = copies !== null && (copies.problem !== null || (copies.ago ?? 999) > 60)
  return (
    <div
      className={`border-l-4 bg-sheet px-3 py-2 ${isLate ? 'border-rust' : copies ? 'border-moss' : 'border-cork'}`}
    >
      {copies ? (
        <>
          <strong>Copies go to {copies.to}</strong>
          <span className="block text-quiet">
            {copies.ago === null ? 'never whole yet' : `whole ${copies.ago} seconds ago`},{' '}
            {copies.files} kept files
            {copies.problem && `: ${copies.problem}`}
          </span>
        </>
      ) : (
        <>
          <strong>No copy goes elsewhere as you work.</strong>
          <span className="block text-quiet">
            Start it with <code>--copy-to PLACE</code>, a folder on another machine’s disk or a
            bucket: a machine that burns down then costs about a second of work.
          </span>
        </>
      )}
    </div>
  )
}

function Rules() {
  const queries = useQueryClient()
  const { data: practice } = useSuspenseQuery(practiceOptions)
  const setting = useMutation({
    mutationFn: (rules: Schemas['RulesBody']) =>
      answered(api.PUT('/api/practice/rules', { body: rules })),
    onSuccess: () => queries.invalidateQueries(),
  })
  const { second_person, second_factor, token_needed, kept_years } = practice
  const now = { second_person, second_factor, token_needed, kept_years }
  return (
    <section aria-label="Rules" className="max-w-2xl space-y-3">
      <label className="flex items-baseline gap-3 border-b border-rule pb-2">
        <input
          type="checkbox"
          checked={now.second_person}
          disabled={setting.isPending}
          onChange={() => setting.mutate({ ...now, second_person: !now.second_person })}
        />
        <span>
          A second person signs: who posted in a trial balance does not sign it.
          <span className="block text-quiet">A practice of one switches it off.</span>
        </span>
      </label>
      <label className="flex items-baseline gap-3 border-b border-rule pb-2">
        <input
          type="checkbox"
          checked={now.second_factor}
          disabled={setting.isPending}
          onChange={() => setting.mutate({ ...now, second_factor: !now.second_factor })}
        />
        <span>
          Everybody needs a second factor.
          <span className="block text-quiet">
            Who has none sets theirs up before anything else opens.
          </span>
        </span>
      </label>
      <label className="flex items-baseline gap-3 border-b border-rule pb-2">
        <input
          type="checkbox"
          checked={now.token_needed}
          disabled={setting.isPending}
          onChange={() => setting.mutate({ ...now, token_needed: !now.token_needed })}
        />
        <span>
          The command line needs a token of a person.
          <span className="block text-quiet">
            Each makes theirs on Your account. Without it a command is done by whom it names, and
            goes on record as the machine’s.
          </span>
        </span>
      </label>
      <label className="flex items-baseline gap-3 border-b border-rule pb-2">
        <select
          aria-label="Years that a client is kept"
          className="border border-edge bg-sheet px-1 py-0.5"
          value={kept_years}
          disabled={setting.isPending}
          onChange={(event) => setting.mutate({ ...now, kept_years: Number(event.target.value) })}
        >
          {Array.from({ length: 50 }, (_, place) => place + 1).map((years) => (
            <option key={years}>{years}</option>
          ))}
        </select>
        <span>
          years a client that left is kept, after its last financial year.
          <span className="block text-quiet">
            Then a partner may remove it, on the list of clients.
          </span>
        </span>
      </label>
      <ProblemNote problem={setting.error} />
      <Copies copies={practice.copies} />
    </section>
  )
}
