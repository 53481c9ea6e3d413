import ICAL from 'ical.js'
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
/** The entries of a calendar, as a program of another make reads them. */
function entriesIn(text: string) {
  const calendar = new ICAL.Component(ICAL.parse(text))
  return calendar.getAllSubcomponents('vevent').map((event) => ({
    method: calendar.getFirstPropertyValue('method'),
    uid: event.getFirstPropertyValue('uid'),
    sequence: event.getFirstPropertyValue('sequence'),
    status: event.getFirstPropertyValue('status'),
    title: event.getFirstPropertyValue('summary'),
    place: event.getFirstPropertyValue('location'),
    link: event.getFirstPropertyValue('url'),
    modified: String(event.getFirstPropertyValue('last-modified')),
    start: String(event.getFirstPropertyValue('dtstart')),
    end: String(event.getFirstPropertyValue('dtend')),
  }))
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
    expect(await must<CalendarFeed>(student.get('/api/calendar'))).toEqual({
      path: null,
      madeAt: null,
      saved: [],
    })
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

describe('entries of a calendar', () => {
  const feed = async (client: Client) =>
    (await must<CalendarFeed>(client.get('/api/calendar'))).path ??
    (await must<CalendarFeed>(client.post('/api/calendar'))).path!
  const own = async (client: Client) => entriesIn((await read(await feed(client))).text)
  const setTopic = async (more: object) => {
    const { code } = await labs.topic('Tempeh')
    await must(labs.school.owner.patch(`${labs.at}/topics/${code}`, more))
  }

  it('count up when they change, and only then', async () => {
    const student = labs.tue(0)
    await labs.take(student, TEMPEH)
    const [first] = await own(student)
    expect(first).toMatchObject({ sequence: 0, method: 'PUBLISH' })
    labs.harness.clock.advance(60_000)
    expect(await own(student)).toEqual([first])
    await setTopic({ place: 'Room 4' })
    const [second] = await own(student)
    expect(second).toMatchObject({ uid: first!.uid, sequence: 1, place: 'Room 4' })
    expect(second!.modified > first!.modified).toBe(true)
    await labs.giveUp(student, TEMPEH)
    expect(await own(student)).toEqual([])
    await labs.take(student, TEMPEH)
    expect(await own(student)).toEqual([second])
  })

  it('hold texts as texts and links as links, and nothing that a title smuggles in', async () => {
    await setTopic({
      title: 'Miso, white; \\ or “red”',
      place: 'Room 3; left, back',
      link: 'https://meet.school.example/a,b;c?d=1,2&e=%20#f',
    })
    await must(labs.school.owner.patch(labs.at, { title: `Benches, two; ${'a long title '.repeat(6)}` }))
    await labs.take(labs.tue(0), TEMPEH)
    const answer = await fetch(labs.harness.address + (await feed(labs.tue(0))))
    const raw = await answer.text()
    for (const line of raw.split('\r\n')) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75)
    expect(raw.endsWith('END:VCALENDAR\r\n')).toBe(true)
    expect(entriesIn(raw)).toMatchObject([
      {
        title: expect.stringMatching(/^Miso, white; \\ or “red” \(Benches, two; a long/),
        place: 'Room 3; left, back',
        link: 'https://meet.school.example/a,b;c?d=1,2&e=%20#f',
      },
    ])
    const file = await seatFile(labs.tue(0))
    expect(file.text).toContain('\r\nNAME:Miso\\, white\\; \\\\ or “red” (Benches\\, two\\; a long')
  })

  it('may go over midnight', async () => {
    await setTopic({ startsAt: '2026-05-19T22:00', endsAt: '2026-05-20T01:00' })
    await labs.take(labs.tue(0), TEMPEH)
    expect(await own(labs.tue(0))).toMatchObject([
      { start: '2026-05-19T20:00:00Z', end: '2026-05-19T23:00:00Z' },
    ])
  })

  it('of a calendar with none leave it one that can be read, which says when to read again', async () => {
    const { text } = await read(await feed(labs.tue(0)))
    const calendar = new ICAL.Component(ICAL.parse(text))
    expect(calendar.getAllSubcomponents().map(({ name }) => name)).toEqual(['vtimezone'])
    expect(String(calendar.getFirstPropertyValue('refresh-interval'))).toBe('PT1H')
  })

  it('that were saved are taken out once the seat is gone, and changed when its date is', async () => {
    const student = labs.tue(0)
    const saved = async () => (await must<CalendarFeed>(student.get('/api/calendar'))).saved
    await labs.take(student, TEMPEH)
    const [first] = entriesIn((await seatFile(student)).text)
    expect(await saved()).toEqual([])
    labs.harness.clock.advance(60_000)
    await setTopic({ place: 'Room 5' })
    expect(await saved()).toMatchObject([{ gone: false, title: 'Tempeh (Culture benches)' }])
    // Reading the feed in between does not make the saved one current.
    await own(student)
    expect(await saved()).toHaveLength(1)
    labs.harness.clock.advance(60_000)
    await seatFile(student)
    expect(await saved()).toEqual([])
    await labs.giveUp(student, TEMPEH)
    const [gone] = await saved()
    expect(gone).toMatchObject({ gone: true, title: 'Tempeh (Culture benches)' })
    const [cancelled] = entriesIn((await read(gone!.path, student)).text)
    expect(cancelled).toMatchObject({ method: 'CANCEL', status: 'CANCELLED', uid: first!.uid, sequence: 2 })
    expect(await saved()).toEqual([])
    expect((await seatFile(student)).status).toBe(409)
    // Somebody else saved nothing.
    expect((await seatFile(labs.tue(1))).status).toBe(409)
    await labs.take(student, TEMPEH)
    expect(entriesIn((await seatFile(student)).text)[0]!.sequence).toBe(3)
  })
})
