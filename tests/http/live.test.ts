import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { RunView, StudentSheet } from '../../src/contract/seats.ts'
import {
  type Client,
  claim,
  type Harness,
  must,
  type School,
  setUpSchool,
  startHarness,
  studentEmail,
} from './harness.ts'

let harness: Harness
let school: School
const open: Stream[] = []
beforeEach(async () => {
  harness = await startHarness()
  school = await setUpSchool(harness, { students: { '': 6 }, topics: ['Tempeh', 'Kefir'] })
})
afterEach(async () => {
  for (const stream of open.splice(0)) stream.stop()
  await harness.end()
})

interface Told {
  event: string
  id: number
  data: unknown
}
interface Stream {
  next(): Promise<Told>
  stop(): void
}

/** Reads a sheet's stream as a browser would. */
async function listen(client: Client, since: number, lastEventId?: number): Promise<Stream> {
  const stop = new AbortController()
  const response = await fetch(`${harness.address}/api/sheets/${school.sheet}/live?since=${since}`, {
    signal: stop.signal,
    headers: {
      Accept: 'text/event-stream',
      Cookie: client.cookie,
      ...(lastEventId !== undefined && { 'Last-Event-ID': String(lastEventId) }),
    },
  })
  const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader()
  let text = ''
  const stream: Stream = {
    async next() {
      for (;;) {
        const end = text.indexOf('\n\n')
        if (end < 0) {
          const { value, done } = await reader.read()
          if (done) throw new Error('the stream ended')
          text += value
          continue
        }
        const fields = text
          .slice(0, end)
          .split('\n')
          .map((line) => line.split(/:\s?(.*)/s))
        text = text.slice(end + 2)
        const field = (name: string) => fields.find(([key]) => key === name)?.[1]
        const [event, data] = [field('event'), field('data')]
        if (event && data) return { event, id: Number(field('id')), data: JSON.parse(data) }
      }
    },
    stop: () => stop.abort(),
  }
  open.push(stream)
  return stream
}

const student = (n: number) => harness.as(studentEmail('', n))
const take = (n: number, topic: string) =>
  claim(student(n), school.sheet, { kind: 'take', to: school.groups[topic] })

describe('the stream of a sheet', () => {
  it('tells students how many sit where, and staff who', async () => {
    const { rev } = await must<RunView>(school.owner.get(`/api/sheets/${school.sheet}/run`))
    const [forStudent, forStaff] = [await listen(student(5), rev), await listen(school.owner, rev)]
    await take(0, 'Tempeh')
    const told = await forStudent.next()
    expect(told).toMatchObject({
      event: 'counts',
      data: { groups: [{ code: school.groups.Tempeh, taken: 1, held: 0, waiting: 0 }] },
    })
    const run = await must<RunView>(school.owner.get(`/api/sheets/${school.sheet}/run`))
    expect(await forStaff.next()).toMatchObject({
      event: 'seats',
      id: run.rev,
      data: { changes: [{ person: run.seats[0]!.person, from: null, to: school.groups.Tempeh }] },
    })
    expect(Object.keys(told.data as object)).toEqual(['groups'])
  })

  it('gathers what happens together into one message', async () => {
    const { rev } = await must<StudentSheet>(student(5).get(`/api/sheets/${school.sheet}/student`))
    const stream = await listen(student(5), rev)
    await Promise.all([take(0, 'Tempeh'), take(1, 'Tempeh'), take(2, 'Kefir')])
    const { data } = await stream.next()
    expect(
      (data as { groups: { code: string; taken: number }[] }).groups.sort((a, b) => a.taken - b.taken),
    ).toEqual([
      { code: school.groups.Kefir, taken: 1, held: 0, waiting: 0 },
      { code: school.groups.Tempeh, taken: 2, held: 0, waiting: 0 },
    ])
  })

  it('goes on where a reader left off', async () => {
    const { rev } = await must<StudentSheet>(student(5).get(`/api/sheets/${school.sheet}/student`))
    const first = await listen(student(5), rev)
    await take(0, 'Tempeh')
    const { id } = await first.next()
    first.stop()
    await take(1, 'Kefir')
    const again = await listen(student(5), rev, id)
    expect((await again.next()).data).toEqual({
      groups: [{ code: school.groups.Kefir, taken: 1, held: 0, waiting: 0 }],
    })
  })

  it('asks for a fresh view when the sheet or the roster changed', async () => {
    const { rev } = await must<RunView>(school.owner.get(`/api/sheets/${school.sheet}/run`))
    const stream = await listen(student(5), rev)
    await must(school.owner.patch(`/api/sheets/${school.sheet}`, { title: 'Benches' }))
    expect((await stream.next()).event).toBe('refresh')
    const csv = 'name,email\nNew One,new@school.example'
    await must(school.owner.post(`/api/courses/${school.course}/roster/import`, { csv, skipFaults: false }))
    expect((await stream.next()).event).toBe('refresh')
  })

  it('tells one student alone what concerns only that one', async () => {
    await must(school.owner.patch(`/api/sheets/${school.sheet}`, { changing: 'by-asking', confirmed: true }))
    await take(0, 'Tempeh')
    const { rev } = await must<StudentSheet>(student(5).get(`/api/sheets/${school.sheet}/student`))
    const [mine, others, staff] = [
      await listen(student(0), rev),
      await listen(student(5), rev),
      await listen(school.owner, rev),
    ]
    const asked = { from: school.groups.Tempeh, to: school.groups.Kefir, reason: 'the warm cabinet' }
    await must(student(0).post(`/api/sheets/${school.sheet}/requests`, asked))
    expect((await staff.next()).event).toBe('refresh')
    const { requests } = await must<{ requests: { code: string }[] }>(
      school.owner.get(`/api/sheets/${school.sheet}/requests`),
    )
    const path = `/api/sheets/${school.sheet}/requests/${requests[0]!.code}/answer`
    await must(school.owner.post(path, { granted: true }))
    // The request itself is told to the staff and to its student's other pages; the grant tells its student to fetch,
    // all others only figures.
    const events = [await mine.next(), await mine.next(), await mine.next()].map(({ event }) => event)
    expect(events).toEqual(['own', 'counts', 'own'])
    const told = await others.next()
    expect(told.event).toBe('counts')
    expect(JSON.stringify(told.data)).not.toContain('Student')
    await take(1, 'Kefir')
    expect((await others.next()).event).toBe('counts')
  })

  it('ends when the server stops', async () => {
    const stream = await listen(student(5), 0)
    const ended = stream.next().then(
      () => ended2(),
      () => 'ended',
    )
    const ended2 = async (): Promise<string> => stream.next().then(ended2, () => 'ended')
    await harness.stop()
    expect(await ended).toBe('ended')
    harness = await startHarness()
  })
})

