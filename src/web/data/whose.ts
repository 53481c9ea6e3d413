let person = ''
let turn = 0

/** Whose pages this tab shows: their address, empty before anybody is known. */
export const whose = (): string => person

/** Counts the people whose pages this tab has shown: an answer that comes in another turn is nobody's here. */
export const turnNow = (): number => turn

/** Says whose pages this tab shows; true where they were somebody else's before. */
export function beWhose(next: string): boolean {
  const another = person !== '' && person !== next
  if (another) turn += 1
  person = next
  return another
}

/** Ends a turn: somebody signed out, and what is on its way is heard by nobody. */
export function endTurn(): void {
  person = ''
  turn += 1
}
