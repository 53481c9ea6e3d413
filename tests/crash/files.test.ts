import { readdirSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { afterEach, expect, it } from 'vitest'
import type { UploadView } from '../../src/contract/files.ts'
import { DAY, instantFromMs } from '../../src/core/instant.ts'
import { openDb } from '../../src/server/db/open.ts'
import { createStores } from '../../src/server/stores.ts'
import { type Client, must, setUpSchool, startHarness, studentEmail } from '../http/harness.ts'
import { createCrashServer } from './server.ts'

/** How often the server is killed: a few times here, twenty times by `npm run test:crash`. */
const ROUNDS = Number(process.env.CRASH_ROUNDS ?? 3)
const STUDENTS = 4
const SIZE = 200_000
const PIECE = 60_000

const server = createCrashServer(4861)
afterEach(() => server.kill())

it(
  'leaves no half file and no orphan, however often the server is killed while files arrive',
  async () => {
    const harness = await startHarness()
    const school = await setUpSchool(harness, {
      students: { '': STUDENTS },
      topics: ['Tempeh'],
      seats: STUDENTS,
    })
    await must(school.owner.send('PUT', `/api/sheets/${school.sheet}/extras`, { files: true }))
    harness.clock.set(instantFromMs(Date.now()))
    const file = harness.db.name
    const sheet = harness.stores.sheets.byCode(school.sheet)!
    const window = { opens_at: instantFromMs(Date.now() - DAY), closes_at: instantFromMs(Date.now() + DAY) }
    harness.stores.sheets.change(sheet.id, { ...sheet, ...window })
    const clients: Client[] = Array.from({ length: STUDENTS }, (_, n) => harness.as(studentEmail('', n)))
    const group = harness.stores.sheets.group(school.groups.Tempeh!)!
    for (const n of clients.keys()) {
      const person = harness.stores.roster.personByEmail(studentEmail('', n))!
      const { id } = harness.stores.roster.enrolmentIn(sheet.course_id, person.id)!
      harness.stores.seats.seat(sheet.id, group.id, id, false, harness.clock.now())
    }
    await harness.stop()

    const bytes = new Uint8Array(SIZE).fill(200)
    /** Names of files of which somebody was told that they are kept. */
    const told = new Set<string>()
    for (let round = 0; round < ROUNDS; round++) {
      const address = await server.start(file)
      const at = `${address}/api/sheets/${school.sheet}/uploads`
      let killed = false
      // Killed after so many pieces, not after so long: a busy machine takes few in a while.
      const enough = told.size + 2
      let pieces = 0
      let heard = () => {}
      const poured = new Promise<void>((resolve) => {
        heard = () => told.size >= enough && pieces % 5 === round % 5 && resolve()
      })
      /** One student brings file after file, piece by piece, until the server is gone. */
      const pour = async (n: number) => {
        const headers = { Origin: address, Cookie: clients[n]!.cookie }
        for (let i = 0; !killed; i++) {
          const name = `file-${n}-${round}-${i}.bin`
          const about = { name, size: SIZE, modified: 1, aim: 'group', group: group.code }
          const begun = await fetch(at, {
            method: 'POST',
            headers: { ...headers, 'Content-Type': 'application/json' },
            body: JSON.stringify(about),
          })
          const { code } = (await begun.json()) as UploadView
          for (let offset = 0; offset < SIZE; offset += PIECE) {
            const sent = await fetch(`${at}/${code}`, {
              method: 'PATCH',
              headers: {
                ...headers,
                'Content-Type': 'application/offset+octet-stream',
                'Upload-Offset': String(offset),
              },
              body: bytes.subarray(offset, offset + PIECE),
            })
            if (sent.status !== 204) throw new Error(await sent.text())
            pieces += 1
            heard()
          }
          told.add(name)
        }
      }
      const pouring = clients.map((_, n) => pour(n).catch(() => {}))
      await poured
      killed = true
      server.kill()
      await Promise.all(pouring)

      const folder = `${file}.files`
      const check = (swept: boolean) => {
        const db = openDb(file)
        const stores = createStores(db)
        const versions = stores.groupFiles.versions(group.id)
        const files = stores.files.byIds(versions.map(({ file_id }) => file_id))
        for (const { stored, size } of files) expect(statSync(join(folder, 'kept', stored)).size).toBe(size)
        const names = new Set(files.map(({ name }) => name))
        for (const name of told) expect(names).toContain(name)
        if (swept) {
          expect(readdirSync(join(folder, 'kept')).sort()).toEqual([...stores.files.storedNames()].sort())
          expect(stores.files.storedNames().size).toBe(files.length)
          const codes = stores.files.uploadCodes()
          for (const part of readdirSync(join(folder, 'parts'))) expect(codes).toContain(part)
        }
        db.close()
      }
      check(false)
      // A start sweeps before it lets anybody in.
      await server.start(file)
      server.kill()
      check(true)
    }
    expect(told.size).toBeGreaterThan(ROUNDS)
    await harness.end().catch(() => undefined)
  },
  120_000 + ROUNDS * 30_000,
)
