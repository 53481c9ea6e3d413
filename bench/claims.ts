// Claims per second, held against a bare Express server in the same run. 2,000 students and 60 groups: all claim at
// the opening, then move at random, over kept-open loopback connections from this process. The two servers take turns,
// wave by wave, so that a busy moment of the machine falls on both. Build first: `npm run build`.
import { mkdtempSync, rmSync } from 'node:fs'
import { request } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { say } from '../scripts/lib/setup.mjs'
import type { Problem } from '../src/contract/problems.ts'
import type { ClaimAnswer } from '../src/contract/seats.ts'
import { openDb } from '../src/server/db/open.ts'
import { createStores } from '../src/server/stores.ts'
import { addOwner, type BenchSheet, fillBigCourse } from './lib/bigCourse.ts'
import { type Connection, openConnection, type RawAnswer } from './lib/connection.ts'
import { percentile } from './lib/figures.ts'
import { type Server, startBare, startHaplon } from './lib/servers.ts'

const STUDENTS = Number(process.env.STUDENTS ?? 2_000)
const GROUPS = 60
/** A few seats less than students, so that some are refused. */
const SEATS = Math.floor((STUDENTS / GROUPS) * 0.97)
/** Openings, each of a sheet of its own, after one to warm up; and waves of moves after each. */
const OPENINGS = Number(process.env.OPENINGS ?? 4)
const MOVES = 3
/** Refusals that a claim of this load may get. */
const EXPECTED = ['group-full', 'already-seated-here']

/** What a server took for its waves. */
interface Load {
  answers: number
  seconds: number
  waits: number[]
  processor: number
}

const newLoad = (): Load => ({ answers: 0, seconds: 0, waits: [], processor: 0 })

/** Lets every student ask once at the same moment, and waits for all answers. */
async function wave(load: Load, server: Server, ask: (n: number) => Promise<RawAnswer>): Promise<void> {
  const processor = server.processorTime()
  const from = performance.now()
  const answers = await Promise.all(Array.from({ length: STUDENTS }, (_, n) => ask(n)))
  load.seconds += (performance.now() - from) / 1_000
  load.processor += server.processorTime() - processor
  load.answers += answers.length
  for (const { took } of answers) load.waits.push(took)
}

/** Clients that press without pause, and for how long (milliseconds), while others come over new connections. */
const PRESSING = 300
const PRESSED_FOR = 8_000

/** What an answer over a connection of its own took, in milliseconds. */
function askAnew(port: number, method: string, path: string, cookie: string, body?: object): Promise<number> {
  return new Promise((resolve, reject) => {
    const from = performance.now()
    const host = `127.0.0.1:${port}`
    const asked = request(
      {
        host: '127.0.0.1',
        port,
        method,
        path,
        agent: false,
        headers: { Origin: `http://${host}`, Cookie: cookie, 'Content-Type': 'application/json' },
      },
      (answer) => {
        answer.resume()
        answer.once('end', () => {
          if (answer.statusCode === 200) resolve(performance.now() - from)
          else reject(new Error(`${method} ${path}: ${answer.statusCode}`))
        })
      },
    )
    asked.once('error', reject)
    asked.end(body === undefined ? undefined : JSON.stringify(body))
  })
}

const folder = mkdtempSync(join(tmpdir(), 'haplon-bench-'))
const file = join(folder, 'bench.db')
const openAll = (port: number): Promise<Connection[]> =>
  Promise.all(Array.from({ length: STUDENTS }, () => openConnection(port)))

/** Where each student was told to sit on the sheet at hand. */
const told: (string | null)[] = []
let claims = 0
let wrong = 0
let bytesOut = 0
let bytesIn = 0

function claimOf(sheet: BenchSheet, n: number) {
  const to = sheet.groups[Math.floor(Math.random() * sheet.groups.length)] ?? ''
  const from = told[n] ?? null
  const key = `bench-${n}-${++claims}`
  return from === null ? { key, kind: 'take', to } : { key, kind: 'move', from, to }
}

function hear(n: number, to: string, { status, body }: RawAnswer): void {
  const answer = JSON.parse(body) as ClaimAnswer & Problem
  if (status === 200) {
    const seats = answer.seats.map(({ group }) => group)
    if (seats.length !== 1 || seats[0] !== to) wrong += 1
    told[n] = seats[0] ?? null
  } else if (!EXPECTED.includes(answer.code)) wrong += 1
}

/** Adds an instructor of the course, signed in; gives the cookie. */
function addInstructor(courseId: number): string {
  const db = openDb(file)
  const owner = addOwner(createStores(db))
  owner.instructs(courseId)
  db.close()
  return owner.cookie
}

/** What the database says against what the students were told: groups past their limit, seats that are not there. */
function check(sheet: BenchSheet, enrolments: readonly number[]): { oversold: number; lost: number } {
  const db = openDb(file)
  const stores = createStores(db)
  const codes = stores.sheets.groupCodes(sheet.id)
  const held = new Map(
    stores.seats.ofSheet(sheet.id).map(({ enrolment_id, group_id }) => [enrolment_id, codes.get(group_id)]),
  )
  const oversold = [...stores.seats.counts(sheet.id).values()].filter((taken) => taken > SEATS).length
  const lost = enrolments.filter((id, n) => (held.get(id) ?? null) !== (told[n] ?? null)).length
  db.close()
  return { oversold, lost }
}

