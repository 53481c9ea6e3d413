import { pino } from 'pino'
import { afterEach, beforeEach, expect, it } from 'vitest'
import { openDb } from '../db/open.ts'
import type { ProblemError } from '../http/problem.ts'
import { createHub } from '../live/hub.ts'
import { createOutboxMailer } from '../mail/mailer.ts'
import { createStores } from '../stores.ts'
import { createUnitOfWork } from '../unitOfWork.ts'
import { createClaims } from './claims.ts'

const NOW = '2026-05-06T08:00:00.000Z'
let db: ReturnType<typeof openDb>
beforeEach(() => {
  db = openDb(':memory:')
})
afterEach(() => {
  db.close()
})

/** An engine over an open sheet of one topic, with so many students. */
function engine(students: number, mostWaiting: number, { time = () => 0 }: { time?: () => number } = {}) {
  const stores = createStores(db)
  const course = stores.courses.add({ courseCode: 'FERM 1', title: 'Fermentation', zone: 'UTC' }, NOW)
  const ids = Array.from({ length: students }, (_, n) => {
    const person = stores.roster.ensurePerson(`s${n}@school.example`, NOW)
    const fields = { name: `Student ${n}`, role: 'student', section_id: null, status: 'active' } as const
    stores.roster.enrol(course.id, person.id, fields, NOW)
    return stores.roster.enrolmentIn(course.id, person.id)!.id
  })
  const sheet = stores.sheets.add(course.id, { title: 'Benches', contact: '', seats: 2, floor: 1 }, NOW)
  stores.sheets.change(sheet.id, { ...sheet, opens_at: NOW, closes_at: '2026-05-13T08:00:00.000Z' })
  stores.sheets.publish(sheet.id, NOW)
  const topic = { title: 'Tempeh', brief: '', place: '', link: '', starts_at: null, ends_at: null }
  stores.sheets.addTopic(sheet.id, { ...topic, seats: null, floor: null, mixed: null }, [null], NOW)
  const [group] = stores.sheets.groups(sheet.id)
  const touched: number[] = []
  const hub = { ...createHub(stores), touched: (id: number) => void touched.push(id) }
  const mailer = createOutboxMailer(stores.mail, () => NOW)
  const claims = createClaims({
    db,
    clock: () => NOW,
    log: pino({ level: 'silent' }),
    ...stores,
    unit: createUnitOfWork({ db, stores, mailer, hub, calm: () => {} }),
    mostWaiting,
    time,
  })
  const take = (n: number, key = `key-of-${n}-1`) =>
    claims.submit({
      sheetId: sheet.id,
      enrolmentId: ids[n]!,
      actorId: 1,
      key,
      ask: { kind: 'take', to: group!.code },
    })
  return { take, stores, sheet, touched }
}

it('decides those that came together in order of arrival, and tells the sheet once', async () => {
  const { take, touched, sheet } = engine(4, 10)
  const outcomes = await Promise.all([take(2), take(0), take(3), take(1)])
  expect(outcomes.map(({ granted }) => granted)).toEqual([true, true, false, false])
  expect(touched).toEqual([sheet.id])
})

it('sends claims away when too many wait, at once and without a trace', async () => {
  const { take, stores, sheet } = engine(5, 3)
  const asked = [0, 1, 2, 3, 4].map((n) =>
    take(n).then(
      ({ granted }) => granted,
      (error: ProblemError) => error.code,
    ),
  )
  expect(await Promise.all(asked)).toEqual([true, true, false, 'too-busy', 'too-busy'])
  expect(stores.seats.ofSheet(sheet.id)).toHaveLength(2)
  // Those who come again under the same key are decided then.
  expect(await take(3)).toEqual({ granted: false, reason: 'group-full' })
})

it('lets a claim that breaks take only itself back', async () => {
  const { take, stores, sheet } = engine(3, 10)
  await take(0, 'used-already')
  db.exec(
    "CREATE TRIGGER breaks BEFORE INSERT ON claim_answer WHEN NEW.claim_key = 'breaks-here' BEGIN SELECT RAISE(ABORT, 'broken'); END",
  )
  const [broken, fine] = await Promise.allSettled([take(1, 'breaks-here'), take(2)])
  expect(broken.status).toBe('rejected')
  expect(fine).toEqual({ status: 'fulfilled', value: { granted: true } })
  expect(stores.seats.ofSheet(sheet.id)).toHaveLength(2)
})

it('decides for as long as a turn lasts, so that others are heard between two turns', async () => {
  // Each look at the clock is three milliseconds later than the one before.
  let now = 0
  const time = () => {
    now += 3
    return now
  }
  const { take, stores, sheet } = engine(30, 100, { time })
  const order: string[] = []
  const outcomes = Array.from({ length: 30 }, (_, n) => take(n).then(() => order.push(`claim ${n}`)))
  setImmediate(() => setImmediate(() => setImmediate(() => order.push('somebody else'))))
  await Promise.all(outcomes)
  expect(order.indexOf('somebody else')).toBeGreaterThan(0)
  expect(order.indexOf('somebody else')).toBeLessThan(20)
  expect(order.filter((one) => one !== 'somebody else')).toEqual(
    Array.from({ length: 30 }, (_, n) => `claim ${n}`),
  )
  expect(stores.seats.ofSheet(sheet.id)).toHaveLength(2)
})
