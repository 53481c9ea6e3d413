import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { GroupPage } from '../../src/contract/groups.ts'
import type { OwnWork } from '../../src/contract/ownWork.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { Rehearsal } from '../../src/contract/rehearsal.ts'
import { OF_GROUPS, OF_OWNERS } from '../../src/server/rehearsals/hidden.ts'
import { EVERY_ROUTE } from './everyRoute.ts'
import { type Client, must, studentEmail } from './harness.ts'
import { LET_IN } from './letIn.ts'
import {
  group,
  groupId,
  harness,
  openStage,
  PEOPLE,
  school,
  setTheStage,
  sheetId,
  urlOf,
} from './walkStage.ts'

// Every route in a rehearsal, as each who may begin one: it shows what they may see themselves, and not a line more.

beforeAll(async () => {
  await openStage()
  setTheStage()
  markWords()
})
afterAll(() => harness.end())

/** A word in everything that members of the group write, hand in, and are told. */
const WORD = 'Zymurgist'

function markWords(): void {
  const { tasks, remarks, groups, roster } = harness.stores
  const { course_id } = harness.stores.sheets.byId(sheetId)!
  const student = roster.enrolmentIn(course_id, roster.personByEmail(studentEmail('Tue lab', 0))!.id)!
  const task = tasks.ofSheet(sheetId)[0]!
  const owner = { group_id: groupId, student_id: null }
  const version = tasks.ofOwner(task.id, owner).length + 1
  const words = {
    version,
    by_id: student.id,
    text: WORD,
    links: `["https://x.example/${WORD}"]`,
    late: 0 as const,
  }
  tasks.handIn(task.id, owner, { ...words, members: [student.id], files: [] }, harness.clock.now())
  groups.addMessage(
    groupId,
    { by_id: student.id, subject: WORD, text: WORD, reached: 1 },
    harness.clock.now(),
  )
  for (const { id } of remarks.ofOwner(task.id, owner))
    harness.db.prepare('UPDATE remark SET words = ?, version = ? WHERE id = ?').run(WORD, version, id)
  harness.db.exec(`UPDATE mark SET feedback = '${WORD}';
    UPDATE talk_subject SET title = '${WORD}'; UPDATE talk_post SET text = '${WORD}';
    UPDATE meeting SET title = '${WORD}', link = 'https://${WORD}.example/';
    UPDATE kept_file SET name = '${WORD}.txt' WHERE id NOT IN (SELECT file_id FROM task_file); UPDATE group_file SET name = '${WORD}.txt';
    INSERT INTO work_draft (task_id, group_id, text, saved_at) VALUES (${task.id}, ${groupId}, '${WORD} draft', '2026-05-06')`)
}

const PLAYED = { person: null, section: null, at: null }
const begin = (client: Client, body: object) =>
  must<Rehearsal>(client.post(`/api/sheets/${school.sheet}/rehearsal`, { ...PLAYED, ...body }))

/** What every route that reads answers in a rehearsal, by its name. */
async function walked(client: Client, code: string): Promise<Map<string, { status: number; text: string }>> {
  const found = new Map<string, { status: number; text: string }>()
  for (const route of EVERY_ROUTE.filter(({ method, path }) => method === 'GET' && !path.endsWith('/live'))) {
    const answer = await fetch(`${harness.address}/rehearsal/${code}${urlOf(route, school.sheet)}`, {
      headers: { Cookie: client.cookie },
    })
    found.set(`GET ${route.path}`, { status: answer.status, text: await answer.text() })
  }
  return found
}
const studentCode = () => {
  const { course_id } = harness.stores.sheets.byId(sheetId)!
  return harness.stores.roster.everybody(course_id).find(({ email }) => email === studentEmail('Tue lab', 0))!
    .code
}
const told = (found: Map<string, { text: string }>, word: string) =>
  [...found].filter(([, { text }]) => text.includes(word)).map(([name]) => name)

