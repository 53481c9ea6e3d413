// Claims per second, held against a bare Express server in the same run. 2,000 students and 60 groups: all claim at
// once, then move at random, over kept-open loopback connections from this process. Build first: `npm run build`.
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { say } from '../scripts/lib/setup.mjs'
import type { Problem } from '../src/contract/problems.ts'
import type { StudentSheet } from '../src/contract/seats.ts'
import { openDb } from '../src/server/db/open.ts'
import { createStores } from '../src/server/stores.ts'
import { type BigCourse, fillBigCourse } from './lib/bigCourse.ts'
import { type Connection, openConnection, type RawAnswer } from './lib/connection.ts'
import { percentile } from './lib/figures.ts'
import { startBare, startHaplon } from './lib/servers.ts'

const STUDENTS = Number(process.env.STUDENTS ?? 2_000)
const GROUPS = 60
/** Fewer seats than students, so that some are refused. */
const SEATS = 32
/** Rounds of moves after the opening, one claim of each student in each. */
const ROUNDS = 5
/** Refusals that a claim of this load may get. */
const EXPECTED = ['group-full', 'already-seated-here']

interface Load {
  /** Answers per second, and 99th percentile of the waiting time, milliseconds. */
  rate: number
  p99: number
}

/** Sends one claim of every student at once, round after round; each next claim follows from the last answer. */
async function pour(
  connections: readonly Connection[],
  rounds: number,
  send: (student: number, round: number, connection: Connection) => Promise<RawAnswer>,
): Promise<Load> {
  const times: number[] = []
  const from = performance.now()
  for (let round = 0; round < rounds; round++) {
    const answers = await Promise.all(connections.map((connection, n) => send(n, round, connection)))
    for (const { took } of answers) times.push(took)
  }
  return { rate: (times.length / (performance.now() - from)) * 1_000, p99: percentile(times, 0.99) }
}

const folder = mkdtempSync(join(tmpdir(), 'haplon-bench-'))
const file = join(folder, 'bench.db')
const openAll = (port: number) => Promise.all(Array.from({ length: STUDENTS }, () => openConnection(port)))

/** What the students were told, to be held against the database. */
const told = Array.from({ length: STUDENTS }, () => ({ seat: null as string | null }))
let wrong = 0
let claims = 0
let answerBytes = 0
let bodyBytes = 0

function claimOf(course: BigCourse, sheet: number, n: number) {
  const groups = course.sheets[sheet]?.groups ?? []
  const to = groups[Math.floor(Math.random() * groups.length)] ?? ''
  const from = told[n]?.seat ?? null
  const key = `bench-${sheet}-${n}-${++claims}`
  return from === null ? { key, kind: 'take', to } : { key, kind: 'move', from, to }
}

function hear(n: number, to: string, { status, body }: RawAnswer): void {
  const me = told[n]
  if (!me) return
  const answer = JSON.parse(body) as StudentSheet & Problem
  if (status === 200) {
    const seats = answer.seats.map(({ group }) => group)
    if (seats.length !== 1 || seats[0] !== to) wrong += 1
    me.seat = seats[0] ?? null
  } else if (!EXPECTED.includes(answer.code)) wrong += 1
}

try {
  const sheets = [
    { groups: GROUPS, seats: SEATS },
    { groups: GROUPS, seats: SEATS },
  ]
  const course = fillBigCourse(file, { students: STUDENTS, sheets })
  const haplon = await startHaplon(file, 4871)
  const connections = await openAll(haplon.port)
  const runOn = (sheet: number, rounds: number) =>
    pour(connections, rounds, async (n, _round, connection) => {
      const body = claimOf(course, sheet, n)
      const path = `/api/sheets/${course.sheets[sheet]?.code}/claims`
      const answer = await connection.post(path, body, course.students[n]?.cookie ?? '')
      answerBytes += answer.body.length / STUDENTS
      bodyBytes = Math.max(bodyBytes, JSON.stringify(body).length)
      hear(n, body.to, answer)
      return answer
    })
  // Once on a sheet of its own, so that both servers are measured warm.
  await runOn(0, 1)
  for (const me of told) me.seat = null
  answerBytes = 0
  const before = haplon.processorTime()
  const opening = await runOn(1, 1)
  const moving = await runOn(1, ROUNDS)
  const ours = (haplon.processorTime() - before) / (STUDENTS * (ROUNDS + 1))
  const answerSize = Math.round(answerBytes / (ROUNDS + 1))
  for (const connection of connections) connection.close()
  const memory = haplon.peakMemory()
  await haplon.stop()

  const db = openDb(file)
  const stores = createStores(db)
  const sheet = course.sheets[1]
  if (!sheet) throw new Error('no sheet')
  const codes = stores.sheets.groupCodes(sheet.id)
  const kept = stores.seats.ofSheet(sheet.id)
  const counts = stores.seats.counts(sheet.id)
  const oversold = [...counts.values()].filter((taken) => taken > SEATS).length
  const held = new Map(kept.map(({ enrolment_id, group_id }) => [enrolment_id, codes.get(group_id) ?? null]))
  const lost = course.students.filter(({ enrolment }, n) => (held.get(enrolment) ?? null) !== told[n]?.seat)
  db.close()

  const bare = await startBare(answerSize, 4872)
  const bareConnections = await openAll(bare.port)
  const body = { filler: 'x'.repeat(Math.max(0, bodyBytes - 13)) }
  const askBare = (n: number, connection: Connection) =>
    connection.post('/api/sheets/none/claims', body, course.students[n]?.cookie ?? '')
  await pour(bareConnections, 1, (n, _round, connection) => askBare(n, connection))
  const bareBefore = bare.processorTime()
  const bareOpening = await pour(bareConnections, 1, (n, _round, connection) => askBare(n, connection))
  const bareMoving = await pour(bareConnections, ROUNDS, (n, _round, connection) => askBare(n, connection))
  const theirs = (bare.processorTime() - bareBefore) / (STUDENTS * (ROUNDS + 1))
  for (const connection of bareConnections) connection.close()
  await bare.stop()

  const phase = (name: string, ours: Load, theirs: Load) =>
    say(
      `${name}: ${ours.rate.toFixed(0)} answers a second, p99 ${ours.p99.toFixed(0)} ms; bare ${theirs.rate.toFixed(0)}, p99 ${theirs.p99.toFixed(0)} ms; claims ratio ${(ours.rate / theirs.rate).toFixed(2)}, p99 ratio ${(ours.p99 / theirs.p99).toFixed(2)}`,
    )
  say(`2,000 students, ${GROUPS} groups of ${SEATS}; a claim ${bodyBytes} bytes, an answer ${answerSize}`)
  phase('opening', opening, bareOpening)
  phase('moving', moving, bareMoving)
  say(`processor time of the server per answer: ${ours.toFixed(2)} ms; bare ${theirs.toFixed(2)} ms`)
  const total = (a: Load, b: Load) => (ROUNDS + 1) / (1 / a.rate + ROUNDS / b.rate)
  say(`claims ratio ${(total(opening, moving) / total(bareOpening, bareMoving)).toFixed(2)}`)
  say(
    `p99 ratio ${(Math.max(opening.p99, moving.p99) / Math.max(bareOpening.p99, bareMoving.p99)).toFixed(2)}`,
  )
  say(`oversold ${oversold}`)
  say(`lost ${lost.length}`)
  say(`wrong answers ${wrong}`)
  say(`peak memory ${memory.toFixed(0)} MiB`)
} finally {
  rmSync(folder, { recursive: true, force: true })
}
