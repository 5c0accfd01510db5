import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { PartyPicker } from '../ledger/AccountPicker'
import { NewParty, type PartyKind } from './NewParty'
import { chartOptions, useClient } from './queries'
import { useSpan } from './useSpan'

interface PartyFieldProps {
  label: string
  value: string
  onPick: (code: string) => void
  placeholder?: string
  /** What a new one would most likely be. */
  kind?: PartyKind
}

/** A party by any part of its code or name; one that is not there yet can be made on the spot. */
export function PartyField({ kind = 'supplier', onPick, ...rest }: PartyFieldProps) {
  const client = useClient()
  const [span] = useSpan()
  const { data: chart } = useQuery(chartOptions(client.code, span.last))
  const [naming, name] = useState<string | null>(null)
  return (
    <>
      <PartyPicker {...rest} options={chart?.parties ?? []} onPick={onPick} onNew={name} />
      {naming !== null && (
        <NewParty
          name={naming}
          kind={kind}
          onPick={(code) => {
            onPick(code)
            name(null)
          }}
          onClose={() => name(null)}
        />
      )}
    </>
  )
}
