import { Readable } from 'node:stream'
import { EMBLEMS, FIRST_EXTRAS } from '../core/extras.ts'
import { DAY, HOUR, type Instant, shift } from '../core/instant.ts'
import type { Lot } from '../core/lot.ts'
import type { Disk } from '../server/files/disk.ts'
import type { Enrolment } from '../server/roster/store.ts'
import type { Sheet } from '../server/sheets/store.ts'
import type { Group } from '../server/sheets/topicStore.ts'
import type { Stores } from '../server/stores.ts'
import { FRESH } from '../server/tasks/edits.ts'
import type { Task, TaskFields } from '../server/tasks/store.ts'
import { makePdf, makePng } from './papers.ts'
import {
  BENCH_CRITERIA,
  FEEDBACK,
  MESSAGE,
  NAMES,
  PLAN_LINES,
  REPORT_LINES,
  SHARED_SUBJECT,
  SUBJECTS,
} from './pastPlot.ts'

interface Parts {
  stores: Stores
  disk: Disk
  sheet: Sheet
  /** Who teaches it. */
  owner: Enrolment
  tutors: readonly Enrolment[]
  now: Instant
  lot: Lot
}

interface Bench {
  group: Group
  title: string
  members: readonly Enrolment[]
}

/**
 * The groups of a past sheet at work: pages with talk and files, a report marked and released, one handed in by most, and
 * one to come.
 */
export async function setToWork(parts: Parts): Promise<void> {
  const { stores, sheet, tutors } = parts
  const { sheets, seats, roster, groups } = stores
  groups.setExtras(sheet.id, { ...FIRST_EXTRAS, talk: true, files: true, meeting: true, name: true })
  const benches = sheets
    .groups(sheet.id)
    .map((group): Bench => {
      const members = seats
        .ofGroup(group.id)
        .flatMap(({ enrolment_id }) => roster.enrolment(enrolment_id) ?? [])
      return { group, title: sheets.topicById(group.topic_id)?.title ?? '', members }
    })
    .filter(({ members }) => members.length > 0)
  benches.forEach(({ group }, i) => {
    sheets.setTutors(group.id, [(tutors[i % tutors.length] as Enrolment).id])
  })
  for (const [i, bench] of benches.entries()) {
    nameOne(parts, bench, i)
    talkAbout(parts, bench, i)
    await bringPapers(parts, bench, i)
  }
  await giveTasks(parts, benches)
}

/** Every third group has a name, an emblem and a place to meet. */
function nameOne({ stores }: Parts, { group }: Bench, i: number): void {
  if (i % 3 !== 0) return
  stores.groups.setPlace(group.id, {
    name: NAMES[(i / 3) % NAMES.length] ?? '',
    emblem: EMBLEMS[(i * 5) % EMBLEMS.length] ?? '',
    meeting: `https://meet.brinemoor.example/bench-${i + 1}`,
  })
}

function talkAbout({ stores, owner, now }: Parts, { group, members }: Bench, i: number): void {
  const { talk, groups } = stores
  const at = (days: number, hours: number) => shift(now, -days * DAY + hours * HOUR)
  const by = (n: number) => (members[n % members.length] as Enrolment).id
  SUBJECTS.slice(0, 1 + (i % SUBJECTS.length)).forEach(({ title, first, replies }, s) => {
    const begun = 20 - 6 * s
    const { subject } = talk.open(group.id, { title, text: first, byId: by(s), shared: null }, at(begun, 1))
    replies.forEach((text, r) => {
      talk.addPost(subject.id, by(s + r + 1), text, at(begun - 1 - r, 3))
    })
  })
  const shared = talk.open(
    group.id,
    { title: SHARED_SUBJECT.title, text: SHARED_SUBJECT.text, byId: owner.id, shared: 'sample-shared' },
    at(5, 0),
  )
  if (i % 2 === 0)
    talk.addPost(shared.subject.id, by(1), 'Is a photo of the log enough for the second?', at(3, 2))
  groups.addMessage(group.id, { by_id: owner.id, ...MESSAGE, reached: members.length + 1 }, at(6, 2))
}

async function bringPapers(parts: Parts, { group, title, members }: Bench, i: number): Promise<void> {
  const { stores, now } = parts
  const by = (n: number) => members[n % members.length] as Enrolment
  const bring = async (name: string, type: string, bytes: Buffer, who: Enrolment, days: number) =>
    stores.groupFiles.add(
      group.id,
      name,
      await keep(parts, { name, type, bytes, by: who }, shift(now, -days * DAY)),
    )
  await bring('Bench plan.pdf', 'application/pdf', makePdf(`${title}: plan`, PLAN_LINES), by(0), 22)
  if (i % 2 === 0) {
    await bring('Bench plan.pdf', 'application/pdf', makePdf(`${title}: plan, second`, PLAN_LINES), by(1), 18)
    await bring('pH over four weeks.png', 'image/png', plot(i), by(2), 8)
  }
  await bring('Weights.txt', 'text/plain', Buffer.from(REPORT_LINES.slice(3, 8).join('\n')), by(1), 9)
}

async function giveTasks(parts: Parts, benches: readonly Bench[]): Promise<void> {
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
  add({
    title: 'Tasting notes',
    instructions: 'What the panel tasted, and what your group makes of it.',
    due_at: shift(now, 12 * DAY),
    takes_files: 0,
    points: 10,
  })
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
  }
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

/** Puts a file on the disk as an upload would, and gives its id. */
async function keep(
  { stores, disk, sheet }: Parts,
  { name, type, bytes, by }: { name: string; type: string; bytes: Buffer; by: Enrolment },
  at: Instant,
): Promise<number> {
  await disk.append('sample', Readable.from([bytes]), bytes.length)
  const fields = {
    sheet_id: sheet.id,
    name,
    size: bytes.length,
    type,
    by_id: by.id,
    stored: disk.keep('sample'),
  }
  return stores.files.add(fields, at).id
}

/** Three curves that fall, as the pH of three jars does. */
function plot(seed: number): Buffer {
  const [width, height] = [480, 300]
  const curves = [0.35, 0.55, 0.8].map(
    (speed, n) => (x: number) =>
      60 + 36 * n + (150 - 36 * n) * (1 - Math.exp((-x * speed * (3 + (seed % 4))) / width)),
  )
  const colours = [
    [63, 53, 102],
    [196, 58, 14],
    [66, 112, 44],
  ] as const
  return makePng(width, height, (x, y) => {
    const hit = curves.findIndex((curve) => Math.abs(curve(x) - y) < 2)
    if (hit >= 0) return colours[hit] ?? [0, 0, 0]
    if (x < 2 || y > height - 3) return [34, 28, 53]
    return x % 60 === 0 || y % 50 === 0 ? [225, 222, 234] : [255, 255, 255]
  })
}
