import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api, type Schemas } from '../api/client'
import { deskOptions } from '../frame/queries'
import { counted } from '../ledger/words'
import { Button } from '../ui/Button'
import { Dialog } from '../ui/Dialog'
import { useNotice } from '../ui/notice'
import { ProblemNote } from '../ui/ProblemNote'

interface AssignProps {
  clients: string[]
  staff: Schemas['StaffChoice'][]
  onClose: () => void
}

/** Gives the chosen clients to a member of staff, or takes them away. */
export function Assign({ clients, staff, onClose }: AssignProps) {
  const queries = useQueryClient()
  const tell = useNotice()
  const [code, setCode] = useState(staff[0]?.code ?? '')
  const [gives, setGives] = useState(true)
  const name = staff.find((member) => member.code === code)?.name ?? code
  const assigning = useMutation({
    mutationFn: () =>
      answered(api.POST('/api/desk/assign', { body: { clients, staff: code, give: gives } })),
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: deskOptions.queryKey })
      onClose()
      tell({
        text: gives
          ? `${name} has ${counted(clients.length, 'client')}: ${clients.join(', ')}.`
          : `${clients.join(', ')} ${clients.length > 1 ? 'are' : 'is'} not ${name}’s any more.`,
      })
    },
  })
  return (
    <Dialog title={`Assign ${counted(clients.length, 'client')}`} onClose={onClose}>
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault()
          assigning.mutate()
        }}
      >
        <p className="text-quiet">{clients.join(', ')}</p>
        <label className="block w-80">
          <span className="block text-quiet">Member of staff</span>
          <select
            className="w-full border border-edge bg-sheet px-2 py-1.5"
            value={code}
            onChange={(event) => setCode(event.target.value)}
          >
            {staff.map((member) => (
              <option key={member.code} value={member.code}>
                {member.code} {member.name}
              </option>
            ))}
          </select>
        </label>
        <label className="flex gap-2">
          <input type="checkbox" checked={!gives} onChange={() => setGives(!gives)} />
          Take them away from this person instead
        </label>
        <ProblemNote problem={assigning.error} />
        <Button look="post" type="submit" disabled={assigning.isPending}>
          {gives ? `Give them to ${name}` : `Take them away from ${name}`}
        </Button>
      </form>
    </Dialog>
  )
}
