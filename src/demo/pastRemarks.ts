import { DAY, HOUR, shift } from '../core/instant.ts'
import type { RemarkPlace } from '../core/remarks.ts'
import type { Task } from '../server/tasks/store.ts'
import type { Bench, Parts } from './pastBench.ts'

interface Said {
  /** The file, by its name; null for what was written. */
  file: 'Plot.png' | '.pdf' | null
  place: RemarkPlace
  words: string
  criterion: string | null
  points: number | null
  /** What a member answered. */
  answer?: string
}

const area = (x: number, y: number, width: number, height: number): RemarkPlace => ({
  kind: 'area',
  page: 1,
  x,
  y,
  width,
  height,
})

/** What was said in the reports of two benches: in what they wrote, on their PDFs and on a plot. */
const SAID: readonly (readonly Said[])[] = [
  [
    {
      file: null,
      place: { kind: 'passage', start: 26, end: 70 },
      words: 'Say in which file, so that a reader finds them.',
      criterion: 'data',
      points: -0.5,
      answer: 'They are in Weights.csv; the next report names it.',
    },
    {
      file: '.pdf',
      place: area(0.095, 0.108, 0.62, 0.045),
      words: 'Clear, and short. Keep this.',
      criterion: 'method',
      points: null,
    },
    {
      file: '.pdf',
      place: { kind: 'spot', page: 1, x: 0.42, y: 0.178 },
      words: 'At what temperature, and how was it kept?',
      criterion: 'method',
      points: -1,
    },
    {
      file: 'Plot.png',
      place: area(0.02, 0.55, 0.3, 0.42),
      words: 'The axes have no names, so nobody can read off the pH.',
      criterion: 'data',
      points: -0.5,
    },
  ],
  [
    {
      file: '.pdf',
      place: area(0.095, 0.165, 0.42, 0.085),
      words: 'Weigh it twice, and say how far the two were apart.',
      criterion: 'data',
      points: -1,
      answer: 'We did; the second weight is in the table of week 3.',
    },
    {
      file: '.pdf',
      place: { kind: 'spot', page: 1, x: 0.6, y: 0.315 },
      words: 'A good question to end with.',
      criterion: null,
      points: null,
    },
  ],
]

/** Says in the work itself what markers say there, with an answer to some of it. */
export function sayInWork(
  { stores, tutors, owner, now }: Parts,
  task: Task,
  benches: readonly Bench[],
): void {
  const { tasks, remarks, files } = stores
  for (const [i, all] of SAID.entries()) {
    const bench = benches[i]
    if (!bench) continue
    const owns = { group_id: bench.group.id, student_id: null }
    const standing = tasks.standing(task.id, owns)
    if (!standing) continue
    const handedIn = files.byIds(JSON.parse(standing.files) as number[])
    const by = tutors[i % Math.max(1, tutors.length)] ?? owner
    for (const [n, one] of all.entries()) {
      const file = one.file === null ? null : handedIn.find(({ name }) => name.endsWith(one.file ?? ''))
      const { words, criterion, points } = one
      const place = JSON.stringify(one.place)
      const fields = { version: standing.version, file_id: file?.id ?? null, place, words, criterion, points }
      const key = `sample-${i}-${n}`
      remarks.add(task.id, owns, fields, { byId: by.id, key, now: shift(now, -13 * DAY) })
      const member = bench.members[0]
      const added = remarks.byKey(task.id, by.id, key)
      if (one.answer && member && added)
        remarks.answer(added.id, member.id, one.answer, shift(now, -9 * DAY + n * HOUR))
    }
  }
}
