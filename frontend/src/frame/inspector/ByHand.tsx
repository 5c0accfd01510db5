import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api } from '../../api/client'
import { AccountPicker, PartyPicker } from '../../ledger/AccountPicker'
import type { SlipFacts } from '../../ledger/Slip'
import { amountWords, dayWords } from '../../ledger/words'
import { Button } from '../../ui/Button'
import { TextField } from '../../ui/TextField'
import { DayField } from '../DayField'
import { OpenForThis } from '../OpenForThis'
import { PostPanel } from '../PostPanel'
import { chartOptions, useClient } from '../queries'
import { usePosting } from '../usePosting'
import { useSpan } from '../useSpan'
import { partyOptions } from './PartyHistory'

const TITLES: Record<string, string> = {
  allocate: 'Allocate it to what it settles',
  settle: 'Settle open items with it',
  void: 'Void it: post its exact opposite',
  'move-allocation': 'Set it against something else',
  'to-owner': "Move it to the owner's account",
  'write-off': 'Write it off: it will not be paid',
  offset: 'Set off what they owe against what is owed to them',
  refund: 'It came back: record the refund',
  'reverse-payment': 'Reverse it: it was stopped or lost',
  reclassify: 'Move it to another account',
  'amend-reference': 'Amend its reference or text',
}

/** The routes that settle open items, which are picked; the others need none. */
const SETTLES = ['allocate', 'settle', 'move-allocation']

interface ByHandProps {
  route: string
  slip: SlipFacts
  /** Its period, where it is barred and this person may have it opened for one posting. */
  openable: string[]
  onCancel: () => void
}

/** A route for what the person picked: the same preview and the same posting as for a point. */
export function ByHand({ route, slip, openable, onCancel }: ByHandProps) {
  const client = useClient()
  const [span] = useSpan()
  const ownParty = slip.lines.find((line) => line.party)?.party ?? slip.party ?? ''
  const [party, setParty] = useState(ownParty)
  const [sums, setSums] = useState<Record<string, string>>({})
  const [words, setWords] = useState<Words>({
    reference: slip.reference ?? '',
    memo: slip.memo ?? '',
  })
  const items = Object.entries(sums).map(([name, sum]) => (sum ? `${name}=${sum}` : name))
  const [chosen, choose] = useState<Record<string, string>>(() => FIRST[route]?.(span.last) ?? {})
  const amends = route === 'amend-reference'
  const settings = amends ? amendedWords(slip, words) : chosen
  const [opens, open] = useState(false)
  const act = { route, transaction: slip.id, items, settings }
  const body = { ...act, opens }
  const wantsItems = SETTLES.includes(route)
  const lacks = (route === 'reclassify' && !chosen.account) || chosen.date === ''
  const enough = lacks
    ? false
    : amends
      ? Object.keys(settings).length > 0
      : !wantsItems || items.length > 0
  const { data: preview, error } = useQuery({
    queryKey: ['client', client.code, 'by hand', body, span.last],
    queryFn: () =>
      answered(
        api.POST('/api/clients/{client}/by-hand/preview', {
          params: { path: { client: client.code } },
          body: { ...body, at: span.last },
        }),
      ),
    enabled: enough,
    retry: false,
  })
  const posting = usePosting({
    client: client.name,
    send: (asked: { reason: string; shown: string }, key) =>
      answered(
        api.POST('/api/clients/{client}/by-hand', {
          params: { path: { client: client.code } },
          body: { ...body, ...asked, key },
        }),
      ),
    handIn: (asked) => (preview?.held ? { act: { act: 'by-hand', ...act }, ...asked } : null),
    onDone: onCancel,
  })
  return (
    <section aria-label={TITLES[route]} className="border-t border-edge pt-3">
      <div className="mb-2 flex items-baseline justify-between">
        <h4 className="font-semibold">{TITLES[route]}</h4>
        <Button look="bare" onClick={onCancel}>
          Do nothing
        </Button>
      </div>
      <PostPanel
        label="Post"
        preview={enough ? preview : undefined}
        problem={error ?? posting.error}
        busy={posting.isPending}
        onPost={(reason) => preview && posting.mutate({ reason, shown: preview.digest })}
      >
        {!amends && <OpenForThis periods={openable} opens={opens} onChoose={open} />}
        {amends && <WordsFields words={words} onWords={setWords} />}
        {route === 'to-owner' && <OwnerFields settings={chosen} onChoose={choose} />}
        {route === 'reclassify' && <AccountField settings={chosen} onChoose={choose} />}
        {route === 'reverse-payment' && <StoppedOn settings={chosen} onChoose={choose} />}
        {route === 'write-off' && <WriteOffFields settings={chosen} onChoose={choose} />}
        {wantsItems && (
          <Items
            slip={slip}
            party={party}
            withSums={route === 'allocate'}
            sums={sums}
            onParty={(code) => {
              setParty(code)
              setSums({})
            }}
            onSums={setSums}
          />
        )}
      </PostPanel>
    </section>
  )
}

/** What a route begins with, where it has choices of its own. */
const FIRST: Record<string, (last: string) => Record<string, string>> = {
  'to-owner': () => ({ share: '100' }),
  'write-off': (last) => ({ relief: 'yes', date: last }),
  'reverse-payment': (last) => ({ date: last }),
}

interface ChoiceProps {
  settings: Record<string, string>
  onChoose: (settings: Record<string, string>) => void
}

/** The account that it belongs on. */
function AccountField({ settings, onChoose }: ChoiceProps) {
  const client = useClient()
  const [span] = useSpan()
  const { data: chart } = useQuery(chartOptions(client.code, span.last))
  return (
    <div>
      <span className="block text-quiet">Where it belongs</span>
      <div className="max-w-96 border border-edge bg-sheet">
        <AccountPicker
          label="The account that it belongs on"
          value={settings.account ?? ''}
          options={chart?.accounts ?? []}
          onPick={(account) => onChoose({ ...settings, account })}
        />
      </div>
    </div>
  )
}

