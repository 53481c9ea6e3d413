import { afterEach, beforeEach, expect, it } from 'vitest'
import type { Seatable } from '../../src/contract/conveners.ts'
import type { GroupPage } from '../../src/contract/groups.ts'
import type { LedgerView } from '../../src/contract/ledger.ts'
import type { Problem } from '../../src/contract/problems.ts'
import { DAY } from '../../src/core/instant.ts'
import { type Answer, type Client, must, studentEmail } from './harness.ts'
import { type Labs, startLabs } from './labs.ts'

let labs: Labs
beforeEach(async () => {
  labs = await startLabs()
  await labs.rule({ convenerMay: 'both', convener: 'first' })
  for (const n of [0, 1]) await labs.take(labs.tue(n), 'Tempeh/Tue lab')
  await labs.take(labs.tue(2), 'Kefir/Tue lab')
})
afterEach(() => labs.harness.end())

const tempeh = () => `${labs.at}/groups/${labs.school.groups['Tempeh/Tue lab']}`
const page = (client: Client) => must<GroupPage>(client.get(tempeh()))
const codeOf = (n: number): string => {
  const { roster, sheets } = labs.harness.stores
  const person = roster.personByEmail(studentEmail('Tue lab', n))!
  return roster.enrolmentIn(sheets.byCode(labs.school.sheet)!.course_id, person.id)!.code
}
type Reply = Answer<GroupPage & Problem>
const seat = (client: Client, n: number): Promise<Reply> =>
  client.post(`${tempeh()}/convened`, { person: codeOf(n) })
const out = (client: Client, n: number): Promise<Reply> =>
  client.post(`${tempeh()}/convened/out`, { person: codeOf(n) })
const mails = (n: number) =>
  labs.harness.stores.mail
    .newest(100)
    .filter(({ recipient }) => recipient === studentEmail('Tue lab', n))
    // Without the course’s code before it.
    .map(({ subject }) => subject.split(': ').at(-1))

it('a convener seats people of the section who have no group, and each is told', async () => {
  const { people } = await must<Seatable>(labs.tue(0).get(`${tempeh()}/seatable`))
  expect(people.map(({ name }) => name)).toEqual(['Student 3 Tue lab', 'Student 4 Tue lab'])
  const seated = await must(seat(labs.tue(0), 3))
  expect(seated.members.map(({ name }) => name)).toContain('Student 3 Tue lab')
  expect(seated.convening?.seat).toBe(false)
  expect(mails(3)).toEqual(['you sit at Tempeh'])
  // The group is full now; whoever has a group, or answers for none, is refused.
  expect((await seat(labs.tue(0), 4)).body.code).toBe('group-full')
  await labs.rule({ seats: 5 })
  expect((await seat(labs.tue(0), 2)).body.errors?.[0]?.path).toBe('person')
  expect((await seat(labs.tue(1), 4)).status).toBe(403)
  expect((await labs.tue(1).get(`${tempeh()}/seatable`)).status).toBe(403)
  // The ledger says how it came about, and staff undo it.
  const { entries } = await must<LedgerView>(labs.school.owner.get(`${labs.at}/ledger`))
  const line = entries.find(({ kind, detail }) => kind === 'seat-taken' && detail.because === 'convener')!
  await must(labs.school.owner.post(`${labs.at}/ledger/${line.position}/undo`, {}))
  expect((await page(labs.tue(0))).members.map(({ name }) => name)).not.toContain('Student 3 Tue lab')
})

