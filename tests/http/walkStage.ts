import { writeFileSync } from 'node:fs'
import { expect } from 'vitest'
import type { Route } from '../../src/contract/route.ts'
import { FIRST_EXTRAS } from '../../src/core/extras.ts'
import { FRESH } from '../../src/server/tasks/edits.ts'
import {
  type Client,
  type Harness,
  type School,
  START,
  setUpSchool,
  startHarness,
  studentEmail,
} from './harness.ts'

// The stage of the walk over all routes: everything that a route can be about, put back before each call.

export let harness: Harness
export let school: School
export let draft: School
let topic: string
let topicId: number
export let sheetId: number
let goneId: number
export let groupId: number
export let group: string
let gone: string
let person: string
let program: string
let request: string
let announcement: string
let swap: string
let invitation: string
let token: string
export let link: string
let plan: string
let goneCourse: string
let goneCourseId: number
let keeping: string
let list: string
let section: string
let nudge: string
let position: string
let task: string
export let meeting: string
let difference: string
export let subject: string
export let post: string
let upload: string
let groupFile: string
let keptFile: string
let taskFile: string
let remark: string
let feedbackFile: string
/** A course with a sheet, a draft, a course next door and a deleted one, and people of every kind. */
export async function openStage(): Promise<void> {
  // An announcement that is due would go out between the setting of the stage and the request.
  harness = await startHarness({}, { dueEvery: 2 ** 31 - 1 })
  const plan = { sections: ['Tue lab'], students: { 'Tue lab': 2 }, topics: ['Tempeh', 'Kefir'] }
  school = await setUpSchool(harness, plan)
  draft = await setUpSchool(harness, { ...plan, publish: false })
  const csv = 'name,email,section,role\nIda,instructor@school.example,,instructor'
  await school.owner.post(`/api/courses/${school.course}/roster/import`, { csv, skipFaults: false })
  const other = await setUpSchool(harness, { students: { '': 1 }, topics: ['Miso'] })
  expect(other.course).not.toBe(school.course)
  const past = await setUpSchool(harness, plan)
  await school.owner.post(`/api/courses/${past.course}/roster/import`, { csv, skipFaults: false })
  goneCourse = past.course
  goneCourseId = harness.stores.courses.byCode(past.course)!.id
  const sheet = harness.stores.sheets.byCode(school.sheet)!
  const first = harness.stores.sheets.topics(sheet.id)[0]!
  topic = first.code
  topicId = first.id
  sheetId = sheet.id
  const place = harness.stores.sheets.groups(sheet.id)[0]!
  group = place.code
  groupId = place.id
  const deleted = harness.stores.sheets.add(
    sheet.course_id,
    { title: 'Gone', contact: '', seats: 1, floor: 1 },
    START,
  )
  gone = deleted.code
  goneId = deleted.id
  person = harness.stores.roster.everybody(sheet.course_id).find(({ role }) => role === 'tutor')!.code
  setTheStage()
  link = sheet.link
}

/** A client of each kind of person, by the letters of the table (letIn.ts). */
export const PEOPLE: Record<string, () => Client> = {
  s: () => harness.stranger,
  o: () => harness.as(studentEmail('', 0)),
  u: () => harness.as(studentEmail('Tue lab', 0)),
  t: () => harness.as('tutor@school.example'),
  i: () => harness.as('instructor@school.example'),
  a: () => harness.as('owner@school.example'),
}

