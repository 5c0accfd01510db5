import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { PartyPicker } from '../../ledger/AccountPicker'
import { Merges } from '../../ledger/Amendings'
import { PostPanel } from '../PostPanel'
import { chartOptions, useClient } from '../queries'
import { useAct } from '../useAct'
import { useSpan } from '../useSpan'

interface MergePartyProps {
  code: string
  name: string
  onDone: () => void
}

/** Another party that is this one: what was booked under it is read here. */
export function MergeParty({ code, name, onDone }: MergePartyProps) {
  const client = useClient()
  const [span] = useSpan()
  const [other, pick] = useState('')
  const { data: chart } = useQuery(chartOptions(client.code, span.last))
  const acting = useAct({ act: other ? { act: 'merge', party: code, other } : null, onDone })
  return (
    <PostPanel label="Make them one" acting={acting}>
      <div>
        <span className="block text-quiet">Which other name is {name}?</span>
        <div className="max-w-96 border border-edge bg-sheet">
          <PartyPicker
            label={`Another name of ${name}`}
            value={other}
            options={(chart?.parties ?? []).filter((party) => party.code !== code)}
            onPick={(picked) => {
              acting.reset()
              pick(picked)
            }}
          />
        </div>
      </div>
      {acting.preview && <Merges rows={acting.preview.merges} />}
    </PostPanel>
  )
}
