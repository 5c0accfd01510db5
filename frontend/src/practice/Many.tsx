import type { UseMutationResult } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import type { Schemas } from '../api/client'
import { counted } from '../ledger/words'
import { Button } from '../ui/Button'
import { ProblemNote } from '../ui/ProblemNote'
import { TextField } from '../ui/TextField'
import { Archiving } from './Archived'
import type { AskedOfMany } from './queries'

const STATES = [
  ['held', 'held: reviewers and partners post'],
  ['barred', 'barred: nobody posts'],
  ['open', 'open'],
] as const

interface ManyProps {
  asks: Schemas['AskAnswer'][]
  chosen: Schemas['ClientStandingAnswer'][]
  setting: UseMutationResult<unknown, Error, AskedOfMany>
}

/** What is set for the clients that are chosen: months to a day, or limits and the letter. */
export function Many({ asks, chosen, setting }: ManyProps) {
  const count = chosen.length
  const [only] = count === 1 ? chosen : []
  return (
    <section aria-label="For those chosen" className="sticky top-4 space-y-4">
      <h2 className="border-b border-ink pb-1 font-semibold">
        {count ? `For ${counted(count, 'client')}` : 'Choose clients, then set what holds for them'}
      </h2>
      <States isReady={count > 0} setting={setting} />
      <Limits asks={asks} isReady={count > 0} setting={setting} />
      <ProblemNote problem={setting.error} />
      {only && <Archiving key={only.code} client={only.code} name={only.name} />}
    </section>
  )
}

interface FormProps {
  isReady: boolean
  setting: ManyProps['setting']
}

function States({ isReady, setting }: FormProps) {
  const [through, setThrough] = useState('')
  const [state, setState] = useState<(typeof STATES)[number][0]>('held')
  const [reason, setReason] = useState('')
  const submit = (event: FormEvent) => {
    event.preventDefault()
    setting.mutate({ kind: 'states', through, state, reason })
  }
  return (
    <form onSubmit={submit} className="space-y-3">
      <TextField
        label="Months to"
        placeholder="31.12, pe, ye"
        hint="each client’s own month or year, unless you key a day"
        value={through}
        onChange={(event) => setThrough(event.target.value)}
      />
      <label className="block">
        <span className="block text-quiet">are</span>
        <select
          className="w-full border border-edge bg-sheet px-2 py-1.5"
          value={state}
          onChange={(event) => setState(event.target.value as typeof state)}
        >
          {STATES.map(([value, says]) => (
            <option key={value} value={value}>
              {says}
            </option>
          ))}
        </select>
      </label>
      <TextField
        label="Reason, kept with each month"
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      <Button
        type="submit"
        disabled={!(isReady && through.trim() && reason.trim()) || setting.isPending}
      >
        Set the months
      </Button>
    </form>
  )
}

function Limits({ asks, isReady, setting }: FormProps & { asks: ManyProps['asks'] }) {
  const [said, say] = useState<Record<string, string>>({})
  const [reason, setReason] = useState('')
  const facts = Object.fromEntries(Object.entries(said).filter(([, value]) => value.trim()))
  const submit = (event: FormEvent) => {
    event.preventDefault()
    setting.mutate({ kind: 'facts', facts, reason })
  }
  const set = (name: string, value: string) => say({ ...said, [name]: value })
  return (
    <form onSubmit={submit} className="space-y-3 border-t border-rule pt-3">
      <div className="grid grid-cols-2 gap-3">
        {asks.map((ask) =>
          ask.kind === 'choice' ? (
            <label key={ask.name} className="col-span-2 block">
              <span className="block text-quiet">{ask.label}</span>
              <select
                className="w-full border border-edge bg-sheet px-2 py-1.5"
                value={said[ask.name] ?? ''}
                onChange={(event) => set(ask.name, event.target.value)}
              >
                <option value="">as it is</option>
                {ask.choices.map((choice) => (
                  <option key={choice.value} value={choice.value}>
                    {choice.says}
                  </option>
                ))}
              </select>
            </label>
          ) : (
            <TextField
              key={ask.name}
              label={ask.label}
              placeholder="as it is"
              inputMode={ask.kind === 'amount' ? 'decimal' : undefined}
              value={said[ask.name] ?? ''}
              onChange={(event) => set(ask.name, event.target.value)}
            />
          ),
        )}
      </div>
      <TextField
        label="Reason, kept with each client"
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      <Button
        type="submit"
        disabled={!(isReady && reason.trim() && Object.keys(facts).length > 0) || setting.isPending}
      >
        Set limits and letter
      </Button>
    </form>
  )
}
