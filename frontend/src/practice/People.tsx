import { useMutation, useQueryClient, useSuspenseQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api, type Schemas } from '../api/client'
import { counted, dayWords } from '../ledger/words'
import { Button } from '../ui/Button'
import { useKeys } from '../ui/keys'
import { ProblemNote } from '../ui/ProblemNote'
import { TextField } from '../ui/TextField'
import { Invitation } from './Invitation'
import { Member as MemberForm } from './Member'
import { type Member, practiceOptions } from './queries'

const HEAD = 'border-b border-ink py-1 pr-4 text-left font-semibold text-deep'

/** Everybody who works here, and who did. */
export function People() {
  const { data: practice } = useSuspenseQuery(practiceOptions)
  const [chosen, choose] = useState<string | null>(null)
  const [joins, join] = useState(false)
  useKeys('The practice', [{ keys: 'n', does: 'somebody joins', run: () => join(true) }])
  const here = practice.staff.filter((member) => !member.left_on)
  const gone = practice.staff.filter((member) => member.left_on)
  return (
    <div className="max-w-5xl space-y-6">
      <table className="w-full border-collapse">
        <caption className="sr-only">People</caption>
        <thead>
          <tr>
            {['Code', 'Name', 'Role', 'Clients', 'Waits for approval', 'Comes in', ''].map(
              (head) => (
                <th key={head} scope="col" className={HEAD}>
                  {head || <span className="sr-only">What can be done</span>}
                </th>
              ),
            )}
          </tr>
        </thead>
        <tbody>
          {here.map((member) => (
            <tr key={member.code} className="border-b border-rule align-baseline">
              <th scope="row" className="py-1.5 pr-4 text-left font-semibold">
                {member.code}
              </th>
              <td className="pr-4">{member.name}</td>
              <td className="pr-4">{member.role}</td>
              <td className="pr-4">
                {member.role === 'partner'
                  ? 'all'
                  : member.clients.join(', ') || <span className="text-quiet">none</span>}
              </td>
              <td className="pr-4">{waitsWords(member)}</td>
              <td className="pr-4">{comesIn(member)}</td>
              <td className="text-right">
                <Button
                  look="bare"
                  className="py-0!"
                  aria-label={`Change ${member.name}`}
                  onClick={() => choose(member.code)}
                >
                  change
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {gone.length > 0 && (
        <p className="text-quiet">
          Left:{' '}
          {gone.map((member) => `${member.name}, ${dayWords(member.left_on ?? '')}`).join('; ')}.
          Their names stay where they worked.
        </p>
      )}
      {joins ? (
        <Join onDone={() => join(false)} />
      ) : (
        <Button hint="n" onClick={() => join(true)}>
          Somebody joins
        </Button>
      )}
      {here
        .filter((member) => member.code === chosen)
        .map((member) => (
          <MemberForm
            key={member.code}
            member={member}
            others={here.filter((other) => other.code !== member.code)}
            onClose={() => choose(null)}
          />
        ))}
    </div>
  )
}

function waitsWords(member: Member): string {
  const parts = []
  if (member.journals) parts.push('every entry')
  if (member.above !== null) parts.push(`above ${member.above} a day`)
  return parts.join(', ') || 'nothing'
}

function comesIn(member: Member): string {
  if (!member.can_sign_in) return 'invited, not yet in'
  const factor = member.has_factor ? 'with a second factor' : 'by password alone'
  return member.sessions > 0 ? `${factor}, ${counted(member.sessions, 'session')}` : factor
}

function Join({ onDone }: { onDone: () => void }) {
  const queries = useQueryClient()
  const [code, setCode] = useState('')
  const [name, setName] = useState('')
  const [role, setRole] = useState<Schemas['Role']>('preparer')
  const joining = useMutation({
    mutationFn: () => answered(api.POST('/api/practice/staff', { body: { code, name, role } })),
    onSuccess: () => queries.invalidateQueries(),
  })
  if (joining.data)
    return (
      <div className="space-y-2">
        <Invitation path={joining.data.path} name={name} />
        <Button onClick={onDone}>Done</Button>
      </div>
    )
  return (
    <form
      aria-label="Somebody joins"
      className="flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault()
        joining.mutate()
      }}
    >
      <TextField
        className="w-24"
        label="Code"
        autoFocus
        value={code}
        onChange={(event) => setCode(event.target.value.toUpperCase())}
      />
      <TextField
        className="w-64"
        label="Name"
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <label>
        <span className="block text-quiet">Role</span>
        <select
          className="border border-edge bg-sheet px-2 py-1.5"
          value={role}
          onChange={(event) => setRole(event.target.value as Schemas['Role'])}
        >
          {['preparer', 'reviewer', 'partner'].map((known) => (
            <option key={known}>{known}</option>
          ))}
        </select>
      </label>
      <Button look="post" type="submit" disabled={!code || !name || joining.isPending}>
        Invite them
      </Button>
      <Button look="bare" onClick={onDone}>
        Cancel
      </Button>
      <ProblemNote problem={joining.error} className="w-full" />
    </form>
  )
}
