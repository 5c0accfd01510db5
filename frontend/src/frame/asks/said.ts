import type { Ask } from '../acts'
import type { Said } from './AskFields'

/** What the fields begin with; a day without one begins on the last day that is looked at. */
export function beginning(asks: Ask[], lastDay: string): Said {
  return Object.fromEntries(
    asks.map((ask) => [ask.name, ask.value || (ask.kind === 'day' ? lastDay : '')]),
  )
}

/** What was said, without what was left empty. */
export function filled(said: Said): Said {
  return Object.fromEntries(Object.entries(said).filter(([, value]) => value.trim()))
}

/** Whether everything that is needed was said. */
export function isWhole(asks: Ask[], said: Said): boolean {
  return asks.every((ask) => !ask.needed || said[ask.name])
}
