// 2,000 open event streams while 200 claims a second run. Prints how long claims take, how long it takes until the
// streams tell of them, and the memory for each stream. Build first: `npm run build`.
import { mkdtempSync, rmSync } from 'node:fs'
import { connect, type Socket } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { say } from '../scripts/lib/setup.mjs'
import type { ClaimAnswer } from '../src/contract/seats.ts'
import { fillBigCourse } from './lib/bigCourse.ts'
import { openConnection } from './lib/connection.ts'
import { percentile } from './lib/figures.ts'
import { startHaplon } from './lib/servers.ts'

const STREAMS = Number(process.env.STREAMS ?? 2_000)
const RATE = 200
const SECONDS = 20
/** Streams whose every message is noted; the others are read and forgotten. */
const WATCHED = 50

interface Stream {
  socket: Socket
  messages: number
  /** When each position was reached, for streams that are watched. */
  heard: { position: number; at: number }[]
}

const folder = mkdtempSync(join(tmpdir(), 'haplon-bench-'))

function openStream(port: number, path: string, cookie: string, watched: boolean): Promise<Stream> {
  return new Promise((resolve, reject) => {
    const socket = connect(port, '127.0.0.1')
    const stream: Stream = { socket, messages: 0, heard: [] }
    socket.once('error', reject)
    socket.setEncoding('latin1')
    let open = false
    socket.on('data', (part: string) => {
      if (!open) {
        open = true
        resolve(stream)
      }
      for (const [, position] of part.matchAll(/^id: ?(\d+)/gm)) {
        stream.messages += 1
        if (watched) stream.heard.push({ position: Number(position), at: performance.now() })
      }
    })
    socket.write(`GET ${path} HTTP/1.1\r\nHost: 127.0.0.1:${port}\r\nCookie: ${cookie}\r\n\r\n`)
  })
}

try {
  const file = join(folder, 'bench.db')
  const course = fillBigCourse(file, { students: STREAMS, sheets: [{ groups: 60, seats: 34 }] })
  const server = await startHaplon(file, 4891)
  const sheet = course.sheets[0]
  if (!sheet) throw new Error('no sheet')
  const claim = await openConnection(server.port)
  const ask = (n: number, body: unknown) =>
    claim.post(`/api/sheets/${sheet.code}/claims`, body, course.students[n]?.cookie ?? '')
  await ask(0, { key: 'streams-warm', kind: 'take', to: sheet.groups[0] })
  await pause(500)
  const before = server.memory()
  const streams: Stream[] = []
  for (let i = 0; i < STREAMS; i += 50) {
    const some = course.students.slice(i, i + 50).map(({ cookie }, n) => {
      return openStream(server.port, `/api/sheets/${sheet.code}/live?since=999999`, cookie, i + n < WATCHED)
    })
    streams.push(...(await Promise.all(some)))
  }
  await pause(1_000)
  const each = ((server.memory() - before) / STREAMS) * 1_024

  const claimers = await Promise.all(Array.from({ length: RATE }, () => openConnection(server.port)))
  const took: number[] = []
  const answered: { rev: number; at: number }[] = []
  const seats: (string | null)[] = course.students.map(() => null)
  seats[0] = sheet.groups[0] ?? null
  const under: Promise<void>[] = []
  const from = performance.now()
  for (let i = 0; i < RATE * SECONDS; i++) {
    const due = from + (i * 1_000) / RATE
    if (due > performance.now()) await pause(due - performance.now())
    const n = i % STREAMS
    const to = sheet.groups[(i * 7) % sheet.groups.length] ?? ''
    const seat = seats[n] ?? null
    const ask = seat === null ? { kind: 'take', to } : { kind: 'move', from: seat, to }
    const connection = claimers[i % RATE]
    under.push(
      (async () => {
        const cookie = course.students[n]?.cookie ?? ''
        const path = `/api/sheets/${sheet.code}/claims`
        const answer = await connection?.post(path, { key: `streams-${i}`, ...ask }, cookie)
        if (!answer) return
        took.push(answer.took)
        if (answer.status !== 200) return
        seats[n] = to
        answered.push({ rev: (JSON.parse(answer.body) as ClaimAnswer).rev, at: performance.now() })
      })(),
    )
  }
  await Promise.all(under)
  const rate = took.length / ((performance.now() - from) / 1_000)
  await pause(2_000)

  const waits = streams.slice(0, WATCHED).flatMap(({ heard }) =>
    answered.flatMap(({ rev, at }) => {
      const told = heard.find(({ position }) => position >= rev)
      return told ? [told.at - at] : [Number.POSITIVE_INFINITY]
    }),
  )
  const messages = streams.reduce((sum, stream) => sum + stream.messages, 0) / STREAMS / SECONDS
  say(`${STREAMS} streams, ${rate.toFixed(0)} claims a second for ${SECONDS} s, ${answered.length} granted`)
  say(`claim p50 ${percentile(took, 0.5).toFixed(0)} ms, p99 ${percentile(took, 0.99).toFixed(0)} ms`)
  say(`delivery p50 ${percentile(waits, 0.5).toFixed(0)} ms, p99 ${percentile(waits, 0.99).toFixed(0)} ms`)
  say(`messages for each stream ${messages.toFixed(1)} a second`)
  say(`memory for each stream ${each.toFixed(0)} KiB, peak ${server.peakMemory().toFixed(0)} MiB`)
  for (const { socket } of streams) socket.destroy()
  for (const connection of [claim, ...claimers]) connection.close()
  await server.stop()
} finally {
  rmSync(folder, { recursive: true, force: true })
}
