import { spawn } from 'node:child_process'
import { chmodSync, existsSync, mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import { afterEach, beforeEach, expect, it } from 'vitest'
import { holdDb } from './hold.ts'
import { openDb } from './open.ts'

let folder: string
let file: string
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'haplon-hold-'))
  file = join(folder, 'a.db')
})
afterEach(() => rmSync(folder, { recursive: true, force: true }))

it('one server holds a file; the next one says so until the first has let go', () => {
  const letGo = holdDb(file)
  expect(() => holdDb(file)).toThrow(/Another Haplon server works on/)
  letGo()
  holdDb(file)()
})

it('a hold ends with its process, however that ends, and nobody else’s reading is in the way', async () => {
  openDb(file).close()
  const script = `import { holdDb } from './src/server/db/hold.ts'
    holdDb(process.argv[1]); console.log('held'); setInterval(() => {}, 1000)`
  const other = spawn(process.execPath, ['--import', 'tsx', '--input-type=module', '-e', script, file])
  await new Promise((resolve) => other.stdout.once('data', resolve))
  expect(() => holdDb(file)).toThrow(/Another Haplon server works on/)
  const reader = new Database(file, { readonly: true })
  expect(reader.prepare('SELECT count(*) FROM person').pluck().get()).toBe(0)
  reader.close()
  const ended = new Promise((resolve) => other.once('close', resolve))
  other.kill('SIGKILL')
  await ended
  holdDb(file)()
})

it('only whoever runs the server may read the database and what lies beside it', () => {
  writeFileSync(file, '', { mode: 0o644 })
  const db = openDb(file)
  db.exec("INSERT INTO person (email, created_at) VALUES ('a@s.example', '')")
  for (const end of ['', '-wal', '-shm'])
    expect(existsSync(`${file}${end}`) && statSync(`${file}${end}`).mode & 0o777, end).toBe(0o600)
  db.close()
})

it('a file that is no database, another program’s, or in no folder is named in a sentence and stays as it is', () => {
  const text = join(folder, 'notes.txt')
  writeFileSync(text, 'Starters to feed on Tuesday.\n'.repeat(100))
  expect(() => openDb(text)).toThrow(/HAPLON_DB names .*notes\.txt, which is no database/)
  const foreign = join(folder, 'other.db')
  const other = new Database(foreign)
  other.exec('CREATE TABLE jar (id INTEGER); PRAGMA user_version = 3')
  other.close()
  expect(() => openDb(foreign)).toThrow(/another program’s database/)
  const left = new Database(foreign)
  expect(left.prepare('SELECT name FROM sqlite_master').pluck().all()).toEqual(['jar'])
  expect(left.pragma('journal_mode', { simple: true })).toBe('delete')
  left.close()
  expect(() => openDb(join(folder, 'none', 'a.db'))).toThrow(/which cannot be opened: there is no folder/)
})

// Whoever may do anything is not stopped by what a file allows.
it.skipIf(process.getuid?.() === 0)('a file or folder that may not be written is named', () => {
  openDb(file).close()
  chmodSync(file, 0o400)
  expect(() => openDb(file)).toThrow(/may not be written/)
  chmodSync(folder, 0o500)
  expect(() => holdDb(file)).toThrow(/HAPLON_DB names/)
  chmodSync(folder, 0o700)
})
