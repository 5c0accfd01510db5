import { useSuspenseQuery } from '@tanstack/react-query'
import { Suspense } from 'react'
import { answered, api } from '../../api/client'
import { Dialog } from '../../ui/Dialog'
import { useClientCode } from '../useClientCode'
import { NewAccount } from './NewAccount'

interface NewAccountDialogProps {
  typed: string
  onPick: (code: string) => void
  onClose: () => void
}

/** A new account in the midst of an entry. */
export function NewAccountDialog({ typed, onPick, onClose }: NewAccountDialogProps) {
  return (
    <Dialog title="An account that is not in the chart yet" onClose={onClose}>
      <Suspense fallback={null}>
        <Form typed={typed} onPick={onPick} />
      </Suspense>
    </Dialog>
  )
}

function Form({ typed, onPick }: Omit<NewAccountDialogProps, 'onClose'>) {
  const client = useClientCode()
  const { data } = useSuspenseQuery({
    queryKey: ['client', client, 'accounts', 'roles'],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/accounts', { params: { path: { client }, query: {} } }),
      ),
  })
  return <NewAccount roles={data.roles} typed={typed} onDone={onPick} />
}
