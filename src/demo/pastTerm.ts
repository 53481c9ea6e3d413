import { EMBLEMS, FIRST_EXTRAS } from '../core/extras.ts'
import { DAY, HOUR, shift } from '../core/instant.ts'
import { WEEK_HOURS } from '../core/meetings.ts'
import type { Enrolment } from '../server/roster/store.ts'
import { makePdf } from './papers.ts'
import { type Bench, keep, type Parts, plot } from './pastBench.ts'
import { MESSAGE, NAMES, PLAN_LINES, REPORT_LINES, SHARED_SUBJECT, SUBJECTS } from './pastPlot.ts'
import { giveTasks } from './pastTasks.ts'

/**
 * The groups of a past sheet at work: pages with talk and files, a report marked and released, one handed in by most, and
 * one to come.
 */
export async function setToWork(parts: Parts): Promise<void> {
  const { stores, sheet, tutors } = parts
  const { sheets, seats, roster, groups } = stores
  groups.setExtras(sheet.id, {
    ...FIRST_EXTRAS,
    talk: true,
    files: true,
    calendar: true,
    meeting: true,
    name: true,
  })
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
    meetEachWeek(parts, bench, i)
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

/** A weekly meeting of every second group, once called off; their members have said when they could. */
function meetEachWeek({ stores, now }: Parts, { group, members }: Bench, i: number): void {
  if (i % 2 !== 0) return
  const by = members[0] as Enrolment
  const starts_at = shift(now.slice(0, 10).concat('T13:00:00.000Z'), -19 * DAY + (i % 5) * HOUR)
  stores.meetings.add(
    group.id,
    by.id,
    {
      title: 'Feeding and weighing',
      place: 'Cold room, left shelf',
      link: '',
      starts_at,
      minutes: 45,
      weeks: 8,
      skipped: '[]',
    },
    shift(now, -20 * DAY),
  )
  members.slice(0, -1).forEach(({ id }, n) => {
    const can = (hour: number) => hour % 24 >= 9 + n && hour % 24 < 12 + 2 * n && (hour / 24 + n) % 3 < 2
    const hours = Array.from({ length: WEEK_HOURS }, (_, hour) => (hour < 120 && can(hour) ? '1' : '0'))
    stores.meetings.setCould(group.id, id, hours.join(''))
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
