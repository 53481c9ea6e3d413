// Hand-ins with files, held against a bare streaming receiver in the same run: 100 groups bring 20 MiB each and hand it
// in. The two take turns, wave by wave, so that a busy moment of the machine falls on both. Build first: `npm run build`.
import { randomBytes } from 'node:crypto'
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs'
import { Agent, request } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { say } from '../scripts/lib/setup.mjs'
import type { UploadView } from '../src/contract/files.ts'
import type { OwnWork } from '../src/contract/ownWork.ts'
import { openDb } from '../src/server/db/open.ts'
import { createStores } from '../src/server/stores.ts'
import { FRESH } from '../src/server/tasks/edits.ts'
import { fillBigCourse } from './lib/bigCourse.ts'
import { startHaplon, startReceiver } from './lib/servers.ts'

const GROUPS = Number(process.env.GROUPS ?? 100)
const MIB = 1024 * 1024
const SIZE = Number(process.env.SIZE ?? 20) * MIB
/** Groups that hand in at the same moment. */
const AT_ONCE = 20
/** Small files first, to see whether memory grows with them. */
const SMALL = MIB

const folder = mkdtempSync(join(tmpdir(), 'haplon-bench-'))
const file = join(folder, 'bench.db')
const bareFolder = join(folder, 'bare')
mkdirSync(bareFolder)
const agent = new Agent({ keepAlive: true })
const bytes = randomBytes(SIZE)

interface Sent {
  port: number
  method: string
  path: string
  body: Buffer | string
  headers?: Record<string, string>
}

function send({ port, method, path, body, headers = {} }: Sent): Promise<{ status: number; text: string }> {
  return new Promise((resolve, reject) => {
    const length = String(typeof body === 'string' ? Buffer.byteLength(body) : body.length)
    const options = { agent, host: '127.0.0.1', port, method, path }
    const out = request({ ...options, headers: { 'Content-Length': length, ...headers } }, (answer) => {
      let text = ''
      answer.setEncoding('utf8')
      answer.on('data', (part: string) => {
        text += part
      })
      answer.on('end', () => resolve({ status: answer.statusCode ?? 0, text }))
    })
    out.on('error', reject)
    out.end(body)
  })
}

try {
  const course = fillBigCourse(file, {
    students: GROUPS,
    sheets: [{ groups: GROUPS, seats: 3, filled: true }],
  })
  const sheet = course.sheets[0]!
  const db = openDb(file)
  const stores = createStores(db)
  const now = new Date().toISOString()
  const tasks = ['Small', 'Large'].map((title) =>
    stores.tasks.add(sheet.id, { ...FRESH, title, takes_files: 1, out_at: now }, now),
  )
  db.close()
  const ours = await startHaplon(file, 4886)
  const bare = await startReceiver(bareFolder, 4887)
  const at = `/api/sheets/${sheet.code}`

  const handIn = async (n: number, task: string, size: number): Promise<void> => {
    const cookie = course.students[n]?.cookie ?? ''
    const group = sheet.groups[n % sheet.groups.length] ?? ''
    const own = { Cookie: cookie, Origin: `http://127.0.0.1:${ours.port}` }
    const post = (path: string, body: object) =>
      send({
        port: ours.port,
        method: 'POST',
        path: `${at}${path}`,
        body: JSON.stringify(body),
        headers: { ...own, 'Content-Type': 'application/json' },
      })
    const aim = { aim: 'work', task, group }
    const begun = await post('/uploads', { name: 'report.bin', size, modified: n, ...aim })
    if (begun.status !== 200) throw new Error(begun.text)
    const { code } = JSON.parse(begun.text) as UploadView
    const headers = { ...own, 'Content-Type': 'application/offset+octet-stream', 'Upload-Offset': '0' }
    const path = `${at}/uploads/${code}`
    const sent = await send({
      port: ours.port,
      method: 'PATCH',
      path,
      body: bytes.subarray(0, size),
      headers,
    })
    if (sent.status !== 204) throw new Error(sent.text)
    const read = await send({
      port: ours.port,
      method: 'GET',
      path: `${at}/own-work`,
      body: '',
      headers: own,
    })
    const brought =
      (JSON.parse(read.text) as OwnWork).tasks.find((one) => one.code === task)?.work?.brought ?? []
    const files = brought.map((one) => one.code)
    const done = await post(`/tasks/${task}/hand-ins`, { group, text: '', files, after: 0 })
    if (done.status !== 200) throw new Error(done.text)
  }
  const wave = async (one: (n: number) => Promise<void>, from: number): Promise<number> => {
    const began = performance.now()
    const numbers = Array.from({ length: Math.min(AT_ONCE, GROUPS - from) }, (_, i) => from + i)
    await Promise.all(numbers.map(one))
    return (performance.now() - began) / 1_000
  }
  const toBare = async (): Promise<void> => {
    const { status } = await send({ port: bare.port, method: 'PUT', path: '/', body: bytes })
    if (status !== 204) throw new Error(`the bare receiver answered ${status}`)
  }

  for (let from = 0; from < GROUPS; from += AT_ONCE) await wave((n) => handIn(n, tasks[0]!.code, SMALL), from)
  const small = ours.peakMemory()
  const seconds = { ours: 0, bare: 0 }
  for (let from = 0; from < GROUPS; from += AT_ONCE) {
    seconds.ours += await wave((n) => handIn(n, tasks[1]!.code, SIZE), from)
    seconds.bare += await wave(toBare, from)
  }
  const total = (GROUPS * SIZE) / MIB
  say(
    `${GROUPS} groups handed in ${SIZE / MIB} MiB each in ${seconds.ours.toFixed(1)} s, ${(total / seconds.ours).toFixed(0)} MiB/s`,
  )
  say(`the bare receiver took ${seconds.bare.toFixed(1)} s, ${(total / seconds.bare).toFixed(0)} MiB/s`)
  say(`handin ratio ${(seconds.bare / seconds.ours).toFixed(2)}`)
  say(
    `peak memory ${ours.peakMemory().toFixed(0)} MiB; with files of ${SMALL / MIB} MiB ${small.toFixed(0)} MiB`,
  )
  await Promise.all([ours.stop(), bare.stop()])
} finally {
  agent.destroy()
  rmSync(folder, { recursive: true, force: true })
}
