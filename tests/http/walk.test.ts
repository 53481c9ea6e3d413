import { writeFileSync } from 'node:fs'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import * as files from '../../src/contract/files.ts'
import * as groups from '../../src/contract/groups.ts'
import type { Route } from '../../src/contract/route.ts'
import * as talk from '../../src/contract/talk.ts'
import { FIRST_EXTRAS } from '../../src/core/extras.ts'
import { FRESH } from '../../src/server/tasks/edits.ts'
import { EVERY_ROUTE, routesOf } from './everyRoute.ts'
import {
  type Client,
  type Harness,
  type School,
  START,
  setUpSchool,
  startHarness,
  studentEmail,
} from './harness.ts'
import { LET_IN } from './letIn.ts'

const ROUTES = EVERY_ROUTE

let harness: Harness
let school: School
let draft: School
let topic: string
let topicId: number
let sheetId: number
let goneId: number
let groupId: number
let group: string
let gone: string
let person: string
let request: string
let announcement: string
let invitation: string
let token: string
let link: string
let plan: string
let keeping: string
let list: string
let section: string
let nudge: string
let position: string
let task: string
let subject: string
let post: string
let upload: string
let groupFile: string
let keptFile: string
let taskFile: string
beforeAll(async () => {
  harness = await startHarness()
  const plan = { sections: ['Tue lab'], students: { 'Tue lab': 2 }, topics: ['Tempeh', 'Kefir'] }
  school = await setUpSchool(harness, plan)
  draft = await setUpSchool(harness, { ...plan, publish: false })
  const csv = 'name,email,section,role\nIda,instructor@school.example,,instructor'
  await school.owner.post(`/api/courses/${school.course}/roster/import`, { csv, skipFaults: false })
  const other = await setUpSchool(harness, { students: { '': 1 }, topics: ['Miso'] })
  expect(other.course).not.toBe(school.course)
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
})
afterAll(() => harness.end())

const PEOPLE: Record<string, () => Client> = {
  s: () => harness.stranger,
  o: () => harness.as(studentEmail('', 0)),
  u: () => harness.as(studentEmail('Tue lab', 0)),
  t: () => harness.as('tutor@school.example'),
  i: () => harness.as('instructor@school.example'),
  a: () => harness.as('owner@school.example'),
}

/** Puts everything in place that a call before may have used up, so that only the access check can refuse. */
function setTheStage() {
  const { sheets, requests, roster, announcements, invitations, calendar, seats } = harness.stores
  sheets.restoreTopic(topicId)
  sheets.setDeleted(sheetId, null)
  sheets.archive(sheetId, null)
  sheets.setDeleted(goneId, harness.clock.now())
  const { course_id } = sheets.byId(sheetId)!
  const student = roster.enrolmentIn(course_id, roster.personByEmail(studentEmail('Tue lab', 0))!.id)!
  // The student answers for a group, and has an invitation that was made by the student too, so that both sides pass.
  sheets.change(sheetId, { ...sheets.byId(sheetId)!, invitations: 'convener' })
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
  const { plans, nudges, ledger } = harness.stores
  const now = harness.clock.now()
  if (!plans.ofSheet(sheetId).some(({ applied_at }) => applied_at === null))
    plans.add(sheetId, { title: 'Kept', content: '{"moves":[],"left":[]}', position: 0 }, now, null)
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
  setThePlaces(student)
  ledger.note({ sheetId, at: now, actorId: null, kind: 'sheet-changed' })
  position = String(ledger.newest(sheetId))
  const before = JSON.stringify({ enrolments: roster.everybody(course_id), freed: [] })
  roster.keepUndo(course_id, harness.clock.now(), 'test', before)
}

