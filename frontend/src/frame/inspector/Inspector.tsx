import { Suspense } from 'react'
import { type Inspected, useInspect, useInspected } from '../../ledger/inspect'
import { Dialog } from '../../ui/Dialog'
import { Waiting } from '../../ui/Waiting'
import { PrintedHead } from '../PrintedHead'
import { AccountMovements } from './AccountMovements'
import { AgedList } from './AgedList'
import { PartyHistory } from './PartyHistory'
import { SectionAccounts } from './SectionAccounts'
import { TransactionDetail } from './TransactionDetail'

const TITLES: Record<Inspected['kind'], string> = {
  transaction: 'Transaction',
  account: 'Account',
  section: 'Section',
  party: 'Party',
  aged: 'Aged list',
}

/** The drawer: whatever the address says is open, over any page of the client. */
export function Inspector() {
  const inspected = useInspected()
  const inspect = useInspect()
  if (!inspected) return null
  return (
    <Dialog
      shape="drawer"
      title={`${TITLES[inspected.kind]} ${inspected.name}`}
      onClose={() => inspect(null)}
    >
      <PrintedHead says={`${TITLES[inspected.kind]} ${inspected.name}`} />
      <Suspense fallback={<Waiting />}>
        <Content
          key={`${inspected.kind} ${inspected.name} ${inspected.figure}`}
          inspected={inspected}
        />
      </Suspense>
    </Dialog>
  )
}

function Content({ inspected }: { inspected: Inspected }) {
  switch (inspected.kind) {
    case 'transaction':
      return <TransactionDetail name={inspected.name} />
    case 'account':
      return <AccountMovements code={inspected.name} figure={inspected.figure} />
    case 'section':
      return <SectionAccounts section={inspected.name} figure={inspected.figure ?? 'adjusted'} />
    case 'party':
      return <PartyHistory code={inspected.name} />
    case 'aged':
      return <AgedList which={inspected.name} />
  }
}
