import { existsSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import { expect, it } from 'vitest'
import { migrate } from './migrate.ts'
import { openDb } from './open.ts'

it('brings an empty file to the newest schema, and leaves a current one as it is', () => {
  const folder = mkdtempSync(join(tmpdir(), 'haplon-migrate-'))
  const file = join(folder, 'a.db')
  const first = openDb(file)
  first.exec("INSERT INTO person (email, created_at) VALUES ('a@s.example', '')")
  first.close()
  const again = openDb(file)
  expect(again.prepare('SELECT count(*) FROM person').pluck().get()).toBe(1)
  expect(again.pragma('journal_mode', { simple: true })).toBe('wal')
  expect(again.pragma('synchronous', { simple: true })).toBe(2)
  expect(again.pragma('foreign_keys', { simple: true })).toBe(1)
  again.close()
  rmSync(folder, { recursive: true })
})

it('keeps a copy of a file that holds an older schema', () => {
  const folder = mkdtempSync(join(tmpdir(), 'haplon-migrate-'))
  const file = join(folder, 'a.db')
  const db = new Database(file)
  db.exec('CREATE TABLE old (id INTEGER)')
  const steps = [{ number: 1, sql: 'CREATE TABLE one (id INTEGER)' }]
  migrate(db, file, steps)
  expect(existsSync(`${file}.before-0001`)).toBe(false)
  migrate(db, file, [...steps, { number: 2, sql: 'CREATE TABLE two (id INTEGER)' }])
  const copy = new Database(`${file}.before-0002`)
  expect(copy.prepare("SELECT name FROM sqlite_master WHERE name IN ('one', 'two')").pluck().all()).toEqual([
    'one',
  ])
  copy.close()
  expect(() => migrate(db, file, [{ number: 3, sql: 'CREATE TABLE three (id INTEGER); nonsense' }])).toThrow()
  expect(db.pragma('user_version', { simple: true })).toBe(2)
  expect(db.prepare("SELECT count(*) FROM sqlite_master WHERE name = 'three'").pluck().get()).toBe(0)
  db.close()
  rmSync(folder, { recursive: true })
})