/** A group page with everything on it, looked after by the tutor. */
function setThePlaces({ id: studentId, course_id }: { id: number; course_id: number }) {
  const { groups, sheets, roster, talk, files, groupFiles, tasks } = harness.stores
  const now = harness.clock.now()
  const tutor = roster.everybody(course_id).find(({ role }) => role === 'tutor')!
  sheets.setTutors(groupId, [tutor.id])
  groups.setExtras(sheetId, { ...FIRST_EXTRAS, talk: true, files: true, meeting: true, name: true })
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
    return files.add({ ...fields, stored, type: 'text/plain' }, now)
  }
  if (groupFiles.ofGroup(groupId).length === 0) groupFiles.add(groupId, 'notes.txt', keep().id)
  const known = groupFiles.ofGroup(groupId)[0]!
  groupFiles.setRemoved(known.id, null, null)
  groupFile = known.code
  keptFile = files.byIds([groupFiles.versions(groupId)[0]!.file_id])[0]!.code
  const ownTask = tasks.ofSheet(sheetId)[0]!
  if (tasks.taskFiles(ownTask.id).length === 0) tasks.addTaskFile(ownTask.id, keep().id)
  taskFile = files.byIds(tasks.taskFiles(ownTask.id))[0]!.code
}

/** Which file a path is about. */
function fileFor(path: string): string {
  if (path.includes('/courses/:course/marks/')) return 'marks.csv'
  if (path.includes('/marks/')) return 'groups.csv'
  if (path.includes('/export/')) return 'groups.json'
  if (path.includes('/tasks/')) return taskFile
  return path.includes('/groups/') ? groupFile : keptFile
}

