import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api, type Schemas } from '../api/client'
import { PostPanel } from '../frame/PostPanel'
import { useClient } from '../frame/queries'
import { useAct } from '../frame/useAct'
import { TextArea, TextField } from '../ui/TextField'
import { useSettled } from '../ui/useSettled'

interface ArrangeFormProps {
  sheet: Schemas['WorksheetAnswer']
  onDone: (name: string) => void
}

/** A grouping in a line a group: its heading, then accounts by code, or roles. Those of other clients are
 * offered to begin with. */
export function ArrangeForm({ sheet, onDone }: ArrangeFormProps) {
  const client = useClient()
  const [name, call] = useState('')
  const [text, key] = useState('')
  const { data: others } = useQuery({
    queryKey: ['client', client.code, 'arrangements'],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/arrangements', {
          params: { path: { client: client.code } },
        }),
      ),
  })
  const groups = text
    .split('\n')
    .filter((line) => line.includes(':'))
    .map((line) => ({
      heading: line.slice(0, line.indexOf(':')).trim(),
      picks: line
        .slice(line.indexOf(':') + 1)
        .split(',')
        .map((pick) => pick.trim())
        .filter(Boolean),
    }))
  const settled = useSettled(JSON.stringify({ act: 'arrange', name, groups }), 300)
  const acting = useAct({
    act: name.trim() && groups.length ? JSON.parse(settled) : null,
    onDone: () => onDone(name.trim().replace(/\s+/g, ' ')),
  })
  function begin(wanted: string) {
    const found = others?.arrangements.find((known) => `${known.client} ${known.name}` === wanted)
    if (!found) return
    call(found.name)
    key(found.groups.map((group) => `${group.heading}: ${group.picks.join(', ')}`).join('\n'))
  }
  return (
    <div className="space-y-3">
      <p className="max-w-xl text-quiet">
        A line a group: its heading, a colon, then accounts by code, or roles such as sales or bank.
        What no group names stands below them: nothing is lost, and nothing counts twice.
      </p>
      {others && others.arrangements.length > 0 && (
        <label className="block">
          <span className="block text-quiet">Begin with</span>
          <select
            className="w-full border border-edge bg-sheet px-2 py-1"
            defaultValue=""
            onChange={(event) => begin(event.target.value)}
          >
            <option value="">an empty one</option>
            {others.arrangements.map((known) => (
              <option key={`${known.client} ${known.name}`} value={`${known.client} ${known.name}`}>
                {known.name}, {known.client}
              </option>
            ))}
          </select>
        </label>
      )}
      <TextField
        label="For whom, or what"
        placeholder="The lender"
        value={name}
        onChange={(event) => call(event.target.value)}
      />
      <TextArea
        label="Groups"
        placeholder={`Turnover: sales\nDirect costs: cost-of-sales, ${sheet.rows.find((row) => row.type === 'expense')?.account ?? ''}`}
        value={text}
        onChange={(event) => key(event.target.value)}
      />
      <PostPanel label="Keep the grouping" acting={acting} />
    </div>
  )
}
