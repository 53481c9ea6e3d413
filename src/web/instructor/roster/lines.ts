/** Where lines of a text end, each with its own kind of end. */
const ENDS = /(\r\n|\n|\r)/

/** One line of a text, counted from 1, without its end; empty where there is none. */
export function lineOf(text: string, line: number): string {
  return text.split(ENDS)[2 * (line - 1)] ?? ''
}

/** A text with another line in place of one, counted from 1. What is put in stays one line. */
export function withLine(text: string, line: number, next: string): string {
  const parts = text.split(ENDS)
  const at = 2 * (line - 1)
  if (parts[at] === undefined) return text
  parts[at] = next.replace(/[\r\n]+/g, ' ')
  return parts.join('')
}
