// What 2,000 students do at the opening minute, whole, over cold connections: the page, its code, who they are, the
// sheet, the stream, a seat, and one in four moves. All come within a minute. Prints the time from coming to a seat,
// and the same for a bare server that answers as many bytes to each. Build first: `npm run build`.
import { mkdtempSync, rmSync } from 'node:fs'
import { Agent, request } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { gunzipSync } from 'node:zlib'
import { say } from '../scripts/lib/setup.mjs'
import type { StudentSheet } from '../src/contract/seats.ts'
import { type BenchSheet, fillBigCourse } from './lib/bigCourse.ts'
import { percentile } from './lib/figures.ts'
import { startBareOpening, startHaplon } from './lib/servers.ts'

const STUDENTS = Number(process.env.STUDENTS ?? 2_000)
const GROUPS = 60
const SEATS = Math.ceil((STUDENTS / GROUPS) * 1.1)
/** Milliseconds within which all of them come. */
const WITHIN = Number(process.env.WITHIN ?? 60_000)
/** Students of the round that warms a server up. */
const WARMING = 200

interface Heard {
  status: number
  text: () => string
  /** Bytes of the body as they came over the wire. */
  bytes: number
}

/** Sends one request over a student's own connection. */
function send(
  port: number,
  agent: Agent | false,
  method: string,
  path: string,
  { cookie = '', body }: { cookie?: string; body?: object } = {},
): Promise<Heard> {
  return new Promise((resolve, reject) => {
    const host = `127.0.0.1:${port}`
    const headers = {
      Origin: `http://${host}`,
      'Accept-Encoding': 'gzip',
      ...(cookie && { Cookie: cookie }),
      ...(body && { 'Content-Type': 'application/json' }),
    }
    const asked = request(
      { host: '127.0.0.1', port, method, path, agent: agent || false, headers },
      (answer) => {
        const parts: Buffer[] = []
        answer.on('data', (part: Buffer) => parts.push(part))
        answer.once('end', () => {
          const whole = Buffer.concat(parts)
          const packed = answer.headers['content-encoding'] === 'gzip'
          const text = () => (packed ? gunzipSync(whole) : whole).toString()
          resolve({ status: answer.statusCode ?? 0, text, bytes: whole.length })
        })
      },
    )
    asked.on('error', (error: NodeJS.ErrnoException) => {
      // A server may close an idle connection in the moment in which a request is sent: sent again, as browsers do.
      if (error.code === 'ECONNRESET' && asked.reusedSocket)
        send(port, agent, method, path, { cookie, ...(body && { body }) }).then(resolve, reject)
      else reject(error)
    })
    asked.end(body && JSON.stringify(body))
  })
}

/** Opens a stream and keeps it. Resolves with what closes it, once its first bytes are there. */
function stream(port: number, path: string, cookie: string): Promise<() => void> {
  return new Promise((resolve, reject) => {
    const asked = request(
      { host: '127.0.0.1', port, path, agent: false, headers: { Cookie: cookie } },
      (answer) => {
        answer.resume()
        answer.on('error', () => {})
        resolve(() => asked.destroy())
      },
    )
    asked.on('error', reject)
    asked.end()
  })
}

/** Bytes of the answer to each step, in order. */
type Sizes = number[]

/** So many come one after the other; gives how long each took from coming to a seat, in milliseconds. */
async function open(
  one: (n: number, agent: Agent) => Promise<() => void>,
  count = STUDENTS,
): Promise<number[]> {
  const ends: (() => void)[] = []
  const took = await Promise.all(
    Array.from({ length: count }, async (_, n) => {
      await pause((n / STUDENTS) * WITHIN)
      const agent = new Agent({ keepAlive: true, maxSockets: 1 })
      const from = performance.now()
      const end = await one(n, agent)
      ends.push(() => {
        end()
        agent.destroy()
      })
      return performance.now() - from
    }),
  )
  for (const end of ends) end()
  return took
}

