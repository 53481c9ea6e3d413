import { existsSync } from 'node:fs'
import { createServer } from 'node:http'
import { parentPort, workerData } from 'node:worker_threads'
import pino from 'pino'
import { type Instant, instantFromMs, msOf, shift } from '../../core/instant.ts'
import { createApp } from '../app.ts'
import { createArrivals } from '../arrivals.ts'
import { createDisk, type Disk } from '../files/disk.ts'
import { createOutboxMailer } from '../mail/mailer.ts'
import type { Enrolment, Person } from '../roster/store.ts'
import type { Sheet } from '../sheets/store.ts'
import { createStores, type Stores } from '../stores.ts'
import type { Beginning, RehearsalSays } from './beginning.ts'
import { copyOfDb } from './copy.ts'
import { hideFrom } from './hidden.ts'

try {
  begin(workerData as Beginning)
} catch (error) {
  const why = error instanceof Error ? error.message : String(error)
  parentPort?.postMessage({ ready: false, why } satisfies RehearsalSays)
}

/** The whole server once more, on a copy of the database, at another hour, for one student. Nothing leaves it. */
function begin(beginning: Beginning): void {
  const { config, folder, socket, sheetId, at } = beginning
  const began = Date.now()
  const clock = () => instantFromMs(msOf(at) + (Date.now() - began))
  const db = copyOfDb(config.db)
  const stores = createStores(db)
  const [player, sheet] = [stores.roster.enrolment(beginning.playerId), stores.sheets.byId(sheetId)]
  if (!player || !sheet) throw new Error('the sheet, or your place in its course, is not there any more')
  const hidden = hideFrom({ enrolment: player, sheet }, db, stores)
  const { person, as } = db.transaction(() => {
    bringOut(sheetId, at, stores)
    const playing = played(beginning, sheet, stores)
    hidden.standIn({ part: playing.part, at })
    return playing
  })()
  const app = createApp({
    db,
    stores,
    config: { ...config, instructors: [] },
    clock,
    log: pino({ level: 'silent' }),
    mailer: createOutboxMailer(stores.mail, clock),
    disk: onTopOf(createDisk(config.files), createDisk(folder)),
    arrivals: createArrivals(),
    web: null,
    as: person,
  })
  createServer(app.express).listen(socket, () => {
    parentPort?.postMessage({ ready: true, as } satisfies RehearsalSays)
  })
}

/** A draft is played as if it were out and open; where the instructor makes the groups, as if they were out. */
function bringOut(sheetId: number, at: Instant, { sheets }: Stores): void {
  const sheet = sheets.byId(sheetId)
  if (!sheet || sheet.published_at !== null) return
  const opens_at = sheet.opens_at === null || sheet.opens_at >= at ? shift(at, -1) : sheet.opens_at
  const ends = sheet.closes_at !== null && sheet.closes_at <= opens_at ? null : sheet.closes_at
  const closes_at = sheet.road === 'made' ? at : ends
  sheets.change(sheetId, { ...sheet, opens_at, closes_at })
  sheets.publish(sheetId, opens_at)
}

/** The person whose part is played; somebody invented is put on the copy's roster. */
function played(
  { enrolmentId, sectionId, at }: Beginning,
  sheet: Sheet,
  { roster, lists }: Stores,
): { part: Enrolment; person: Person; as: string } {
  const real = enrolmentId === null ? undefined : roster.enrolment(enrolmentId)
  if (real) return { part: real, person: roster.putAlone(real, at), as: real.name }
  const courseId = sheet.course_id
  const person = roster.ensurePerson('somebody@rehearsal.invalid', at)
  const fields = { name: 'Somebody New', role: 'student', section_id: sectionId, status: 'active' } as const
  roster.enrol(courseId, person.id, fields, at)
  const part = roster.enrolmentIn(courseId, person.id) as Enrolment
  // A sheet for a list is for somebody on it.
  if (sheet.for_whom === 'list' && sheet.list_id !== null)
    lists.setMembers(sheet.list_id, [...lists.members(sheet.list_id), part.id])
  const section = roster.sectionNames(courseId).get(sectionId ?? 0)
  return { part, person, as: section ? `an invented student of ${section}` : 'an invented student' }
}

/** Reads files where they are kept, and writes new ones into a folder that is gone with the rehearsal. */
function onTopOf(kept: Disk, own: Disk): Disk {
  const pathOf = (stored: string) =>
    existsSync(own.pathOf(stored)) ? own.pathOf(stored) : kept.pathOf(stored)
  return { ...own, pathOf }
}
