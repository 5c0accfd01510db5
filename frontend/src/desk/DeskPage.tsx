import { useSuspenseQuery } from '@tanstack/react-query'
import { Suspense, useEffect, useState } from 'react'
import { useNavigate } from 'react-router'
import type { Schemas } from '../api/client'
import { deskOptions } from '../frame/queries'
import { sessionOptions, usePerson } from '../frame/session'
import { THE_WORK, TopBar } from '../frame/TopBar'
import { hand, isListing } from '../frame/taking/handed'
import { TakeInBooks } from '../frame/taking/TakeInBooks'
import { counted, longDayWords } from '../ledger/words'
import { Button } from '../ui/Button'
import { leaveFilter } from '../ui/focus'
import { useKeys } from '../ui/keys'
import { useKept } from '../ui/useKept'
import { Waiting } from '../ui/Waiting'
import { AskBank } from './AskBank'
import { Assign } from './Assign'
import { ClientBands } from './ClientBands'
import { DueChart } from './DueChart'
import { fits, type Order, ordered } from './ordering'
import { RunChecks } from './RunChecks'
import { RunRecipe } from './RunRecipe'

type Row = Schemas['ClientRow']

export function DeskPage() {
  const { data: session } = useSuspenseQuery(sessionOptions)
  useEffect(() => {
    document.title = 'Desk · Cork Post'
  }, [])
  return (
    <div className="flex h-full min-h-[600px] min-w-[1024px] flex-col">
      <div className="border-b-3 border-edge [border-bottom-style:double]">
        <TopBar>
          <p className="mr-auto border-l border-edge pl-5">
            <strong className="font-display text-[17px] font-semibold">{session.practice}</strong>
            <span className="ml-2 text-[13px] text-quiet">{longDayWords(session.today)}</span>
            {session.is_demo && (
              <span className="ml-3 border border-cork px-1.5 text-[12px] text-deep">
                made-up books
              </span>
            )}
          </p>
        </TopBar>
      </div>
      <Suspense fallback={<Waiting what="Looking through the clients" />}>
        <Desk />
      </Suspense>
    </div>
  )
}

function Desk() {
  const { data: desk } = useSuspenseQuery(deskOptions)
  const person = usePerson()
  const navigate = useNavigate()
  const [text, setText] = useState('')
  const [mine, setMine] = useState(false)
  const [active, setActive] = useState(0)
  const [takingIn, setTakingIn] = useState<File | 'choose' | null>(null)
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set())
  const [doing, doNow] = useState<'statements' | 'checks' | 'assign' | 'recipe' | null>(null)
  const [staff, setStaff] = useState('')
  const [stage, setStage] = useState('')
  const [order, setOrder] = useKept<Order>('desk order', 'due')
  const wanted = { text, staff, stage, move: mine ? moveOf(person.role) : null }
  const rows = ordered(
    desk.rows.filter((row) => fits(row, wanted)),
    order,
  )
  const everybody = [...new Set(desk.rows.flatMap((row) => row.staff))].sort()
  const some = chosen.size > 0 ? [...chosen] : rows.map((row) => row.code)
  const ofSome = chosen.size > 0 ? ` of ${counted(chosen.size, 'client')}` : ''
  const mayAssign = desk.assignable.length > 0

  function choose(code: string) {
    const next = new Set(chosen)
    if (!next.delete(code)) next.add(code)
    setChosen(next)
  }
  function open(row: Row | undefined) {
    if (row) navigate(row.carry_on ?? `/clients/${row.code}/review`)
  }
  useKeys('Desk', [
    {
      keys: 'ArrowDown',
      does: 'next client',
      run: () => setActive(Math.min(active + 1, rows.length - 1)),
    },
    { keys: 'ArrowUp', does: 'client before', run: () => setActive(Math.max(active - 1, 0)) },
    { keys: 'Enter', does: 'carry on with the client', run: () => open(rows[active]) },
    {
      keys: 'x',
      does: 'choose the client',
      run: () => rows[active] && choose(rows[active].code),
    },
    {
      keys: 'b',
      does: 'ask the bank for statements',
      run: () => desk.asks_bank && doNow('statements'),
    },
    { keys: 'c', does: 'run the checks', run: () => rows.length > 0 && doNow('checks') },
    ...(mayAssign
      ? [{ keys: 'a', does: 'assign the chosen', run: () => chosen.size > 0 && doNow('assign') }]
      : []),
    { keys: 'r', does: 'a recipe for the chosen', run: () => chosen.size > 0 && doNow('recipe') },
    { keys: 't', does: 'take in books', run: () => setTakingIn('choose') },
  ])

  return (
    <main
      id={THE_WORK}
      tabIndex={-1}
      className="min-h-0 flex-1 overflow-auto px-5 pb-10 outline-none"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault()
        const files = [...event.dataTransfer.files]
        const [file] = files
        if (file && files.every(isListing)) {
          hand(files)
          navigate('/take-in')
        } else if (file) setTakingIn(file)
      }}
    >
      <div className="flex items-end justify-between pt-2">
        <div>
          <h1 className="text-[21px] leading-7 font-semibold">What is next</h1>
          <p className="text-quiet">{inWords(desk.rows)}</p>
          <div className="mt-2.5 flex items-center gap-2">
            <Button onClick={() => setTakingIn('choose')} hint="t">
              Take in books
            </Button>
            {desk.asks_bank && (
              <Button onClick={() => doNow('statements')} hint="b">
                Take in statements{ofSome}
              </Button>
            )}
            {rows.length > 0 && (
              <Button onClick={() => doNow('checks')} hint="c">
                Run checks{ofSome}
              </Button>
            )}
            {chosen.size > 0 && (
              <Button onClick={() => doNow('recipe')} hint="r">
                Recipe{ofSome}
              </Button>
            )}
            {mayAssign && chosen.size > 0 && (
              <Button onClick={() => doNow('assign')} hint="a">
                Assign
              </Button>
            )}
          </div>
          <div className="mt-2 flex items-center gap-2">
            <input
              aria-label="Filter the clients"
              onKeyDown={leaveFilter}
              placeholder="Filter by name, code or staff"
              className="w-56 border border-edge bg-sheet px-2.5 py-1.5"
              value={text}
              onChange={(event) => {
                setText(event.target.value)
                setActive(0)
              }}
            />
            <Choice
              label="Only of"
              value={staff}
              all="everybody’s"
              options={everybody.map((name) => [name, name])}
              onChoose={setStaff}
            />
            <Choice
              label="Only at"
              value={stage}
              all="every stage"
              options={STAGES}
              onChoose={setStage}
            />
            <label className="ml-2 flex items-center gap-1.5 text-quiet">
              <input type="checkbox" checked={mine} onChange={() => setMine(!mine)} />
              only my move
            </label>
          </div>
        </div>
        {desk.rows.length > 0 && <DueChart weeks={desk.weeks} finished={desk.finished} />}
      </div>
      {desk.rows.length === 0 ? (
        <NoClients onTakeIn={() => setTakingIn('choose')} />
      ) : (
        <ClientBands
          rows={rows}
          active={rows[active]?.code}
          order={order}
          onOrder={setOrder}
          chosen={chosen}
          onOpen={open}
          onChoose={choose}
        />
      )}
      {desk.rows.length > 0 && rows.length === 0 && (
        <p className="py-6 text-quiet">No client fits. Take something out of the filter.</p>
      )}
      {doing === 'statements' && <AskBank clients={some} onClose={() => doNow(null)} />}
      {doing === 'checks' && <RunChecks clients={some} onClose={() => doNow(null)} />}
      {doing === 'recipe' && <RunRecipe clients={[...chosen]} onClose={() => doNow(null)} />}
      {doing === 'assign' && (
        <Assign clients={[...chosen]} staff={desk.assignable} onClose={() => doNow(null)} />
      )}
      {takingIn && (
        <TakeInBooks
          first={takingIn === 'choose' ? null : takingIn}
          onClose={() => setTakingIn(null)}
        />
      )}
    </main>
  )
}

