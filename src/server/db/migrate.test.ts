import { createHash } from 'node:crypto'
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync } from 'node:fs'
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
  expect(statSync(`${file}.before-0002`).mode & 0o777).toBe(0o600)
  const broken = { number: 3, sql: 'CREATE TABLE three (id INTEGER); nonsense', name: '0003-three.sql' }
  // It says which file, from which number to which, why, and where the copy is.
  expect(() => migrate(db, file, [broken])).toThrow(
    new RegExp(
      `${file}.*number 2\\. Migration 0003-three\\.sql .*number 3: near "nonsense".*${file}\\.before-0003`,
    ),
  )
  expect(existsSync(`${file}.before-0003`)).toBe(true)
  expect(db.pragma('user_version', { simple: true })).toBe(2)
  expect(db.prepare("SELECT count(*) FROM sqlite_master WHERE name = 'three'").pluck().get()).toBe(0)
  db.close()
  rmSync(folder, { recursive: true })
})

it('copies what stands in the write-ahead log alone, too', () => {
  const folder = mkdtempSync(join(tmpdir(), 'haplon-migrate-'))
  const file = join(folder, 'a.db')
  const db = new Database(file)
  db.pragma('journal_mode = WAL')
  const steps = [{ number: 1, sql: 'CREATE TABLE one (id INTEGER)' }]
  migrate(db, file, steps)
  db.exec('INSERT INTO one VALUES (7)')
  migrate(db, file, [...steps, { number: 2, sql: 'CREATE TABLE two (id INTEGER)' }])
  const copy = new Database(`${file}.before-0002`)
  expect(copy.prepare('SELECT id FROM one').pluck().all()).toEqual([7])
  copy.close()
  db.close()
  rmSync(folder, { recursive: true })
})

it('keeps people, sessions and places in courses of a file from before sessions were listed', () => {
  const folder = join(import.meta.dirname, 'migrations')
  const steps = readdirSync(folder)
    .sort()
    .map((name) => ({ number: Number(name.slice(0, 4)), sql: readFileSync(join(folder, name), 'utf8') }))
  const db = new Database(':memory:')
  migrate(
    db,
    ':memory:',
    steps.filter(({ number }) => number < 8),
  )
  db.exec(`
    INSERT INTO person (id, email, created_at) VALUES (1, 'a@s.example', 't0'), (2, 'b@s.example', 't0');
    INSERT INTO course (id, code, course_code, title, zone, created_at) VALUES (1, 'c', 'FERM', 'F', 'UTC', 't0');
    INSERT INTO enrolment (code, course_id, person_id, name, role, status, created_at)
      VALUES ('e', 1, 1, 'Ada', 'student', 'active', 't1');
    INSERT INTO session (token_hash, person_id, created_at, last_seen_at) VALUES ('h1', 1, 't2', 't3'), ('h2', 2, 't2', 't3');
    INSERT INTO sign_in_code (person_id, code_hash, created_at, expires_at, tries_left) VALUES (1, 'x', 't2', 't3', 5);
  `)
  migrate(db, ':memory:', steps)
  expect(db.prepare('SELECT here_since FROM enrolment').pluck().all()).toEqual(['t1'])
  const codes = db.prepare<[], string>('SELECT code FROM session ORDER BY id').pluck().all()
  expect(new Set(codes).size).toBe(2)
  expect(codes.every((code) => code.length >= 16)).toBe(true)
  // Codes that were on their way are asked for anew.
  expect(db.prepare('SELECT count(*) FROM sign_in_code').pluck().get()).toBe(0)
  db.close()
})

it('does not open a file that a newer version made, and leaves it as it is', () => {
  const folder = mkdtempSync(join(tmpdir(), 'haplon-migrate-'))
  const file = join(folder, 'a.db')
  const db = openDb(file)
  db.pragma('user_version = 9999')
  db.close()
  expect(() => openDb(file)).toThrow(/a newer version of Haplon made: its schema is number 9999/)
  const left = new Database(file)
  expect(left.pragma('user_version', { simple: true })).toBe(9999)
  left.close()
  rmSync(folder, { recursive: true })
})

// Databases in use have run these. None is edited after its first commit: what is to change is a further one. So each has its
// hash here from that commit on.
const HELD = {
  '0001-foundation.sql': '7144b0cd1cd15f8d49d59761f5312c79583bab4b5858d0618aa32570038bb3cd',
  '0002-choosing.sql': '36f6f4df8e8fb8c57e24060249c165085e5e97c23a9ce1526c14d19afea945e9',
  '0003-settling.sql': 'e908cc1208140428d4c7e5c343a2b7c954497617beb75db87927b17dcf71c3a3',
  '0004-work.sql': '9ba55f4a6679f803a992b1887156cb93799b41553a4bb6c3af6db92e53a8540e',
  '0005-places.sql': '0f978a8c8b3c44690733ea7469573298de10cf052238b562b97d161c03eacef1',
  '0006-plans.sql': '5ea5b2087120b528a0f70e198511e2542b179073f4dba50f8a4640ba85091d9e',
  '0007-standing.sql': '7f8dedb39bbaf905c5b402689afacaddeffa69f2fdf7d3cdb13f3e467b36ba0e',
  '0008-holding.sql': 'd3317a998f4b7992c6a03ea852927b5051ebaceb2c37fdd98d875f4821fe0184',
  '0009-roads.sql': 'e849dba0cf25e3fd8f4cfe192e0a75dbd25f2e1ca8ecdd60d606d99e6fb2331a',
  '0010-course.sql': 'af7d8ca1ea26f6c42d963ad7c0c876e20e9998b16bc1431df2daae9a3b21ee09',
  '0011-teaching.sql': 'cc3b022f082bcbefe54e37249f4f47748c165472f000e221f8d23411e0f5710c',
  '0012-remarks.sql': '4ad38cdf39eaa5cf41d3e63d68f1718be52fd43d1514aa9c54c7e07384561e35',
  '0013-names.sql': 'ecb37a6960be4ce9c47aa37ea67171a3189d2fde16a8bcb40e1baf80138be887',
  '0014-calendar.sql': '300202fc27aa4934c6bac5198c2469856bc73d3deb48f30dfe8334922a9a8f65',
  '0015-programs.sql': 'ffb7b5ddc8798e787164b36eb5c66a363f4849515cacfee22c9e6bf5efc7594d',
  '0016-wishes.sql': '895db448af4d62d6a640fd38ed3f1cb92acca07949e06ca05c5cb13b709d36c4',
  '0017-swaps.sql': '32878c81789ff0f41a51021901780c7074a9e0ed30d375d96b84c02b99907036',
  '0018-extra-seats.sql': 'a516e74a40c77cc71790c9d2213b92076d0f45c71772e3056724a5f3bd93afa1',
  '0019-roster-steps.sql': '443df5c0dfcbe23e663dab49c5834772b2f23e7358087ae662b25661b57650c1',
  '0020-mail-numbers.sql': 'ad50ad0f169002e37143ecfa96265e24ef4fcdbb495a3fac3e9b8707dded4c73',
}

it('every migration is as it was first committed, and each is held to that', () => {
  const folder = join(import.meta.dirname, 'migrations')
  const hashes = readdirSync(folder).map((name) => [
    name,
    createHash('sha256')
      .update(readFileSync(join(folder, name)))
      .digest('hex'),
  ])
  expect(Object.fromEntries(hashes)).toEqual(HELD)
})
