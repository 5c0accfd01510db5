import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api, type Schemas } from '../api/client'
import { Button } from '../ui/Button'
import { Dialog } from '../ui/Dialog'
import { ProblemNote } from '../ui/ProblemNote'
import { TextField } from '../ui/TextField'
import { Invitation } from './Invitation'
import type { Member as Row } from './queries'

interface MemberProps {
  member: Row
  /** Who may take the work over. */
  others: Row[]
  onClose: () => void
}

/** One person: role, what of theirs waits, how they come in, and leaving. */
export function Member({ member, others, onClose }: MemberProps) {
  const queries = useQueryClient()
  const { code } = member
  const path = { path: { code } }
  const [role, setRole] = useState(member.role)
  const [journals, setJournals] = useState(member.journals)
  const [above, setAbove] = useState(member.above === null ? '' : `${member.above}`)
  const onSuccess = () => queries.invalidateQueries()
  const changing = useMutation({
    mutationFn: () =>
      answered(
        api.PUT('/api/practice/staff/{code}', {
          params: path,
          body: {
            role: role === member.role ? null : role,
            sets_rule: role !== 'partner',
            journals,
            above: above.trim() ? Number(above) : null,
          },
        }),
      ),
    onSuccess: async () => {
      await onSuccess()
      onClose()
    },
  })
  const inviting = useMutation({
    mutationFn: () => answered(api.POST('/api/practice/staff/{code}/invitation', { params: path })),
    onSuccess,
  })
  const ending = useMutation({
    mutationFn: () => answered(api.DELETE('/api/practice/staff/{code}/sessions', { params: path })),
    onSuccess,
  })
  const dropping = useMutation({
    mutationFn: () => answered(api.DELETE('/api/practice/staff/{code}/factor', { params: path })),
    onSuccess,
  })
  return (
    <Dialog title={`${member.name}, ${member.role}`} onClose={onClose}>
      <div className="space-y-6">
        <form
          className="flex flex-wrap items-end gap-4"
          onSubmit={(event) => {
            event.preventDefault()
            changing.mutate()
          }}
        >
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
          {role !== 'partner' && (
            <>
              <label className="flex items-baseline gap-2 py-1.5">
                <input type="checkbox" checked={journals} onChange={() => setJournals(!journals)} />
                every entry that they write waits
              </label>
              <TextField
                className="w-40"
                label="And above, a day"
                inputMode="numeric"
                placeholder="no limit"
                value={above}
                onChange={(event) => setAbove(event.target.value.replace(/\D/g, ''))}
              />
            </>
          )}
          <Button look="post" type="submit" disabled={changing.isPending}>
            Keep it so
          </Button>
          <ProblemNote problem={changing.error} className="w-full" />
        </form>
        <section aria-label="How they come in" className="space-y-2 border-t border-rule pt-3">
          <div className="flex flex-wrap gap-4">
            <Button disabled={inviting.isPending} onClick={() => inviting.mutate()}>
              {member.can_sign_in ? 'Invite to a new password' : 'Invite again'}
            </Button>
            {member.sessions > 0 && (
              <Button disabled={ending.isPending} onClick={() => ending.mutate()}>
                End every session
              </Button>
            )}
            {member.has_factor && (
              <Button disabled={dropping.isPending} onClick={() => dropping.mutate()}>
                Take the second factor away
              </Button>
            )}
          </div>
          {inviting.data && <Invitation path={inviting.data.path} name={member.name} />}
          <ProblemNote problem={inviting.error ?? ending.error ?? dropping.error} />
        </section>
        <Leaving member={member} others={others} onClose={onClose} />
      </div>
    </Dialog>
  )
}

function Leaving({ member, others, onClose }: MemberProps) {
  const queries = useQueryClient()
  const [leaves, leave] = useState(false)
  const [to, handTo] = useState('')
  const leaving = useMutation({
    mutationFn: () =>
      answered(
        api.POST('/api/practice/staff/{code}/leaving', {
          params: { path: { code: member.code } },
          body: { to: to || null },
        }),
      ),
    onSuccess: async () => {
      await queries.invalidateQueries()
      onClose()
    },
  })
  if (!leaves)
    return (
      <p className="border-t border-rule pt-3">
        <Button look="bare" onClick={() => leave(true)}>
          {member.name} leaves
        </Button>
      </p>
    )
  return (
    <section aria-label="Leaving" className="space-y-3 border-t border-rule pt-3">
      <p>
        Their sessions end at once and their password is gone. Their name stays wherever they
        worked.
      </p>
      <div className="flex items-end gap-4">
        <label>
          <span className="block text-quiet">Their clients go to</span>
          <select
            className="border border-edge bg-sheet px-2 py-1.5"
            value={to}
            onChange={(event) => handTo(event.target.value)}
          >
            <option value="">nobody yet</option>
            {others.map((other) => (
              <option key={other.code} value={other.code}>
                {other.name}
              </option>
            ))}
          </select>
        </label>
        <Button look="post" disabled={leaving.isPending} onClick={() => leaving.mutate()}>
          {member.name} leaves today
        </Button>
        <Button look="bare" onClick={() => leave(false)}>
          They stay
        </Button>
      </div>
      <ProblemNote problem={leaving.error} />
    </section>
  )
}
