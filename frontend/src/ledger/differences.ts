/** A piece of a text, and whether it differs from what it was compared with. */
export interface Piece {
  text: string
  differs: boolean
}

/** The text in pieces: what does not stand in the other one, in the same order, differs. */
export function differences(text: string, other: string): Piece[] {
  const same = commonSigns(text, other)
  const pieces: Piece[] = []
  Array.from(text).forEach((sign, place) => {
    const differs = !same.has(place)
    const last = pieces.at(-1)
    if (last && last.differs === differs) last.text += sign
    else pieces.push({ text: sign, differs })
  })
  return pieces
}

/** The places in *text* of a longest run of signs that both have in the same order. */
function commonSigns(text: string, other: string): Set<number> {
  const [a, b] = [Array.from(text), Array.from(other)]
  const lengths = Array.from({ length: a.length + 1 }, () =>
    new Array<number>(b.length + 1).fill(0),
  )
  const at = (i: number, j: number) => lengths[i]?.[j] ?? 0
  for (let i = a.length - 1; i >= 0; i--) {
    for (let j = b.length - 1; j >= 0; j--) {
      const row = lengths[i]
      if (row) row[j] = a[i] === b[j] ? at(i + 1, j + 1) + 1 : Math.max(at(i + 1, j), at(i, j + 1))
    }
  }
  const found = new Set<number>()
  let [i, j] = [0, 0]
  while (i < a.length && j < b.length) {
    if (a[i] === b[j]) {
      found.add(i)
      i++
      j++
    } else if (at(i + 1, j) >= at(i, j + 1)) i++
    else j++
  }
  return found
}
