import { existsSync, mkdirSync, rmSync } from 'node:fs'
import { dirname } from 'node:path'
import { fileURLToPath } from 'node:url'
import type { Instant } from '../core/instant.ts'
import { systemClock } from '../server/clock.ts'
import { readConfig } from '../server/config.ts'
import { holdDb } from '../server/db/hold.ts'
import { start, stopOnSignal } from '../server/start.ts'
import type { Stores } from '../server/stores.ts'
import { bindDoor } from './door.ts'
import { fillSample, STAFF } from './fill.ts'

// The demo: a database made anew at each start, the sample courses in it, and a door to enter as anybody.
const LOT_NUMBER = 48_213

/** How many people of the sample are students and nothing else. */
function studentsIn({ courses, roster }: Stores): number {
  const everybody = courses.all().flatMap(({ id }) => roster.everybody(id))
  const staff = new Set(everybody.flatMap(({ role, email }) => (role === 'student' ? [] : email)))
  return new Set(everybody.map(({ email }) => email).filter((email) => !staff.has(email))).size
}

try {
  const config = readConfig({
    HAPLON_LOG: 'warn',
    ...process.env,
    HAPLON_DB: process.env.HAPLON_DB ?? 'data/demo.db',
    HAPLON_INSTRUCTORS: process.env.HAPLON_INSTRUCTORS ?? STAFF.renske.email,
  })
  mkdirSync(dirname(config.db), { recursive: true })
  // Not from under a server that works on it.
  holdDb(config.db)()
  for (const end of ['', '-wal', '-shm']) rmSync(`${config.db}${end}`, { force: true })
  let moved: Instant | null = null
  const pages = fileURLToPath(new URL('../web/', import.meta.url))
  const running = await start({
    config,
    web: existsSync(`${pages}assets`) ? pages : null,
    clock: () => moved ?? systemClock(),
    demo: bindDoor,
    fill: async (parts) => {
      const clock = {
        set: (instant: Instant) => {
          moved = instant
        },
      }
      await fillSample({ ...parts, clock, now: systemClock(), lotNumber: LOT_NUMBER })
      moved = null
    },
  })
  stopOnSignal(running)
  process.stdout.write(
    [
      '',
      `Haplon runs at ${running.address}`,
      `Enter as anybody of the sample by one click: ${running.address}/door`,
      `  ${STAFF.renske.email}  instructor of FERM 210`,
      `  ${STAFF.matteo.email}  instructor of FERM 210 and, with groups at work, of last term’s`,
      `  ${STAFF.jonas.email}  tutor of FERM 210, instructor of SENS 105`,
      `  and ${studentsIn(running.stores)} students, each listed at the door.`,
      `Or sign in by email; the codes are in the outbox: ${running.address}/outbox`,
      'The sample is made anew at each start. Ctrl C ends it.',
      '',
      '',
    ].join('\n'),
  )
} catch (error) {
  console.error(`The demo did not start.\n${error instanceof Error ? error.message : String(error)}`)
  process.exit(1)
}