/** Puts everything in place that a call before may have used up, so that only the access check can refuse. */
export function setTheStage() {
  const { sheets, requests, roster, announcements, invitations, calendar, seats } = harness.stores
  sheets.restoreTopic(topicId)
  sheets.setDeleted(sheetId, null)
  sheets.archive(sheetId, null)
  sheets.setDeleted(goneId, harness.clock.now())
  const { course_id } = sheets.byId(sheetId)!
  harness.stores.courses.setDeleted(course_id, null)
  harness.stores.courses.setDeleted(goneCourseId, harness.clock.now())
  const student = roster.enrolmentIn(course_id, roster.personByEmail(studentEmail('Tue lab', 0))!.id)!
  // The student answers for a group, and has an invitation that was made by the student too, so that both sides pass.
  sheets.change(sheetId, { ...sheets.byId(sheetId)!, invitations: 'convener', convener_may: 'both' })
  if (seats.heldBy(sheetId, student.id).length === 0)
    seats.seat(sheetId, groupId, student.id, false, harness.clock.now())
  if (invitations.receivedBy(sheetId, student.id).length === 0)
    invitations.add(sheetId, groupId, student.id, student.id, harness.clock.now())
  invitation = invitations.receivedBy(sheetId, student.id)[0]!.code
  if (!calendar.ofPerson(student.person_id)) calendar.renew(student.person_id, harness.clock.now())
  token = calendar.ofPerson(student.person_id)!.token
  if (requests.openOn(sheetId).length === 0)
    requests.add(sheetId, student.id, groupId, null, 'why', harness.clock.now())
  request = requests.openOn(sheetId)[0]!.code
  if (announcements.ofSheet(sheetId).every(({ sent_at }) => sent_at !== null)) {
    announcements.add(sheetId, 'soon', '', 'opening', harness.clock.now(), student.person_id)
  }
  announcement = announcements.ofSheet(sheetId).find(({ sent_at }) => sent_at === null)!.code
  const { plans, nudges, ledger, swaps } = harness.stores
  const now = harness.clock.now()
  if (swaps.openOn(sheetId).length === 0) {
    const { id } = swaps.add(sheetId, now, now)
    const part = { enrolment_id: student.id, from_group_id: groupId, to_group_id: groupId, told_at: null }
    swaps.addPart(id, part)
  }
  swap = swaps.openOn(sheetId)[0]!.code
  if (!plans.ofSheet(sheetId).some(({ applied_at }) => applied_at === null))
    plans.add(sheetId, { title: 'Kept', content: '{"moves":[],"left":[]}', position: 0 }, now, null)
  // A fresh one each time: the one before may be ended.
  const courseId = harness.stores.courses.byCode(school.course)!.id
  const maker = harness.stores.roster.everybody(courseId)[0]!.person_id
  const fresh = { courseId, personId: maker, name: 'Walk', hash: `walk ${Math.random()}`, mayWrite: true }
  for (const { code } of harness.stores.programs.ofCourse(courseId))
    harness.stores.programs.end(courseId, code, START)
  harness.stores.programs.add(fresh, START)
  program = harness.stores.programs.ofCourse(courseId)[0]!.code
  plan = plans.ofSheet(sheetId).find(({ applied_at }) => applied_at === null)!.code
  if (plans.keepings(course_id).length === 0)
    plans.addKeeping(course_id, { kind: 'apart', note: '', expiresAt: null, members: [student.id] }, now)
  keeping = plans.keepings(course_id)[0]!.code
  if (nudges.ofSheet(sheetId).length === 0)
    nudges.add(sheetId, { subject: 's', text: 't', address: '', before_close: 2 }, now, student.person_id)
  nudge = nudges.ofSheet(sheetId)[0]!.code
  const { lists } = harness.stores
  const known = lists.ofCourse(course_id)[0] ?? lists.add(course_id, 'Mondays', '', now)
  lists.setMembers(known.id, [student.id])
  list = known.code
  section = roster.sections(course_id)[0]!.code
  // A sheet that was taken back is out again.
  if (sheets.byId(sheetId)!.published_at === null) sheets.publish(sheetId, now)
  const { tasks } = harness.stores
  if (tasks.ofSheet(sheetId).length === 0) {
    const gone = tasks.byCode(sheetId, task)
    if (gone) tasks.setRemoved(gone.id, null)
    else tasks.add(sheetId, { ...FRESH, title: 'Report', out_at: now }, now)
  }
  task = tasks.ofSheet(sheetId)[0]!.code
  const { differences } = harness.stores
  const { id } = tasks.ofSheet(sheetId)[0]!
  if (differences.ofTask(id).length === 0)
    differences.add(
      id,
      { note: '', fields: { instructions: 'Otherwise' }, for: [{ kind: 'group', group: groupId }] },
      now,
    )
  difference = differences.ofTask(id)[0]!.code
  setThePlaces(student)
  ledger.note({ sheetId, at: now, actorId: null, kind: 'sheet-changed' })
  position = String(ledger.newest(sheetId))
  const before = JSON.stringify({ enrolments: roster.everybody(course_id), freed: [] })
  roster.keepUndo(course_id, harness.clock.now(), student.person_id, 'test', before)
}

/** A meeting of the group on two Mondays, of which none was called off. */
function setTheMeeting(byId: number, now: string) {
  const { meetings } = harness.stores
  const fields = {
    title: 'm',
    place: '',
    link: '',
    starts_at: '2026-05-11T08:00:00.000Z',
    minutes: 60,
    weeks: 2,
    skipped: '[]',
  }
  const known = meetings.ofGroup(groupId)[0] ?? (meeting && meetings.byCode(groupId, meeting))
  if (known) {
    meetings.setRemoved(known.id, null)
    meetings.change(known.id, fields)
  } else meetings.add(groupId, byId, fields, now)
  meeting = meetings.ofGroup(groupId)[0]!.code
}

