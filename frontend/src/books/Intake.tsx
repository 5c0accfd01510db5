import { useSuspenseQuery } from '@tanstack/react-query'
import { useClient } from '../frame/queries'
import { useYearLabel } from '../frame/useYearLabel'
import { Coverage } from './Coverage'
import { Facts } from './Facts'
import { Files } from './Files'
import { intakeOptions } from './queries'
import { WaitingBooks } from './WaitingBooks'

/** What is there by table and month, and the files that it came in. */
export function Intake() {
  const client = useClient()
  const [year] = useYearLabel()
  const { data } = useSuspenseQuery(intakeOptions(client.code, year))
  return (
    <div className="min-h-0 flex-1 space-y-6 overflow-auto pb-8">
      <WaitingBooks />
      <Coverage intake={data} />
      <Files files={data.files} />
      <Facts />
    </div>
  )
}