it('takes a member out in the first days, and later only where they agree', async () => {
  expect((await page(labs.tue(0))).convening?.out).toEqual({ [codeOf(1)]: 'now' })
  expect((await page(labs.tue(1))).convening).toBeNull()
  expect((await out(labs.tue(1), 0)).status).toBe(403)
  await must(out(labs.tue(0), 1))
  expect(mails(1)).toContain('you no longer sit at Tempeh')
  expect((await labs.tue(1).get(tempeh())).status).toBe(404)
  await labs.take(labs.tue(1), 'Tempeh/Tue lab')
  labs.harness.clock.advance(3 * DAY)
  const asked = await must(out(labs.tue(0), 1))
  expect(asked.convening?.out).toEqual({ [codeOf(1)]: 'asked' })
  expect(mails(1)).toContain('would you leave Tempeh?')
  expect((await page(labs.tue(1))).askedToLeave).toBe(true)
  const answer = (agreed: boolean) => labs.tue(1).post<Problem>(`${tempeh()}/leaving`, { agreed })
  await must(answer(false))
  expect((await page(labs.tue(1))).askedToLeave).toBe(false)
  expect((await answer(true)).body.code).toBe('request-answered')
  await must(out(labs.tue(0), 1))
  await must(labs.tue(0).post(`${tempeh()}/convened/out/drop`, { person: codeOf(1) }))
  expect((await answer(true)).body.code).toBe('request-answered')
  await must(out(labs.tue(0), 1))
  await must(answer(true))
  expect((await page(labs.tue(0))).size).toBe(1)
})

it('is not there without the rule, where names are hidden, after the hand-in, or to be asked twice', async () => {
  labs.harness.clock.advance(3 * DAY)
  await must(out(labs.tue(0), 1))
  // Whoever left and came back was not asked.
  await labs.giveUp(labs.tue(1), 'Tempeh/Tue lab')
  labs.harness.clock.advance(1_000)
  await labs.take(labs.tue(1), 'Tempeh/Tue lab')
  expect((await page(labs.tue(1))).askedToLeave).toBe(false)
  await labs.rule({ names: 'nobody' })
  expect((await page(labs.tue(0))).convening).toBeNull()
  await labs.rule({ names: 'mates', convenerMay: 'seat' })
  expect((await page(labs.tue(0))).convening).toEqual({ seat: true, out: {} })
  expect((await out(labs.tue(0), 1)).status).toBe(422)
  await labs.rule({ convenerMay: 'no' })
  expect((await page(labs.tue(0))).convening).toBeNull()
  await labs.rule({ convenerMay: 'both' })
  const { tasks } = await must<{ tasks: { code: string }[] }>(
    labs.school.owner.post(`${labs.at}/tasks`, { title: 'Report', out: true }),
  )
  const group = labs.school.groups['Tempeh/Tue lab']
  await must(
    labs.tue(0).post(`${labs.at}/tasks/${tasks[0]!.code}/hand-ins`, { group, text: 'Ours', after: 0 }),
  )
  expect((await page(labs.tue(0))).convening).toEqual({ seat: false, out: {} })
  expect((await out(labs.tue(0), 1)).status).toBe(422)
})

it('tells a convener nothing of whom the staff keep apart', async () => {
  await must(
    labs.school.owner.post(`${labs.at}/keepings`, {
      kind: 'apart',
      people: [codeOf(1), codeOf(3)],
      note: 'They quarrelled',
      until: null,
    }),
  )
  const { status, body } = await seat(labs.tue(0), 3)
  expect([status, body.code]).toEqual([409, 'seating-not-possible'])
  expect(body.detail).toBe('They cannot be seated here. Ask your instructors.')
  expect(JSON.stringify(body)).not.toMatch(/apart|Student|quarrelled/)
  expect((await page(labs.tue(0))).size).toBe(2)
})

it('is nothing to whoever sits elsewhere', async () => {
  for (const [method, path, body] of [
    ['GET', '/seatable', undefined],
    ['POST', '/convened', { person: codeOf(3) }],
    ['POST', '/convened/out', { person: codeOf(1) }],
    ['POST', '/convened/out/drop', { person: codeOf(1) }],
    ['POST', '/leaving', { agreed: true }],
  ] as const)
    expect((await labs.tue(2).send(method, `${tempeh()}${path}`, body)).status, path).toBe(404)
})
