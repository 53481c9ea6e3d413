/**
 * How many of something there are, in words: "1 seat", "12 seats".
 * @param many the plural, where it is not the singular with an s
 */
export function counted(n: number, one: string, many = `${one}s`): string {
  return `${n} ${n === 1 ? one : many}`
}
