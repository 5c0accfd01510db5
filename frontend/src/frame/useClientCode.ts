import { useParams } from 'react-router'

/** The code of the client that the address names. */
export function useClientCode(): string {
  return useParams().client ?? ''
}