const folder = mkdtempSync(join(tmpdir(), 'haplon-bench-'))
try {
  const file = join(folder, 'bench.db')
  const sheets = [
    { groups: GROUPS, seats: SEATS },
    { groups: GROUPS, seats: SEATS },
  ]
  const course = fillBigCourse(file, { students: STUDENTS, sheets })
  const haplon = await startHaplon(file, 4873)
  const entry = (await send(haplon.port, false, 'GET', '/')).text()
  const code = [...entry.matchAll(/(?:src|href)="(\/assets\/[^"]+\.(?:js|css))"/g)].map(
    ([, path]) => path ?? '',
  )
  let refused = 0
  const ours = (sheet: BenchSheet, sizes: Sizes[], count = STUDENTS) =>
    open(async (n, agent) => {
      const { cookie = '' } = course.students[n] ?? {}
      const at = `/api/sheets/${sheet.code}`
      const heard: number[] = []
      const get = async (path: string) => {
        const answer = await send(haplon.port, agent, 'GET', path, { cookie })
        heard.push(answer.bytes)
        return answer
      }
      await get(`/sheets/${sheet.code}`)
      for (const path of code) await get(path)
      await get('/api/me')
      const view = JSON.parse((await get(`${at}/student`)).text()) as StudentSheet
      const end = await stream(haplon.port, `${at}/live?since=${view.rev}`, cookie)
      const claim = async (body: object) => {
        const answer = await send(haplon.port, agent, 'POST', `${at}/claims`, { cookie, body })
        heard.push(answer.bytes)
        return answer.status === 200
      }
      // Who is refused tries the next group, as people do.
      let seat: string | null = null
      for (let tries = 0; seat === null && tries < GROUPS; tries++) {
        const to = sheet.groups[(n * 7 + tries) % GROUPS] ?? ''
        if (await claim({ key: `opening-${n}-${tries}`, kind: 'take', to })) seat = to
        else refused += 1
      }
      if (n % 4 === 0 && seat !== null) {
        const to = sheet.groups[(n * 7 + 13) % GROUPS] ?? ''
        if (to !== seat) await claim({ key: `opening-move-${n}`, kind: 'move', from: seat, to })
      }
      sizes[n] = heard
      return end
    }, count)
  const [warmUp, measured] = course.sheets
  if (!warmUp || !measured) throw new Error('no sheet')
  await ours(warmUp, [], WARMING)
  refused = 0
  const sizes: Sizes[] = []
  const seated = await ours(measured, sizes)
  await haplon.stop()

  const bare = await startBareOpening(4874)
  const theirs = (count = STUDENTS) =>
    open(async (n, agent) => {
      const own = sizes[n] ?? []
      const reads = code.length + 3
      for (const bytes of own.slice(0, reads)) await send(bare.port, agent, 'GET', `/bytes/${bytes}`)
      const end = await stream(bare.port, '/stream', '')
      const body = { key: `opening-${n}-0`, kind: 'take', to: measured.groups[0] }
      for (const bytes of own.slice(reads)) await send(bare.port, agent, 'POST', `/bytes/${bytes}`, { body })
      return end
    }, count)
  await theirs(WARMING)
  const plain = await theirs()
  await bare.stop()

  const line = (name: string, took: number[]) =>
    say(
      `${name}: a seat after ${percentile(took, 0.5).toFixed(0)} ms in the median, ${percentile(took, 1).toFixed(0)} ms for the last`,
    )
  say(
    `${STUDENTS} students within ${WITHIN / 1_000} s, each over cold connections; ${refused} claims refused and made again`,
  )
  line('haplon', seated)
  line('bare', plain)
  say(`opening ratio ${(percentile(seated, 1) / percentile(plain, 1)).toFixed(2)}`)
} finally {
  rmSync(folder, { recursive: true, force: true })
}