/** The status only: a stream is not read to its end. */
async function statusOf(client: Client, { method, path }: Route, sheet: string): Promise<number> {
  const params = {
    course: school.course,
    sheet,
    topic,
    link,
    group,
    gone,
    person,
    request,
    held: 'none',
    announcement,
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
  }
  const url = path.replace(/:(\w+)/g, (_, name: keyof typeof params) => params[name])
  const stop = new AbortController()
  const response = await fetch(`${harness.address}${url}`, {
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

/** Let in means: past the access check. What the empty body then lacks is another matter. */
const letIn = (status: number) => ![401, 403, 404].includes(status)

describe('the walk over all routes', () => {
  it('knows every route there is', () => {
    expect(ROUTES.map(({ method, path }) => `${method} ${path}`).sort()).toEqual(Object.keys(LET_IN).sort())
  })

  it.each(ROUTES.map((route) => ({ name: `${route.method} ${route.path}`, route })))(
    '$name',
    async ({ name, route }) => {
      const found: string[] = []
      for (const [letter, person] of Object.entries(PEOPLE)) {
        setTheStage()
        const status = await statusOf(person(), route, school.sheet)
        if (letIn(status)) found.push(letter)
        else if (letter === 's') expect(status).toBe(401)
      }
      // The owner is instructor of this course too.
      const expected = LET_IN[name]!
      const withOwner = expected.includes('i') && !expected.includes('a') ? `${expected}a` : expected
      expect(found.join('')).toBe(withOwner)
    },
  )

  it('answers those outside a course as if it did not exist', async () => {
    for (const route of ROUTES.filter(({ path }) => /:course|:sheet/.test(path))) {
      expect(await statusOf(PEOPLE.o!(), route, school.sheet), `${route.method} ${route.path}`).toBe(404)
    }
  })

  it('answers students and tutors outside a group as if its page did not exist', async () => {
    const bodies: Record<string, object> = {
      place: { name: 'Ours' },
      messages: { subject: 's', text: 't' },
      talk: { title: 's', text: 't' },
      posts: { text: 't' },
      ':post': { text: 't' },
      read: { post },
    }
    const inside = routesOf(groups, talk, files).filter(
      ({ path, who }) => who === 'member' && !path.endsWith('/uploads') && !path.includes(':upload'),
    )
    for (const { method, path } of inside) {
      setTheStage()
      harness.stores.sheets.setTutors(groupId, [])
      const params: Record<string, string> = {
        sheet: school.sheet,
        group,
        subject,
        post,
        file: fileFor(path),
      }
      const url = path.replace(/:(\w+)/g, (_, name: string) => params[name] ?? '')
      for (const client of [harness.as(studentEmail('Tue lab', 1)), PEOPLE.t!()]) {
        const answer = await client.send(
          method,
          url,
          method === 'GET' ? undefined : (bodies[path.split('/').at(-1) ?? ''] ?? {}),
        )
        expect(answer.status, `${method} ${path}`).toBe(404)
      }
    }
    expect(inside).toHaveLength(12)
  })

  it('keeps a draft from students as if it did not exist', async () => {
    for (const route of ROUTES.filter(({ path }) => path.includes(':sheet'))) {
      expect(await statusOf(PEOPLE.u!(), route, draft.sheet), `${route.method} ${route.path}`).toBe(404)
    }
    const draftLink = harness.stores.sheets.byCode(draft.sheet)!.link
    expect((await PEOPLE.u!().get(`/api/links/${draftLink}`)).status).toBe(404)
    expect((await PEOPLE.i!().get(`/api/links/${draftLink}`)).status).toBe(404)
  })

  it('keeps a sheet that is for others from a student as if it did not exist', async () => {
    const { sheets, lists, seats, roster } = harness.stores
    setTheStage()
    const sheet = sheets.byId(sheetId)!
    const other = roster.enrolmentIn(sheet.course_id, roster.personByEmail(studentEmail('Tue lab', 1))!.id)!
    const only = lists.add(
      sheet.course_id,
      `Only one, ${harness.clock.now()}`,
      'a note for staff',
      harness.clock.now(),
    )
    lists.setMembers(only.id, [
      roster.enrolmentIn(sheet.course_id, roster.personByEmail(studentEmail('Tue lab', 0))!.id)!.id,
    ])
    expect(seats.heldBy(sheetId, other.id)).toEqual([])
    sheets.change(sheetId, { ...sheet, for_whom: 'list', list_id: only.id })
    const client = harness.as(studentEmail('Tue lab', 1))
    for (const route of ROUTES.filter(({ path }) => path.includes(':sheet')))
      expect(await statusOf(client, route, school.sheet), `${route.method} ${route.path}`).toBe(404)
    expect((await client.get(`/api/links/${link}`)).status).toBe(404)
    for (const path of ['/api/home', '/api/me', '/api/find'])
      expect(JSON.stringify((await client.get(path)).body)).not.toMatch(/Culture benches|Only one/)
    // Whom it is for sees it, and not for whom it is.
    const own = JSON.stringify((await PEOPLE.u!().get(`/api/sheets/${school.sheet}/student`)).body)
    expect(own).toContain('Culture benches')
    expect(own).not.toMatch(/Only one|a note for staff/)
    sheets.change(sheetId, { ...sheet, for_whom: 'course', list_id: null })
    lists.setRemoved(only.id, harness.clock.now())
  })

  it('tells somebody who is not on the roster so, with whom to ask', async () => {
    const answer = await PEOPLE.o!().get(`/api/links/${link}`)
    expect(answer).toMatchObject({
      status: 403,
      body: {
        code: 'not-on-roster',
        contacts: expect.arrayContaining([{ name: 'Ida', email: 'instructor@school.example' }]),
      },
    })
    expect((answer.body as { detail: string }).detail).toContain(studentEmail('', 0))
  })

  it('refuses every change of an archived sheet, and nothing else of it', async () => {
    /** What puts away or copies what is there, and what changes nothing that is kept. */
    const goesOn = [
      'POST /api/sheets/:sheet/archive',
      'DELETE /api/sheets/:sheet',
      'POST /api/sheets/:sheet/copy',
      'PUT /api/sheets/:sheet/tasks/:task/desk/place',
      'POST /api/sheets/:sheet/marks/preview',
      'POST /api/sheets/:sheet/groups/:group/talk/:subject/read',
    ]
    const found: string[] = []
    for (const route of ROUTES.filter(({ path }) => path.includes(':sheet'))) {
      const name = `${route.method} ${route.path}`
      for (const letter of LET_IN[name]!) {
        setTheStage()
        harness.stores.sheets.archive(sheetId, harness.clock.now())
        const status = await statusOf(PEOPLE[letter]!(), route, school.sheet)
        if (route.method === 'GET') expect(letIn(status), `${name} as ${letter}`).toBe(true)
        // A claim is refused where it is decided: what it lacks comes first here.
        else if (status !== 409 && name !== 'POST /api/sheets/:sheet/claims') found.push(name)
      }
    }
    expect([...new Set(found)].sort()).toEqual(goesOn.sort())
  })

  it('has no door and no outbox outside the demo', async () => {
    for (const path of ['/api/door', '/api/outbox']) expect((await PEOPLE.a!().get(path)).status).toBe(404)
    expect((await PEOPLE.a!().post('/api/door', { email: 'instructor@school.example' })).status).toBe(404)
  })
})
