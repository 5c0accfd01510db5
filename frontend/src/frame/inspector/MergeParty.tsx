import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api } from '../../api/client'
import { PartyPicker } from '../../ledger/AccountPicker'
import { Merges } from '../../ledger/Amendings'
import { PostPanel } from '../PostPanel'
import { chartOptions, useClient } from '../queries'
import { usePosting } from '../usePosting'
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
  const path = { client: client.code, party: code }
  const { data: preview, error } = useQuery({
    queryKey: ['client', client.code, 'merging', code, other, span.last],
    queryFn: () =>
      answered(
        api.POST('/api/clients/{client}/parties/{party}/merging/preview', {
          params: { path },
          body: { other, at: span.last },
        }),
      ),
    enabled: other !== '',
    retry: false,
  })
  const posting = usePosting({
    client: client.name,
    send: (asked: { reason: string; shown: string }, key) =>
      answered(
        api.POST('/api/clients/{client}/parties/{party}/merging', {
          params: { path },
          body: { other, ...asked, key },
        }),
      ),
    onDone,
  })
  return (
    <PostPanel
      label="Make them one"
      preview={other ? preview : undefined}
      problem={other ? (error ?? posting.error) : null}
      busy={posting.isPending}
      onPost={(reason) => preview && posting.mutate({ reason, shown: preview.digest })}
    >
      <div>
        <span className="block text-quiet">Which other name is {name}?</span>
        <div className="max-w-96 border border-edge bg-sheet">
          <PartyPicker
            label={`Another name of ${name}`}
            value={other}
            options={(chart?.parties ?? []).filter((party) => party.code !== code)}
            onPick={(picked) => {
              posting.reset()
              pick(picked)
            }}
          />
        </div>
      </div>
      {other && preview && <Merges rows={preview.merges} />}
    </PostPanel>
  )
}