describe('a stream', () => {
  const ended = async (stream: Stream): Promise<Told[]> => {
    const told: Told[] = []
    for (;;) {
      try {
        told.push(await stream.next())
      } catch {
        return told
      }
    }
  }

  it('tells a student’s other device of the seat taken on the first', async () => {
    const { rev } = await must<StudentSheet>(student(0).get(`/api/sheets/${school.sheet}/student`))
    const other = await listen(student(0), rev)
    await take(0, 'Tempeh')
    expect((await other.next()).event).toBe('counts')
    expect(await other.next()).toMatchObject({ event: 'own', data: { position: expect.any(Number) } })
  })

  it('ends with the session that opened it, at once, and no other', async () => {
    const [first, second] = [student(0), student(0)]
    const [mine, other] = [await listen(first, 0), await listen(second, 0)]
    await must(first.send('DELETE', '/api/access/session'))
    expect((await ended(mine)).at(-1)?.event).toBe('refresh')
    await take(1, 'Kefir')
    expect((await other.next()).event).toBeTruthy()
  })

  it('is open eight times at most for one person: the oldest ends when a ninth opens, and is told why', async () => {
    const streams: Stream[] = []
    for (let i = 0; i < 8; i++) streams.push(await listen(student(0), 0))
    const mate = await listen(student(1), 0)
    const ninth = await listen(student(0), 0)
    expect((await ended(streams[0]!)).at(-1)?.event).toBe('elsewhere')
    await take(1, 'Kefir')
    for (const one of [mate, ninth, streams[1]!, streams[7]!]) expect((await one.next()).event).toBeTruthy()
    // One that is closed makes room: nobody has to go for the next.
    streams[1]!.stop()
    await new Promise((resolve) => setTimeout(resolve, 200))
    await listen(student(0), 0)
    await take(2, 'Kefir')
    expect((await streams[2]!.next()).event).toBeTruthy()
  })

  it('ends for whoever is taken off the roster, or gets another role, and for nobody else', async () => {
    const { course_id } = harness.stores.sheets.byCode(school.sheet)!
    const code = (n: number) =>
      harness.stores.roster.everybody(course_id).find(({ email }) => email === studentEmail('', n))!.code
    const person = (n: number) => `/api/courses/${school.course}/roster/people/${code(n)}`
    const [left, risen, stays] = [
      await listen(student(0), 0),
      await listen(student(1), 0),
      await listen(student(2), 0),
    ]
    await must(school.owner.patch(person(0), { status: 'left' }))
    await must(school.owner.patch(person(1), { role: 'tutor' }))
    expect((await ended(left)).at(-1)?.event).toBe('refresh')
    expect((await ended(risen)).at(-1)?.event).toBe('refresh')
    await take(3, 'Tempeh')
    expect((await stays.next()).event).toBeTruthy()
  })
})
