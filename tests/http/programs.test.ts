import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Problem } from '../../src/contract/problems.ts'
import type { ProgramsView } from '../../src/contract/programs.ts'
import { HOUR } from '../../src/core/instant.ts'
import { type Harness, must, type School, setUpSchool, startHarness, studentEmail } from './harness.ts'

let harness: Harness
let school: School
beforeEach(async () => {
  harness = await startHarness()
  school = await setUpSchool(harness, {
    sections: ['Tue lab'],
    students: { 'Tue lab': 2 },
    topics: ['Tempeh'],
  })
})
afterEach(() => harness.end())

const at = () => `/api/courses/${school.course}/programs`
const make = (name: string, mayWrite: boolean) =>
  must<ProgramsView & { token: string }>(school.owner.post(at(), { name, mayWrite }))

/** Asks as a program does: with a token, and with nothing that a browser would send. */
async function ask(token: string, path: string, method = 'GET', body?: unknown) {
  const answer = await fetch(harness.address + path, {
    method,
    headers: {
      Authorization: `Bearer ${token}`,
      ...(body !== undefined && { 'Content-Type': 'application/json' }),
    },
    ...(body !== undefined && { body: JSON.stringify(body) }),
  })
  return { status: answer.status, body: (await answer.json().catch(() => null)) as Problem | null }
}

describe('a token of a program', () => {
  it('is shown once, kept hashed, and says when it was last used', async () => {
    const { token, tokens } = await make('Timetable', false)
    expect(token).toMatch(/^haplon_[\w-]{32}$/)
    expect(tokens).toMatchObject([{ name: 'Timetable', mayWrite: false, usedAt: null }])
    expect(JSON.stringify(await must(school.owner.get(at())))).not.toContain(token)
    const kept = JSON.stringify(harness.db.prepare('SELECT * FROM program_token').all())
    expect(kept).not.toContain(token)
    const roster = `/api/courses/${school.course}/roster`
    expect((await ask(token, roster)).status).toBe(200)
    const used = async () => (await must<ProgramsView>(school.owner.get(at()))).tokens[0]!.usedAt
    const first = await used()
    expect(first).not.toBeNull()
    harness.clock.advance(HOUR / 2)
    await ask(token, roster)
    expect(await used()).toBe(first)
    harness.clock.advance(HOUR)
    await ask(token, roster)
    expect((await used())! > first!).toBe(true)
  })

  it('that may only read changes nothing; one that may write does, without a browser’s headers', async () => {
    const reads = await make('Reads', false)
    const writes = await make('Writes', true)
    const sheets = `/api/courses/${school.course}/sheets`
    const refused = await ask(reads.token, sheets, 'POST', { title: 'By a program' })
    expect(refused).toMatchObject({ status: 403, body: { code: 'not-for-programs' } })
    expect((await ask(writes.token, sheets, 'POST', { title: 'By a program' })).status).toBe(200)
  })

  it('is for what instructors do in its course, and nothing else', async () => {
    const { token } = await make('All', true)
    for (const [method, path] of [
      ['GET', '/api/me'],
      ['GET', '/api/courses'],
      ['GET', '/api/home'],
      ['GET', '/api/find'],
      ['GET', at()],
      ['POST', at()],
      ['GET', `/api/sheets/${school.sheet}/live`],
      ['POST', `/api/sheets/${school.sheet}/rehearsal`],
      ['GET', `/api/sheets/${school.sheet}/student`],
      ['POST', `/api/sheets/${school.sheet}/claims`],
      ['DELETE', '/api/access/session'],
    ] as const)
      expect([path, (await ask(token, path, method, method === 'POST' ? {} : undefined)).status]).toEqual([
        path,
        403,
      ])
    const { course } = await setUpSchool(harness, { students: { '': 1 }, topics: ['Miso'] })
    expect((await ask(token, `/api/courses/${course}/roster`)).status).toBe(404)
  })

  it('lets nobody in once it was ended, is not known, or its maker is no instructor any more', async () => {
    const { token, tokens } = await make('Ends', true)
    const other = await make('Stays', true)
    const roster = `/api/courses/${school.course}/roster`
    for (const wrong of ['haplon_nothing', '', `${token}x`])
      expect(await ask(wrong, roster)).toMatchObject({ status: 401, body: { code: 'not-signed-in' } })
    await must(school.owner.send('DELETE', `${at()}/${tokens[0]!.code}`))
    expect((await ask(token, roster)).status).toBe(401)
    expect((await school.owner.send('DELETE', `${at()}/${tokens[0]!.code}`)).status).toBe(404)
    expect((await ask(other.token, roster)).status).toBe(200)
    const view = await must<{ people: { code: string; email: string; role: string }[] }>(
      school.owner.get(roster),
    )
    const student = view.people.find(({ email }) => email === studentEmail('Tue lab', 0))!
    const owner = view.people.find(({ role }) => role === 'instructor')!
    await must(school.owner.patch(`${roster}/people/${student.code}`, { role: 'instructor' }))
    await must(harness.as(student.email).patch(`${roster}/people/${owner.code}`, { role: 'tutor' }))
    expect((await ask(other.token, roster)).status).toBe(401)
    // It stays ended when its maker is an instructor again.
    await must(harness.as(student.email).patch(`${roster}/people/${owner.code}`, { role: 'instructor' }))
    expect((await ask(other.token, roster)).status).toBe(401)
    expect((await must<ProgramsView>(school.owner.get(at()))).tokens).toEqual([])
  })

  it('ends when its maker leaves, and does not come alive with them, nor by an undo', async () => {
    const roster = `/api/courses/${school.course}/roster`
    const { people } = await must<{ people: { code: string; email: string; role: string }[] }>(
      school.owner.get(roster),
    )
    const owner = people.find(({ role }) => role === 'instructor')!
    const student = people.find(({ email }) => email === studentEmail('Tue lab', 0))!
    await must(school.owner.patch(`${roster}/people/${student.code}`, { role: 'instructor' }))
    const other = harness.as(student.email)
    for (const back of ['active', 'undo']) {
      const { token } = await make('Timetable', false)
      expect((await ask(token, roster)).status).toBe(200)
      await must(other.patch(`${roster}/people/${owner.code}`, { status: 'left' }))
      if (back === 'undo') await must(other.post(`${roster}/undo`, {}))
      else await must(other.patch(`${roster}/people/${owner.code}`, { status: 'active' }))
      expect((await must<{ people: unknown[] }>(school.owner.get(roster))).people.length).toBeGreaterThan(0)
      expect((await ask(token, roster)).status).toBe(401)
    }
  })

  it('needs a name, and a course has so many', async () => {
    const answer = await school.owner.post<Problem>(at(), { name: ' \u200b ', mayWrite: false })
    expect(answer).toMatchObject({ status: 422, body: { errors: [{ path: 'name' }] } })
    for (let n = 0; n < 20; n++) await make(`Token ${n}`, false)
    const more = await school.owner.post<Problem>(at(), { name: 'One more', mayWrite: false })
    expect(more).toMatchObject({ status: 409, body: { code: 'too-many-tokens' } })
  })

  it('is no way around where a request comes from: a page elsewhere cannot send one', async () => {
    const answer = await fetch(`${harness.address}/api/courses/${school.course}/roster`, {
      method: 'OPTIONS',
      headers: {
        Origin: 'https://elsewhere.example',
        'Access-Control-Request-Method': 'POST',
        'Access-Control-Request-Headers': 'authorization',
      },
    })
    expect(answer.headers.get('access-control-allow-origin')).toBeNull()
    expect(answer.headers.get('access-control-allow-headers')).toBeNull()
  })
})