try {
  const sheets = Array.from({ length: OPENINGS + 1 }, () => ({ groups: GROUPS, seats: SEATS }))
  const course = fillBigCourse(file, { students: STUDENTS, sheets })
  const enrolments = course.students.map(({ enrolment }) => enrolment)
  const instructor = addInstructor(course.courseId)
  const haplon = await startHaplon(file, 4871)
  const connections = await openAll(haplon.port)
  const askHaplon = async (sheet: BenchSheet, n: number): Promise<RawAnswer> => {
    const body = claimOf(sheet, n)
    bytesOut += JSON.stringify(body).length
    const answer = await (connections[n] as Connection).post(
      `/api/sheets/${sheet.code}/claims`,
      body,
      course.students[n]?.cookie ?? '',
    )
    bytesIn += answer.body.length
    hear(n, body.to, answer)
    return answer
  }
  /** Somebody new asks every 40 ms, while hundreds press. Gives what each answer took. */
  const comeAnew = async (
    sheet: BenchSheet,
    press: (sheet: BenchSheet, n: number) => Promise<RawAnswer>,
  ): Promise<number[]> => {
    const ends = performance.now() + PRESSED_FOR
    const pressing = Array.from({ length: PRESSING }, async (_, n) => {
      while (performance.now() < ends) await press(sheet, n)
    })
    const took: Promise<number>[] = []
    for (let n = 0; performance.now() < ends - 1_000; n++) {
      const edit = { instructions: `Text ${n}` }
      took.push(
        n % 2 === 0
          ? askAnew(haplon.port, 'GET', '/healthz', '')
          : askAnew(haplon.port, 'PATCH', `/api/sheets/${sheet.code}`, instructor, edit),
      )
      await pause(40)
    }
    await Promise.all(pressing)
    return Promise.all(took)
  }
  const faults = { oversold: 0, lost: 0 }
  const run = async (sheet: BenchSheet, one: () => Promise<void>, between: () => Promise<void>) => {
    told.fill(null)
    for (let i = 0; i <= MOVES; i++) {
      await one()
      await between()
    }
    const { oversold, lost } = check(sheet, enrolments)
    faults.oversold += oversold
    faults.lost += lost
  }
  const [warmUp, ...measured] = course.sheets
  if (!warmUp) throw new Error('no sheet')
  told.length = STUDENTS
  const ignored = newLoad()
  await run(
    warmUp,
    () => wave(ignored, haplon, (n) => askHaplon(warmUp, n)),
    async () => undefined,
  )
  const size = (bytes: number, count: number) => Math.round(bytes / count)
  const bare = await startBare(size(bytesIn, claims), 4872)
  const bareConnections = await openAll(bare.port)
  const body = { filler: 'x'.repeat(Math.max(0, size(bytesOut, claims) - 13)) }
  const askBare = (n: number) =>
    (bareConnections[n] as Connection).post(
      `/api/sheets/${warmUp.code}/claims`,
      body,
      course.students[n]?.cookie ?? '',
    )
  for (let i = 0; i <= MOVES; i++) await wave(newLoad(), bare, askBare)

  const [ours, theirs] = [newLoad(), newLoad()]
  for (const sheet of measured) {
    await run(
      sheet,
      () => wave(ours, haplon, (n) => askHaplon(sheet, n)),
      () => wave(theirs, bare, askBare),
    )
  }
  const newcomers = await comeAnew(course.sheets.at(-1) ?? warmUp, askHaplon)
  const memory = haplon.peakMemory()
  for (const connection of [...connections, ...bareConnections]) connection.close()
  await haplon.stop()
  await bare.stop()

  const line = (name: string, { answers, seconds, waits, processor }: Load) =>
    say(
      `${name}: ${(answers / seconds).toFixed(0)} answers a second, p99 ${percentile(waits, 0.99).toFixed(0)} ms, ${(processor / answers).toFixed(2)} ms of the processor for each`,
    )
  say(
    `${STUDENTS} students, ${GROUPS} groups of ${SEATS}, ${OPENINGS} openings with ${MOVES} waves of moves; a claim ${size(bytesOut, claims)} bytes, an answer ${size(bytesIn, claims)}`,
  )
  line('claims', ours)
  line('bare', theirs)
  say(`processor ratio ${(theirs.processor / ours.processor).toFixed(2)}`)
  say(`claims ratio ${(ours.answers / ours.seconds / (theirs.answers / theirs.seconds)).toFixed(2)}`)
  say(`p99 ratio ${(percentile(ours.waits, 0.99) / percentile(theirs.waits, 0.99)).toFixed(2)}`)
  say(
    `newcomer median ${percentile(newcomers, 0.5).toFixed(0)} ms, p90 ${percentile(newcomers, 0.9).toFixed(0)} ms`,
  )
  say(
    `newcomer p99 ${percentile(newcomers, 0.99).toFixed(0)} ms, over ${newcomers.length} new connections: an edit and /healthz, while ${PRESSING} press without pause`,
  )
  say(`oversold ${faults.oversold}`)
  say(`lost ${faults.lost}`)
  say(`wrong answers ${wrong}`)
  say(`peak memory ${memory.toFixed(0)} MiB`)
} finally {
  rmSync(folder, { recursive: true, force: true })
}