describe('every route in a rehearsal', () => {
  it('of an instructor shows a group as its member sees it, and what is only a draft to nobody', async () => {
    const client = PEOPLE.i!()
    const { code } = await begin(client, { person: studentCode() })
    const found = await walked(client, code)
    const shown = told(found, WORD)
    for (const name of ['', '/talk/:subject'])
      expect(shown).toContain(`GET /api/sheets/:sheet/groups/:group${name}`)
    expect(shown).toContain('GET /api/sheets/:sheet/own-work')
    expect(shown).toContain('GET /api/sheets/:sheet/tasks/:task/own-remarks/:owner')
    expect(told(found, `${WORD} draft`)).toEqual([])
  })

  it('of a tutor who looks after the group shows it, too', async () => {
    const client = PEOPLE.t!()
    const { code } = await begin(client, { person: studentCode() })
    expect(told(await walked(client, code), WORD)).toContain('GET /api/sheets/:sheet/groups/:group')
  })

  it('of a tutor who does not shows nothing of it, whoever is played', async () => {
    harness.stores.sheets.setTutors(groupId, [])
    const tutor = PEOPLE.t!()
    const at = `/api/sheets/${school.sheet}`
    for (const person of [studentCode(), null]) {
      const { code } = await begin(tutor, { person })
      const below = `/rehearsal/${code}${at}`
      if (person === null)
        await must(tutor.post(`${below}/claims`, { key: 'walk-in-1', kind: 'take', to: group }))
      const found = await walked(tutor, code)
      expect(told(found, WORD)).toEqual([])
      // What stands there instead is made up, and says so.
      const page = await must<GroupPage>(tutor.get(`${below}/groups/${group}`))
      expect(page.talk?.map(({ title }) => title)).toEqual(['Made up'])
      if (person === null) continue
      const { tasks } = await must<OwnWork>(tutor.get(`${below}/own-work`))
      expect(tasks[0]?.work?.mark?.feedback).toContain('made up')
      expect(tasks[0]?.work?.mark?.points).toBeGreaterThan(0)
    }
    setTheStage()
  })

  it('takes out of its copy every table of a group that tutors do not read anyway', () => {
    /** Tables of groups that hold what all staff read: who sits where, seats that are kept, how pages are set. */
    const staffRead = [
      'group_own_extras',
      'group_place',
      'group_tutor',
      'held_seat',
      'invitation',
      'line_place',
      'seat',
      'task_difference_for',
      'task_group',
    ]
    const ofGroups = harness.db
      .prepare<[], string>(
        `SELECT m.name FROM sqlite_master m, pragma_table_info(m.name) c WHERE m.type = 'table' AND c.name = 'group_id'`,
      )
      .pluck()
      .all()
    expect(ofGroups.sort()).toEqual([...OF_OWNERS, ...OF_GROUPS, ...staffRead].sort())
  })

  it('lets a student in, and nobody else, whoever plays', async () => {
    for (const letter of ['t', 'i']) {
      const client = PEOPLE[letter]!()
      const { code } = await begin(client, { person: studentCode() })
      for (const [name, { status }] of await walked(client, code)) {
        const letIn = ![401, 403, 404].includes(status)
        if (LET_IN[name]!.includes('u')) continue
        expect(letIn, name).toBe(false)
      }
    }
  })

  it('does not sign anybody in, by whatever letters and however it is written', async () => {
    const client = PEOPLE.i!()
    const { code } = await begin(client, {})
    const paths = [
      '/api/access/codes',
      '/API/access/codes',
      '/api/ACCESS/codes',
      '/Api/Access/Codes/',
      '/api/access/session',
    ]
    for (const path of paths) {
      const sent = client.post<Problem>(`/rehearsal/${code}${path}`, { email: 'owner@school.example' })
      expect((await sent).status, path).toBe(404)
    }
    for (const path of ['/api/me/sign-ins', '/api/ME/passkeys/options'])
      expect((await client.get(`/rehearsal/${code}${path}`)).status, path).toBe(404)
  })

  it('is over as soon as what its player may see is another, at the next request', async () => {
    const { roster, sheets } = harness.stores
    const { course_id } = sheets.byId(sheetId)!
    const tutor = roster.everybody(course_id).find(({ role }) => role === 'tutor')!
    const client = PEOPLE.t!()
    const over = async (change: () => void, back: () => void) => {
      const { code } = await begin(client, {})
      const asked = () => client.get<Problem>(`/rehearsal/${code}/api/me`)
      expect((await asked()).status).toBe(200)
      change()
      expect((await asked()).body.code).toBe('rehearsal-over')
      back()
      // It does not come alive again.
      expect((await asked()).body.code).toBe('rehearsal-over')
    }
    const set = (fields: Partial<typeof tutor>) =>
      roster.changeEnrolment(tutor, { ...tutor, ...fields }, harness.clock.now())
    await over(
      () => set({ status: 'left' }),
      () => set({}),
    )
    await over(
      () => set({ status: 'paused' }),
      () => set({}),
    )
    await over(
      () => set({ role: 'instructor' }),
      () => set({}),
    )
    await over(
      () => sheets.setTutors(groupId, []),
      () => sheets.setTutors(groupId, [tutor.id]),
    )
    await over(
      () => sheets.setDeleted(sheetId, harness.clock.now()),
      () => sheets.setDeleted(sheetId, null),
    )
  })

  it('ends with the session in which it was begun', async () => {
    const [one, other] = [PEOPLE.t!(), PEOPLE.t!()]
    const { code } = await begin(one, {})
    expect((await one.get(`/rehearsal/${code}/api/me`)).status).toBe(200)
    expect((await other.get<Problem>(`/rehearsal/${code}/api/me`)).body.code).toBe('rehearsal-over')
    await must(one.send('DELETE', '/api/access/session'))
    expect((await one.get<Problem>(`/rehearsal/${code}/api/me`)).body.code).toBe('rehearsal-over')
  })
})
