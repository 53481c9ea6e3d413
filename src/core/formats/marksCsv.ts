import { writeTable } from './table.ts'

/** What one student or one group got, task by task in the order of the tasks; null where it is open. */
export interface MarksLine {
  /** The leading cells: who it is, and where. */
  who: readonly string[]
  points: readonly (number | null)[]
}

/** The head of a table of marks: who, then a column for each task with its points. */
export function marksHead(
  who: readonly string[],
  tasks: readonly { title: string; most: number }[],
): string[] {
  return [...who, ...tasks.map(({ title, most }) => `${title} (of ${most})`)]
}

/** Cells of one line; what is open is empty. */
export function marksCells({ who, points }: MarksLine): (string | number)[] {
  return [...who, ...points.map((one) => one ?? '')]
}

/** Marks as CSV. */
export function writeMarksCsv(head: readonly string[], lines: readonly MarksLine[]): string {
  return writeTable(
    head,
    lines.map((line) => marksCells(line).map(String)),
  )
}