/** The steps of the path, by what is to be done there. */
const STAGES: [string, string][] = [
  ['books', 'books to be taken in'],
  ['bank', 'bank to be agreed'],
  ['review', 'points to be decided'],
  ['tie-outs', 'to be proved'],
  ['sign-off', 'to be signed off'],
  ['signed', 'signed off'],
]

interface ChoiceProps {
  label: string
  value: string
  all: string
  options: [string, string][]
  onChoose: (value: string) => void
}

function Choice({ label, value, all, options, onChoose }: ChoiceProps) {
  return (
    <select
      aria-label={label}
      className={`max-w-44 bg-transparent py-1 ${value ? 'font-semibold' : 'text-quiet'}`}
      value={value}
      onChange={(event) => onChoose(event.target.value)}
    >
      <option value="">{all}</option>
      {options.map(([code, says]) => (
        <option key={code} value={code}>
          {says}
        </option>
      ))}
    </select>
  )
}

/** Preparers move what is ours to move; reviewers and partners what waits for review. */
function moveOf(role: string): string {
  return role === 'preparer' ? 'us' : 'reviewer'
}

function inWords(rows: Row[]): string {
  const ours = rows.filter((row) => row.move === 'us').length
  const clients = rows.filter((row) => row.move === 'client').length
  const reviewers = rows.filter((row) => row.move === 'reviewer').length
  const broken = rows.filter((row) => row.seal === 'broken').length
  const counting = rows.filter((row) => !row.current).length
  return [
    counted(rows.length, 'client'),
    ours > 0 && `${ours} ours to move`,
    clients > 0 && `${clients} waiting for a client`,
    reviewers > 0 && `${reviewers} for a reviewer`,
    broken > 0 && counted(broken, 'seal broken', 'seals broken'),
    counting > 0 && `${counting} being counted`,
  ]
    .filter(Boolean)
    .join(' · ')
}

function NoClients({ onTakeIn }: { onTakeIn: () => void }) {
  return (
    <div className="mt-10 max-w-xl space-y-3">
      <h2 className="text-lg font-semibold">No clients yet</h2>
      <p>
        Here would be one row for each client that you see, the soonest deadline first. Take in a
        books folder, as a .zip: drop it on this page, or choose it.
      </p>
      <Button look="post" onClick={onTakeIn}>
        Take in books
      </Button>
    </div>
  )
}
