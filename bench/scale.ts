// Claims per second with 1,000, 10,000 and 100,000 seats already in the database. Three servers, each on a database of
// its own, take turns, wave by wave. Build first: `npm run build`.
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { say } from '../scripts/lib/setup.mjs'
import { type BigCourse, fillBigCourse } from './lib/bigCourse.ts'
import { type Connection, openConnection } from './lib/connection.ts'
import { type Server, startHaplon } from './lib/servers.ts'

const SIZES = [1_000, 10_000, 100_000]
const STUDENTS = 500
const WAVES = 24

interface Side {
  size: number
  course: BigCourse
  server: Server
  connections: Connection[]
  seats: (string | null)[]
  seconds: number
  processor: number
}

const folder = mkdtempSync(join(tmpdir(), 'haplon-bench-'))

async function prepare(size: number, n: number): Promise<Side> {
  const file = join(folder, `${size}.db`)
  const filled = Array.from({ length: size / STUDENTS }, () => ({ groups: 50, seats: 10, filled: true }))
  const course = fillBigCourse(file, {
    students: STUDENTS,
    sheets: [...filled, { groups: 60, seats: 9 }],
  })
  const server = await startHaplon(file, 4881 + n)
  const connections = await Promise.all(course.students.map(() => openConnection(server.port)))
  return {
    size,
    course,
    server,
    connections,
    seats: course.students.map(() => null),
    seconds: 0,
    processor: 0,
  }
}

let claims = 0
async function wave(side: Side, measured: boolean): Promise<void> {
  const sheet = side.course.sheets.at(-1)
  if (!sheet) return
  const processor = side.server.processorTime()
  const from = performance.now()
  await Promise.all(
    side.connections.map(async (connection, n) => {
      const to = sheet.groups[Math.floor(Math.random() * sheet.groups.length)] ?? ''
      const key = `scale-${n}-${++claims}`
      const seat = side.seats[n] ?? null
      const ask = seat === null ? { key, kind: 'take', to } : { key, kind: 'move', from: seat, to }
      const cookie = side.course.students[n]?.cookie ?? ''
      const { status } = await connection.post(`/api/sheets/${sheet.code}/claims`, ask, cookie)
      if (status === 200) side.seats[n] = to
    }),
  )
  if (!measured) return
  side.seconds += (performance.now() - from) / 1_000
  side.processor += side.server.processorTime() - processor
}

try {
  const sides: Side[] = []
  for (const [n, size] of SIZES.entries()) sides.push(await prepare(size, n))
  for (let i = 0; i < WAVES + 6; i++) for (const side of sides) await wave(side, i >= 6)
  const rate = ({ seconds }: Side) => (STUDENTS * WAVES) / seconds
  for (const side of sides) {
    say(
      `${side.size} seats: ${rate(side).toFixed(0)} claims a second, ${(side.processor / (STUDENTS * WAVES)).toFixed(2)} ms of the processor for each`,
    )
  }
  const [small, ...larger] = sides
  for (const side of larger) {
    if (!small) break
    say(`scale ratio ${side.size} to ${small.size}: ${(rate(side) / rate(small)).toFixed(2)}`)
    say(`processor ratio ${side.size} to ${small.size}: ${(small.processor / side.processor).toFixed(2)}`)
  }
  for (const { connections, server } of sides) {
    for (const connection of connections) connection.close()
    await server.stop()
  }
} finally {
  rmSync(folder, { recursive: true, force: true })
}
