import { DAY, HOUR, type Instant, MINUTE, shift } from '../core/instant.ts'
import type { Enrolment } from '../server/roster/store.ts'
import { FRESH } from '../server/tasks/edits.ts'
import type { Task, TaskFields } from '../server/tasks/store.ts'
import { makePdf } from './papers.ts'
import { type Bench, keep, type Parts, plot } from './pastBench.ts'
import {
  BENCH_CRITERIA,
  FEEDBACK,
  PLAN_LINES,
  REPORT_LINES,
  TALK_CRITERIA,
  TALK_FEEDBACK,
} from './pastPlot.ts'
import { sayInWork } from './pastRemarks.ts'

/** The tasks of a past sheet: reports, notes to come, and talks, with what was handed in, marked and said of them. */
export async function giveTasks(parts: Parts, benches: readonly Bench[]): Promise<void> {
  const { stores, sheet, owner, now, lot } = parts
  const { tasks, marks, ledger } = stores
  const add = (fields: Partial<TaskFields>): Task => {
    const at = shift(now, -25 * DAY)
    const task = tasks.add(sheet.id, { ...FRESH, out_at: at, takes_files: 1, ...fields }, at)
    const detail = { task: task.code, title: task.title }
    ledger.note({ sheetId: sheet.id, at, actorId: owner.person_id, kind: 'task-added', detail })
    return task
  }
  const criteria = JSON.stringify(BENCH_CRITERIA)
  const first = add({
    title: 'Starter report',
    instructions: 'Two pages on how your culture took, as a **PDF**, with one table.',
    due_at: shift(now, -15 * DAY),
    criteria,
    shares: 'own',
    answers: 1,
  })
  const report = add({
    title: 'Bench report',
    instructions: 'The whole four weeks: method, data, and what it means. A PDF, and your plot as a picture.',
    due_at: shift(now, -HOUR),
    late: 'until',
    late_until: shift(now, 3 * DAY),
    criteria,
  })
  const form = await keep(
    parts,
    { name: 'Report form.txt', type: 'text/plain', bytes: Buffer.from(PLAN_LINES.join('\n')), by: owner },
    shift(now, -25 * DAY),
  )
  tasks.addTaskFile(report.id, form)
  const notes = add({
    title: 'Tasting notes',
    instructions: 'What the panel tasted, and what your group makes of it.',
    due_at: shift(now, 12 * DAY),
    takes_files: 0,
    points: 10,
  })
  letItDiffer(parts, notes, benches)
  speakOnBenches(
    parts,
    add({
      title: 'Bench talk',
      instructions: 'Ten minutes at your bench, all of you, with one jar to taste. Nothing is handed in.',
      hands_in: 0,
      due_at: shift(now, -6 * DAY),
      criteria: JSON.stringify(TALK_CRITERIA),
    }),
    benches,
  )
  for (const [i, bench] of benches.entries()) {
    await handInOne(parts, first, bench, shift(now, -16 * DAY), i)
    if (i % 6 !== 5) await handInOne(parts, report, bench, shift(now, -(4 + (i % 30)) * HOUR), i)
    const placements = JSON.stringify(
      Object.fromEntries(BENCH_CRITERIA.map(({ id }) => [id, 2 + lot.below(7) / 2])),
    )
    const feedback = FEEDBACK[i % FEEDBACK.length] ?? ''
    const owns = { group_id: bench.group.id, student_id: null }
    const by = { now: shift(now, -12 * DAY), personId: owner.person_id, releasedAt: shift(now, -10 * DAY) }
    marks.add(first.id, owns, null, { placements, points: null, feedback }, by)
    sayShares(parts, first, bench, i)
  }
  sayInWork(parts, first, benches)
}