/** A group page with everything on it, looked after by the tutor. */
function setThePlaces({ id: studentId, course_id }: { id: number; course_id: number }) {
  const { groups, sheets, roster, talk, files, groupFiles, tasks } = harness.stores
  const now = harness.clock.now()
  const tutor = roster.everybody(course_id).find(({ role }) => role === 'tutor')!
  sheets.setTutors(groupId, [tutor.id])
  groups.setExtras(sheetId, {
    ...FIRST_EXTRAS,
    talk: true,
    files: true,
    calendar: true,
    meeting: true,
    name: true,
  })
  setTheMeeting(studentId, now)
  if (talk.ofGroup(groupId).length === 0)
    talk.open(groupId, { title: 's', byId: studentId, text: 't', shared: null }, now)
  const first = talk.ofGroup(groupId)[0]!
  subject = first.code
  post = talk.posts(first.id)[0]!.code
  const fields = { sheet_id: sheetId, name: 'notes.txt', size: 1, by_id: studentId }
  const aim = JSON.stringify({ kind: 'group', group: groupId })
  upload = (
    files.sameUpload({ ...fields, modified: 1, aim }) ?? files.addUpload({ ...fields, modified: 1, aim }, now)
  ).code
  const keep = () => {
    const stored = `walk-${Math.random()}`
    writeFileSync(harness.disk.pathOf(stored), 'x')
    return files.add({ ...fields, stored, type: 'text/plain', digest: null }, now)
  }
  if (groupFiles.ofGroup(groupId).length === 0) groupFiles.add(groupId, 'notes.txt', keep().id)
  const known = groupFiles.ofGroup(groupId)[0]!
  groupFiles.setRemoved(known.id, null, null)
  groupFile = known.code
  keptFile = files.byIds([groupFiles.versions(groupId)[0]!.file_id])[0]!.code
  const ownTask = tasks.ofSheet(sheetId)[0]!
  if (tasks.taskFiles(ownTask.id).length === 0) tasks.addTaskFile(ownTask.id, keep().id)
  taskFile = files.byIds(tasks.taskFiles(ownTask.id))[0]!.code
  setTheRemark(ownTask.id, studentId, keep, now)
}

/** Work that is handed in and marked, the mark out, with a remark and a file that goes back. */
function setTheRemark(taskId: number, studentId: number, keep: () => { id: number }, now: string): void {
  const { tasks, marks, remarks, files, roster } = harness.stores
  const owner = { group_id: groupId, student_id: null }
  if (!tasks.stands(taskId, owner)) {
    const version = tasks.ofOwner(taskId, owner).length + 1
    const handIn = { version, by_id: studentId, text: 'What we saw.', links: '[]', late: 0 as const }
    tasks.handIn(taskId, owner, { ...handIn, members: [studentId], files: [] }, now)
  }
  const personId = roster.enrolment(studentId)!.person_id
  if (!marks.ofTask(taskId).some(({ group_id }) => group_id === groupId))
    marks.add(
      taskId,
      owner,
      null,
      { placements: '{}', points: 5, feedback: '' },
      { now, personId, releasedAt: null },
    )
  for (const { id } of marks.ofTask(taskId)) marks.release(id, now)
  tasks.change(taskId, { ...tasks.byId(taskId)!, answers: 1 })
  const { courses, sheets } = harness.stores
  const course = courses.byId(sheets.byId(sheetId)!.course_id)!
  courses.letTutors(course.id, course.tutors_may, true)
  const { version } = tasks.standing(taskId, owner)!
  const fields = {
    version,
    file_id: null,
    place: '{"kind":"passage","start":0,"end":4}',
    words: 'w',
    criterion: null,
    points: null,
  }
  // A fresh one each time: the one before may be answered, or taken away.
  remarks.add(taskId, owner, fields, { byId: studentId, key: `walk-${Math.random()}`, now })
  remark = remarks.ofOwner(taskId, owner).at(-1)!.code
  if (remarks.files(taskId, owner).length === 0) remarks.addFile(keep().id, taskId, owner)
  feedbackFile = files.byIds(remarks.files(taskId, owner))[0]!.code
}

/** Which file a path is about. */
export function fileFor(path: string): string {
  if (path.includes('/courses/:course/marks/')) return 'marks.csv'
  if (path.includes('/marks/')) return 'groups.csv'
  if (path.includes('/export/')) return 'groups.json'
  if (path.includes('/pdf/')) return 'work.pdf'
  if (path.includes('/remarks/')) return feedbackFile
  if (path.includes('/tasks/')) return taskFile
  return path.includes('/groups/') ? groupFile : keptFile
}

/** The address of a route on the stage. */
export function urlOf({ path }: Pick<Route, 'path'>, sheet: string): string {
  const params = {
    course: school.course,
    sheet,
    topic,
    link,
    group,
    gone: path.startsWith('/api/courses-gone') ? goneCourse : gone,
    zone: 'UTC',
    person,
    program,
    request,
    held: 'none',
    announcement,
    swap,
    invitation,
    token,
    plan,
    keeping,
    list,
    section,
    nudge,
    task,
    position,
    at: START,
    subject,
    post,
    upload,
    file: fileFor(path),
    session: 'none',
    passkey: 'none',
    meeting,
    day: '2026-05-11',
    difference,
    lot: 'all',
    round: '1',
    owner: group,
    remark,
  }
  return path.replace(/:(\w+)/g, (_, name: keyof typeof params) => params[name])
}

/** The status only: a stream is not read to its end. */
export async function statusOf(client: Client, route: Route, sheet: string): Promise<number> {
  const { method } = route
  const stop = new AbortController()
  const response = await fetch(`${harness.address}${urlOf(route, sheet)}`, {
    method,
    signal: stop.signal,
    headers: {
      Origin: harness.address,
      'Content-Type': 'application/json',
      ...(client.cookie && { Cookie: client.cookie }),
    },
    ...(method !== 'GET' && { body: '{}' }),
  })
  stop.abort()
  return response.status
}
