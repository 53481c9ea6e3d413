/** A place as a number: 1st, 2nd, 3rd, 11th. */
export function ordinal(n: number): string {
  const end = n % 100 > 10 && n % 100 < 14 ? 'th' : ({ 1: 'st', 2: 'nd', 3: 'rd' }[n % 10] ?? 'th')
  return `${n}${end}`
}
