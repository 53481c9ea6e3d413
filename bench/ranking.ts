// Orders of topics kept a second, held against a bare Express server in the same run. 2,000 students and 60 topics: all
// keep an order in the last minute, then change it, over kept-open loopback connections from this process, while staff
// read what the forecast on Run is computed from. The two servers take turns, wave by wave, so that a busy moment of the
// machine falls on both. Build first: `npm run build`.
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { say } from '../scripts/lib/setup.mjs'
import type { OwnList } from '../src/contract/wishes.ts'
import { openDb } from '../src/server/db/open.ts'
import { createStores } from '../src/server/stores.ts'
import { addOwner, fillBigCourse } from './lib/bigCourse.ts'
import { type Connection, openConnection, type RawAnswer } from './lib/connection.ts'
import { percentile } from './lib/figures.ts'
import { startBare, startHaplon } from './lib/servers.ts'

const STUDENTS = Number(process.env.STUDENTS ?? 2_000)
const TOPICS = 60
const WISHES = 6
/** Waves after one to warm up. */
const WAVES = Number(process.env.WAVES ?? 8)
/** Milliseconds between two looks of staff. */
const LOOKS = 500

const folder = mkdtempSync(join(tmpdir(), 'haplon-bench-'))
const file = join(folder, 'bench.db')

/** Prepares the course: a sheet by wishes, and an instructor. Gives the topics’ codes and the instructor’s cookie. */
function prepare() {
  const { students, sheets, courseId } = fillBigCourse(file, {
    students: STUDENTS,
    sheets: [{ groups: TOPICS, seats: Math.ceil(STUDENTS / TOPICS) }],
  })
  const db = openDb(file)
  const stores = createStores(db)
  const owner = addOwner(stores)
  owner.instructs(courseId)
  const sheet = stores.sheets.byId(sheets[0]?.id ?? 0)
  if (!sheet) throw new Error('no sheet')
  stores.sheets.change(sheet.id, { ...sheet, road: 'wished', mates_most: 1 })
  const topics = stores.sheets.topics(sheet.id).map(({ code }) => code)
  db.close()
  return { students, sheet, topics, cookie: owner.cookie }
}

const load = () => ({ answers: 0, seconds: 0, waits: [] as number[] })

async function wave(into: ReturnType<typeof load>, ask: (n: number) => Promise<RawAnswer>): Promise<void> {
  const from = performance.now()
  const answers = await Promise.all(Array.from({ length: STUDENTS }, (_, n) => ask(n)))
  into.seconds += (performance.now() - from) / 1_000
  into.answers += answers.length
  into.waits.push(...answers.map(({ took }) => took))
}

try {
  const { students, sheet, topics, cookie } = prepare()
  const haplon = await startHaplon(file, 4873)
  const openAll = (port: number): Promise<Connection[]> =>
    Promise.all(Array.from({ length: STUDENTS }, () => openConnection(port)))
  const connections = await openAll(haplon.port)
  const kept: { version: number; ranks: string }[] = students.map(() => ({ version: 0, ranks: '' }))
  let [wrong, bytesOut, bytesIn, sent] = [0, 0, 0, 0]
  const ask = async (n: number): Promise<RawAnswer> => {
    const ranks = topics
      .toSorted(() => Math.random() - 0.5)
      .slice(0, WISHES)
      .map((topic) => [topic])
    const known = kept[n] as (typeof kept)[number]
    const body = { ranks, cannot: [], mates: { people: [], first: false }, over: known.version }
    const path = `/api/sheets/${sheet.code}/wishes`
    const answer = await (connections[n] as Connection).put(path, body, students[n]?.cookie ?? '')
    sent += 1
    bytesOut += JSON.stringify(body).length
    bytesIn += answer.body.length
    const list = JSON.parse(answer.body) as OwnList
    if (answer.status !== 200 || list.version !== known.version + 1) wrong += 1
    kept[n] = { version: list.version, ranks: JSON.stringify(ranks) }
    return answer
  }
  await wave(load(), ask)
  const size = (bytes: number) => Math.round(bytes / sent)
  const bare = await startBare(size(bytesIn), 4874)
  const bareConnections = await openAll(bare.port)
  const filler = { filler: 'x'.repeat(Math.max(0, size(bytesOut) - 13)) }
  const askBare = (n: number) =>
    (bareConnections[n] as Connection).put(
      `/api/sheets/${sheet.code}/wishes`,
      filler,
      students[n]?.cookie ?? '',
    )
  await wave(load(), askBare)

  const [ours, theirs] = [load(), load()]
  const looks: number[] = []
  for (let i = 0; i < WAVES; i++) {
    let over = false
    const looking = (async () => {
      while (!over) {
        const from = performance.now()
        const headers = { Cookie: cookie }
        for (const part of ['wishes', 'settle'])
          await fetch(`http://127.0.0.1:${haplon.port}/api/sheets/${sheet.code}/${part}`, { headers }).then(
            (answer) => answer.text(),
          )
        looks.push(performance.now() - from)
        await pause(LOOKS)
      }
    })()
    await wave(ours, ask)
    over = true
    await looking
    await wave(theirs, askBare)
  }
  for (const connection of [...connections, ...bareConnections]) connection.close()
  const memory = haplon.peakMemory()
  await haplon.stop()
  await bare.stop()

  const db = openDb(file)
  const stores = createStores(db)
  const ids = new Map(stores.sheets.topics(sheet.id).map(({ id, code }) => [id, code]))
  const lost = students.filter(({ enrolment }, n) => {
    const row = stores.wishes.of(sheet.id, enrolment)
    const ranks = (JSON.parse(row?.ranks ?? '[]') as number[][]).map((all) => all.map((id) => ids.get(id)))
    return JSON.stringify(ranks) !== kept[n]?.ranks
  }).length
  db.close()
  const line = (name: string, { answers, seconds, waits }: ReturnType<typeof load>) =>
    say(
      `${name}: ${(answers / seconds).toFixed(0)} answers a second, p99 ${percentile(waits, 0.99).toFixed(0)} ms`,
    )
  say(`${STUDENTS} students keep ${WISHES} of ${TOPICS} topics, ${WAVES} times, while staff look`)
  line('orders', ours)
  line('bare', theirs)
  say(`ranking ratio ${(ours.answers / ours.seconds / (theirs.answers / theirs.seconds)).toFixed(2)}`)
  say(`what a forecast reads: median ${percentile(looks, 0.5).toFixed(0)} ms, ${looks.length} looks`)
  say(`lost ${lost}`)
  say(`wrong answers ${wrong}`)
  say(`peak memory ${memory.toFixed(0)} MiB`)
} finally {
  rmSync(folder, { recursive: true, force: true })
}