/** The day that it was stopped or came back. */
function StoppedOn({ settings, onChoose }: ChoiceProps) {
  return (
    <DayField
      className="w-56"
      label="Stopped, or come back, on"
      value={settings.date ?? ''}
      onDay={(date) => onChoose({ ...settings, date })}
    />
  )
}

const OWNERS = /^(drawings|capital|capital-introduced|partner-current|owner-loan|member-payable)$/

function OwnerFields({ settings, onChoose }: ChoiceProps) {
  const client = useClient()
  const [span] = useSpan()
  const { data: chart } = useQuery(chartOptions(client.code, span.last))
  const accounts = (chart?.accounts ?? []).filter((account) => OWNERS.test(account.role))
  return (
    <div className="grid grid-cols-[160px_1fr] gap-3">
      <TextField
        label="Private share, in percent"
        autoFocus
        inputMode="decimal"
        value={settings.share ?? ''}
        onChange={(event) => onChoose({ ...settings, share: event.target.value })}
      />
      <label>
        <span className="block text-quiet">To the account</span>
        <select
          className="w-full border border-edge bg-sheet px-2 py-1.5"
          value={settings.account ?? ''}
          onChange={(event) => onChoose({ ...settings, account: event.target.value })}
        >
          <option value="">that the kind of client names</option>
          {accounts.map((account) => (
            <option key={account.code} value={account.code}>
              {account.code} {account.name}
            </option>
          ))}
        </select>
      </label>
    </div>
  )
}

function WriteOffFields({ settings, onChoose }: ChoiceProps) {
  return (
    <div className="grid grid-cols-[160px_1fr] gap-3">
      <DayField
        label="Decided on"
        value={settings.date ?? ''}
        onDay={(date) => onChoose({ ...settings, date })}
      />
      <label>
        <span className="block text-quiet">Tax in it</span>
        <select
          className="w-full border border-edge bg-sheet px-2 py-1.5"
          value={settings.relief ?? 'yes'}
          onChange={(event) => onChoose({ ...settings, relief: event.target.value })}
        >
          <option value="yes">comes back: relief is allowed</option>
          <option value="no">stays a cost</option>
        </select>
      </label>
    </div>
  )
}

interface Words {
  reference: string
  memo: string
}

/** Only what differs from what stands: the other words stay as they are. */
function amendedWords(slip: SlipFacts, words: Words): Partial<Words> {
  return {
    ...(words.reference.trim() !== (slip.reference ?? '') && { reference: words.reference }),
    ...(words.memo.trim() !== (slip.memo ?? '') && { memo: words.memo }),
  }
}

function WordsFields({ words, onWords }: { words: Words; onWords: (words: Words) => void }) {
  return (
    <div className="grid grid-cols-[160px_1fr] gap-3">
      <TextField
        label="Reference"
        autoFocus
        value={words.reference}
        onChange={(event) => onWords({ ...words, reference: event.target.value })}
      />
      <TextField
        label="Text"
        value={words.memo}
        onChange={(event) => onWords({ ...words, memo: event.target.value })}
      />
    </div>
  )
}

interface ItemsProps {
  slip: SlipFacts
  party: string
  withSums: boolean
  sums: Record<string, string>
  onParty: (code: string) => void
  onSums: (sums: Record<string, string>) => void
}

/** The open items of a party, to be chosen; a sum may be given for a part of one. */
function Items({ slip, party, withSums, sums, onParty, onSums }: ItemsProps) {
  const client = useClient()
  const [span] = useSpan()
  const { data: chart } = useQuery(chartOptions(client.code, span.last))
  const { data } = useQuery({
    ...partyOptions(client.code, party, span.first, span.last),
    enabled: party !== '',
  })
  const own = data?.items.find((item) => item.transaction === slip.id)
  const others = (data?.items ?? []).filter(
    (item) =>
      item.transaction !== slip.id &&
      (!own || item.open.startsWith('-') !== own.open.startsWith('-')),
  )
  return (
    <div>
      {!withSums && (
        <div className="mb-2 flex items-center gap-2">
          <span className="text-quiet">Whose items</span>
          <div className="w-80 border border-edge bg-sheet">
            <PartyPicker
              label="Party whose items it settles"
              value={party}
              options={chart?.parties ?? []}
              onPick={onParty}
            />
          </div>
        </div>
      )}
      {party !== '' && data && others.length === 0 && (
        <p className="text-quiet">{data.ledger.name} has nothing open that it could settle.</p>
      )}
      {others.map((item) => {
        const name = item.transaction
        const chosen = name in sums
        return (
          <div key={name} className="flex h-8 items-center gap-3 border-b border-rule">
            <label className="flex grow items-center gap-2">
              <input
                type="checkbox"
                checked={chosen}
                onChange={() => {
                  const { [name]: _, ...rest } = sums
                  onSums(chosen ? rest : { ...sums, [name]: '' })
                }}
              />
              {item.reference ?? name}, {dayWords(item.date)}
            </label>
            <span>{amountWords(item.open.replace('-', ''))} open</span>
            {withSums && (
              <input
                aria-label={`Part of ${item.reference ?? name} to allocate`}
                className="w-28 border border-edge bg-sheet px-2 py-0.5 text-right"
                placeholder="all of it"
                disabled={!chosen}
                value={sums[name] ?? ''}
                onChange={(event) => onSums({ ...sums, [name]: event.target.value })}
              />
            )}
          </div>
        )
      })}
    </div>
  )
}
