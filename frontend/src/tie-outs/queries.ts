import type { Schemas } from '../api/client'

export type TieOut = Schemas['TieOutAnswer']
export type Part = Schemas['PartAnswer']
