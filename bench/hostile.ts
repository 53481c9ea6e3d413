// What the worst request of each kind costs everybody else: bodies as large as each route takes, made from the route's
// own schema, sent by an instructor one after the other while /healthz is asked without pause on another connection.
// Printed is the longest time for which the server answered nobody. Build first: `npm run build`.
import { mkdtempSync, rmSync } from 'node:fs'
import { Agent, request } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { SchemaDescription } from 'yup'
import * as access from '../src/contract/access.ts'
import * as courses from '../src/contract/courses.ts'
import * as marks from '../src/contract/marks.ts'
import * as nudges from '../src/contract/nudges.ts'
import * as plans from '../src/contract/plans.ts'
import * as roster from '../src/contract/roster.ts'
import type { Route } from '../src/contract/route.ts'
import * as seatings from '../src/contract/seatings.ts'
import * as sheets from '../src/contract/sheets.ts'
import * as tasks from '../src/contract/tasks.ts'
import * as topics from '../src/contract/topics.ts'
import { fillTaughtCourse } from './lib/bigCourse.ts'
import { startHaplon } from './lib/servers.ts'

const PORT = 4897
const folder = mkdtempSync(join(tmpdir(), 'haplon-bench-'))
const file = join(folder, 'bench.db')

type Described = SchemaDescription & { fields?: Record<string, Described>; innerType?: Described }

/** A value of a schema whose lists have so many items, so long texts, and nothing in them is right. */
function wrong(described: Described, items: number, letters: number): unknown {
  if (described.type === 'array')
    return Array.from({ length: items }, () =>
      described.innerType ? wrong(described.innerType, 3, 4) : 'xxxx',
    )
  if (described.type === 'object' && described.fields)
    return Object.fromEntries(
      Object.entries(described.fields).map(([name, field]) => [name, wrong(field, items, letters)]),
    )
  if (described.type === 'string') return 'x'.repeat(letters)
  return described.type === 'number' ? -1.5 : {}
}

/** What is right and long: it costs what follows the checks as well. */
const RIGHT: Record<string, object> = {
  '/api/sheets/:sheet/topics/several': {
    topics: Array.from({ length: 100 }, (_, i) => ({
      title: `Jar ${i}`,
      brief: 'Salt, water and **time**. '.repeat(40),
      place: 'Bench 4',
      seats: 4,
    })),
  },
}

/** The bodies that a route is tried with, each below what it takes. */
function bodiesFor({ path, body, bytes }: Route): string[] {
  if (!body) return []
  const described = body.describe() as Described
  const room = bytes - 2_000
  const texts = [
    JSON.stringify(wrong(described, 100_000, 4)),
    JSON.stringify(wrong(described, 5_000, 4)),
    JSON.stringify(wrong(described, 200, 4)),
    JSON.stringify(wrong(described, 2, Math.floor(room / 8))),
    JSON.stringify({
      ...Object.fromEntries(
        Array.from({ length: Math.min(100_000, room / 16) }, (_, i) => [`unknown${i}`, i]),
      ),
    }),
    '['.repeat(Math.min(room, 200_000)),
    `{"a":"${'\\u0041'.repeat(Math.floor(room / 7))}"}`,
    `{"csv":"${'a,b\\n'.repeat(Math.floor(room / 6))}"}`,
    `{"csv":"${'\\"'.repeat(Math.floor(room / 3))}"}`,
  ]
  const right = RIGHT[path]
  if (right) texts.push(JSON.stringify(right))
  return texts.filter((text) => text.length <= bytes)
}

const made = fillTaughtCourse(file)
const server = await startHaplon(file, PORT, { HAPLON_LOG: 'fatal' })
const agent = new Agent({ keepAlive: true, maxSockets: 1 })

/** Asks for /healthz and gives the milliseconds until it was answered. */
const askOnce = () =>
  new Promise<number>((resolve, reject) => {
    const from = performance.now()
    request({ host: '127.0.0.1', port: PORT, path: '/healthz', agent }, (answer) => {
      answer.resume().on('end', () => resolve(performance.now() - from))
    })
      .on('error', reject)
      .end()
  })
// While the largest bodies are made, a kept connection may be closed as idle: sent again over a new one, as browsers do.
const ask = () => askOnce().catch(askOnce)

let longest = 0
let by = ''
let sent = 0
let faults = 0
try {
  const all = [access, courses, roster, sheets, topics, seatings, plans, nudges, tasks, marks].flatMap(
    (part) =>
      Object.values(part).filter(
        (value): value is Route =>
          typeof value === 'object' && value !== null && 'path' in value && 'bytes' in value,
      ),
  )
  for (let i = 0; i < 200; i++) await ask()
  for (const route of all) {
    const path = route.path.replace(/:(\w+)/g, (_, name: string) => ({ ...made })[name as 'sheet'] ?? 'none')
    for (const body of bodiesFor(route)) {
      let done = false
      const send = () =>
        fetch(`http://127.0.0.1:${PORT}${path}`, {
          method: route.method,
          headers: {
            'Content-Type': 'application/json',
            'Sec-Fetch-Site': 'same-origin',
            Origin: `http://127.0.0.1:${PORT}`,
            Cookie: made.cookie,
          },
          body,
        })
      const answer = send()
        .catch(send)
        .then(async (got) => {
          if (got.status >= 500) faults += 1
          await got.arrayBuffer()
        })
        .finally(() => {
          done = true
        })
      while (!done) {
        const held = await ask()
        if (held > longest) {
          longest = held
          by = `${route.method} ${route.path}, ${(body.length / 1024).toFixed(0)} KiB beginning ${body.slice(0, 40)}`
        }
      }
      await answer
      sent += 1
    }
  }
  console.log(`longest hold ${longest.toFixed(0)} ms`)
  console.log(
    `over ${sent} bodies; by ${by}; ${faults} faults of ours; ${server.peakMemory().toFixed(0)} MiB at the most`,
  )
} finally {
  agent.destroy()
  await server.stop()
  rmSync(folder, { recursive: true, force: true })
}
