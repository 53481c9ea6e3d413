import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import * as files from '../../src/contract/files.ts'
import * as groups from '../../src/contract/groups.ts'
import * as meetings from '../../src/contract/meetings.ts'
import * as talk from '../../src/contract/talk.ts'
import { NEVER } from '../../src/core/meetings.ts'
import { EVERY_ROUTE, routesOf } from './everyRoute.ts'
import { studentEmail } from './harness.ts'
import { LET_IN } from './letIn.ts'
import {
  draft,
  fileFor,
  group,
  groupId,
  harness,
  link,
  meeting,
  openStage,
  PEOPLE,
  post,
  school,
  setTheStage,
  sheetId,
  statusOf,
  subject,
} from './walkStage.ts'

const ROUTES = EVERY_ROUTE

beforeAll(openStage)
afterAll(() => harness.end())

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
      meetings: { title: 'm', startsAt: '2026-05-11T10:00', minutes: 60, hour: 9, hours: 1, weeks: 1 },
      'could-meet': { hours: NEVER },
      ':post': { text: 't' },
      read: { post },
    }
    const inside = routesOf(groups, talk, files, meetings).filter(
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
        meeting,
        day: '2026-05-11',
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
    expect(inside).toHaveLength(20)
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
      'POST /api/sheets/:sheet/rehearsal',
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

  it('refuses every change of an archived course, and nothing else of it', async () => {
    const goesOn = [
      // A token can be ended whatever else is put away.
      'DELETE /api/courses/:course/programs/:program',
      'POST /api/courses/:course/archive',
      'POST /api/courses/:course/delete',
    ]
    const found: string[] = []
    for (const route of ROUTES.filter(({ path }) => path.includes(':course'))) {
      const name = `${route.method} ${route.path}`
      setTheStage()
      const { course_id } = harness.stores.sheets.byId(sheetId)!
      harness.stores.courses.archive(course_id, harness.clock.now())
      const status = await statusOf(PEOPLE.i!(), route, school.sheet)
      if (route.method === 'GET') expect(letIn(status), name).toBe(true)
      else if (status !== 409) found.push(name)
      harness.stores.courses.archive(course_id, null)
    }
    expect(found.sort()).toEqual(goesOn)
  })

  it('has no door and no outbox outside the demo', async () => {
    for (const path of ['/api/door', '/api/outbox']) expect((await PEOPLE.a!().get(path)).status).toBe(404)
    expect((await PEOPLE.a!().post('/api/door', { email: 'instructor@school.example' })).status).toBe(404)
  })
})