/** One group has longer for its tasting notes, and less to write, which nobody else learns of. */
function letItDiffer({ stores, now }: Parts, notes: Task, benches: readonly Bench[]): void {
  const bench = benches[3]
  if (!bench) return
  stores.differences.add(
    notes.id,
    {
      note: 'Their culture died in week 2; agreed in the lab.',
      fields: {
        available_from: null,
        due_at: shift(now, 19 * DAY),
        dated_by: 'task',
        late: 'no',
        late_until: null,
        hands_in: 1,
        takes_text: 1,
        takes_links: 1,
        takes_files: 0,
        most_words: 300,
      },
      for: [{ kind: 'group', group: bench.group.id }],
    },
    shift(now, -9 * DAY),
  )
}

/** A talk of each group, marked by whoever teaches and a tutor in turn, as each was held; one was away from theirs. */
function speakOnBenches(
  { stores, owner, tutors, sheet, now, lot }: Parts,
  talk: Task,
  benches: readonly Bench[],
): void {
  const { marks, there, ledger } = stores
  for (const [i, { group, members }] of benches.entries()) {
    if (i % 7 === 6) continue
    const by = i % 2 === 0 ? owner : (tutors[i % tutors.length] ?? owner)
    const placements = JSON.stringify(
      Object.fromEntries(TALK_CRITERIA.map(({ id }) => [id, 2 + lot.below(7) / 2])),
    )
    const feedback = TALK_FEEDBACK[i % TALK_FEEDBACK.length] ?? ''
    const owns = { group_id: group.id, student_id: null }
    const at = shift(now, -6 * DAY + i * 10 * MINUTE)
    marks.add(
      talk.id,
      owns,
      null,
      { placements, points: null, feedback },
      {
        now: at,
        personId: by.person_id,
        releasedAt: shift(now, -5 * DAY),
      },
    )
    const ids = members.map(({ id }) => id)
    const away = i === 2 ? ids.at(-1) : undefined
    there.set(
      talk.id,
      group.id,
      ids.filter((id) => id !== away),
    )
    if (away === undefined) continue
    there.setByHand(talk.id, group.id)
    const detail = { task: talk.code, title: talk.title, group: group.id, there: false, reason: 'Was ill' }
    ledger.note({
      sheetId: sheet.id,
      at,
      actorId: by.person_id,
      kind: 'there-corrected',
      enrolmentId: away,
      detail,
    })
  }
}

/** What the members of a group say of how their work was shared; the last has not said. */
function sayShares({ stores, now }: Parts, task: Task, { group, members }: Bench, i: number): void {
  if (members.length < 3) return
  members.slice(0, -1).forEach((by, n) => {
    const others = members.filter((one) => one !== by)
    // Some give one point more to one and one less to another; together they stay an even share each.
    const lean = (i + n) % 4
    const points = Object.fromEntries(
      others.map(({ id }, o) => [id, 10 + (o === 0 ? lean : o === 1 ? -lean : 0)]),
    )
    const words = lean === 3 ? 'The weighing was one person’s work most mornings.' : ''
    stores.shares.put(task.id, group.id, by.id, { points, words }, shift(now, -15 * DAY + n * HOUR))
  })
}

async function handInOne(
  parts: Parts,
  task: Task,
  { group, title, members }: Bench,
  at: Instant,
  i: number,
): Promise<void> {
  const { tasks, ledger } = parts.stores
  const by = members[i % members.length] as Enrolment
  const files = [
    await keep(
      parts,
      {
        name: `${task.title}.pdf`,
        type: 'application/pdf',
        bytes: makePdf(`${title}: ${task.title}`, REPORT_LINES),
        by,
      },
      at,
    ),
    await keep(parts, { name: 'Plot.png', type: 'image/png', bytes: plot(i), by }, at),
  ]
  const ids = members.map(({ id }) => id)
  const text = 'Our report with the plot. The raw weights are among the group’s files.'
  const work = { version: 1, by_id: by.id, text, links: '[]', late: 0 as const, members: ids, files }
  tasks.handIn(task.id, { group_id: group.id, student_id: null }, work, at)
  const detail = { task: task.code, title: task.title, group: group.id }
  for (const enrolmentId of ids) {
    const entry = { sheetId: parts.sheet.id, at, actorId: by.person_id, enrolmentId, detail }
    ledger.note({ ...entry, kind: 'work-handed-in' })
  }
}
