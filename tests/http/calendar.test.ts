import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { CalendarFeed } from '../../src/contract/calendar.ts'
import { type Client, must } from './harness.ts'
import { type Labs, startLabs } from './labs.ts'

let labs: Labs
beforeEach(async () => {
  labs = await startLabs()
  const { code } = await labs.topic('Tempeh')
  await must(
    labs.school.owner.patch(`${labs.at}/topics/${code}`, {
      startsAt: '2026-05-19T10:00',
      endsAt: '2026-05-19T12:00',
      place: 'Room 3, warm cabinet',
      link: 'https://meet.school.example/tempeh',
    }),
  )
})
afterEach(() => labs.harness.end())

const TEMPEH = 'Tempeh/Tue lab'
/** A calendar as whoever knows its address reads it. */
async function read(path: string, client?: Client): Promise<{ status: number; type: string; text: string }> {
  const answer = await fetch(
    `${labs.harness.address}${path}`,
    client && { headers: { Cookie: client.cookie } },
  )
  const text = await answer.text()
  // Long lines are folded (RFC 5545, 3.1).
  return {
    status: answer.status,
    type: answer.headers.get('content-type') ?? '',
    text: text.replaceAll('\r\n ', ''),
  }
}
const seatFile = (client: Client, name = TEMPEH) =>
  read(`${labs.at}/groups/${labs.school.groups[name]}/calendar`, client)

describe('a seat’s calendar file', () => {
  it('says what, when and where, and names nobody', async () => {
    for (const n of [0, 1]) await labs.take(labs.tue(n), TEMPEH)
    const { status, type, text } = await seatFile(labs.tue(0))
    expect([status, type]).toEqual([200, 'text/calendar; charset=utf-8'])
    expect(text).toMatch(/^BEGIN:VCALENDAR\r\n/)
    expect(text).toContain('DTSTART:20260519T080000Z')
    expect(text).toContain('DTEND:20260519T100000Z')
    expect(text).toContain('SUMMARY:Tempeh (Culture benches)')
    expect(text).toContain('LOCATION:Room 3\\, warm cabinet')
    expect(text).toContain('https://meet.school.example/tempeh')
    expect(text).not.toContain('Student')
  })

  it('is there for one’s own dated seats only', async () => {
    await labs.take(labs.tue(0), 'Kefir/Tue lab')
    expect((await seatFile(labs.tue(0))).status).toBe(409)
    expect((await seatFile(labs.tue(0), 'Kefir/Tue lab')).status).toBe(409)
    expect((await seatFile(labs.harness.stranger)).status).toBe(401)
  })
})

describe('a calendar’s private address', () => {
  it('follows the seats, is read without signing in, and ends when it is replaced or ended', async () => {
    const student = labs.tue(0)
    expect(await must<CalendarFeed>(student.get('/api/calendar'))).toEqual({ path: null, madeAt: null })
    const first = await must<CalendarFeed>(student.post('/api/calendar'))
    expect((await read(first.path!)).text).not.toContain('BEGIN:VEVENT')
    await labs.take(student, TEMPEH)
    const { text } = await read(first.path!)
    expect(text).toContain('SUMMARY:Tempeh (Culture benches)')
    const id = /UID:(.*)/.exec(text)?.[1]
    await labs.giveUp(student, TEMPEH)
    expect((await read(first.path!)).text).not.toContain('BEGIN:VEVENT')
    await labs.take(student, TEMPEH)
    expect(/UID:(.*)/.exec((await read(first.path!)).text)?.[1]).toBe(id)
    const second = await must<CalendarFeed>(student.post('/api/calendar'))
    expect([(await read(first.path!)).status, (await read(second.path!)).status]).toEqual([404, 200])
    await must(student.send('DELETE', '/api/calendar'))
    expect((await read(second.path!)).status).toBe(404)
  })

  it('shows nothing of courses in which the person no longer takes part', async () => {
    await labs.take(labs.tue(0), TEMPEH)
    const { path } = await must<CalendarFeed>(labs.tue(0).post('/api/calendar'))
    const { stores } = labs.harness
    const { course_id } = stores.sheets.byCode(labs.school.sheet)!
    const { code } = stores.roster.everybody(course_id).find(({ name }) => name === 'Student 0 Tue lab')!
    await must(
      labs.school.owner.patch(`/api/courses/${labs.school.course}/roster/people/${code}`, { status: 'left' }),
    )
    expect((await read(path!)).text).not.toContain('BEGIN:VEVENT')
  })
})
