import { useMemo } from 'react'
import type { Schemas } from '../api/client'
import { Suggest } from '../ui/Suggest'
import { amountWords, isNil } from './words'

interface PickerProps<Option> {
  label: string
  value: string
  options: Option[]
  onPick: (code: string) => void
  invalid?: boolean
  wanted?: boolean
  placeholder?: string
  inputRef?: (input: HTMLInputElement | null) => void
  /** Offers to make one of what was typed. */
  onNew?: (typed: string) => void
}

/** An account by any part of its code or name, with its type and balance. */
export function AccountPicker({ options, ...rest }: PickerProps<Schemas['ChartAccount']>) {
  const suggestions = useMemo(
    () =>
      options.map((account) => ({
        code: account.code,
        name: account.name,
        note: account.type,
        aside: isNil(account.balance) ? '' : amountWords(account.balance),
        uses: account.uses,
      })),
    [options],
  )
  return <Suggest suggestions={suggestions} {...rest} />
}

/** A party by any part of its code or name. */
export function PartyPicker({ options, ...rest }: PickerProps<Schemas['ChartParty']>) {
  const suggestions = useMemo(
    () =>
      options.map((party) => ({
        code: party.code,
        name: party.name,
        note: party.kind,
        uses: party.uses,
      })),
    [options],
  )
  return <Suggest suggestions={suggestions} {...rest} />
}
