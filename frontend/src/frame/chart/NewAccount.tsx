import { useState } from 'react'
import { Button } from '../../ui/Button'
import { useKeys } from '../../ui/keys'
import { ProblemNote } from '../../ui/ProblemNote'
import { TextField } from '../../ui/TextField'
import { carryOut } from '../acts'
import { useClientCode } from '../useClientCode'
import { usePosting } from '../usePosting'
import { RoleField, TypeField } from './fields'

interface NewAccountProps {
  roles: Record<string, string[]>
  /** What it begins with. */
  typed?: string
  onDone: (code: string) => void
}

/** A new account in the chart. */
export function NewAccount({ roles, typed = '', onDone }: NewAccountProps) {
  const client = useClientCode()
  const isCode = /^\d/.test(typed)
  const [keyed, setKeyed] = useState({
    ...{ code: isCode ? typed : '', name: isCode ? '' : typed },
    ...{ type: 'expense', role: '' },
  })
  const adding = usePosting({
    send: (_: null, key) => carryOut(client, { act: { act: 'account', ...keyed } }, key),
    onDone: () => onDone(keyed.code.trim()),
  })
  const ready = keyed.code.trim() !== '' && keyed.name.trim() !== '' && !adding.isPending
  function key(part: Partial<typeof keyed>) {
    adding.reset()
    setKeyed({ ...keyed, ...part })
  }
  function add() {
    if (ready) adding.mutate(null)
  }
  useKeys('New account', [{ keys: 'Control+Enter', does: 'add the account', run: add }])
  return (
    <div className="space-y-3">
      <h2 className="text-[17px] font-semibold">New account</h2>
      <div className="grid grid-cols-[110px_1fr] gap-3">
        <TextField
          autoFocus
          label="Code"
          value={keyed.code}
          onChange={(event) => key({ code: event.target.value })}
        />
        <TextField
          label="Name"
          value={keyed.name}
          onChange={(event) => key({ name: event.target.value })}
        />
      </div>
      <div className="grid grid-cols-2 gap-3">
        <TypeField value={keyed.type} onChange={(type) => key({ type, role: '' })} />
        <RoleField
          value={keyed.role}
          type={keyed.type}
          roles={roles}
          onChange={(role) => key({ role })}
        />
      </div>
      <ProblemNote problem={adding.error} />
      <Button look="post" hint="Ctrl ↵" disabled={!ready} onClick={add}>
        Add it
      </Button>
    </div>
  )
}
