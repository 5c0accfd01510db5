/** Which points the list shows. */
export type Showing = 'open' | 'asked' | 'done'
/** By what they are in order. */
export type Order = 'amount' | 'certainty' | 'date'
