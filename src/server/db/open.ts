import { chmodSync, existsSync } from 'node:fs'
import Database from 'better-sqlite3'
import { inWords } from './inWords.ts'
import { migrate, OWNER_ONLY } from './migrate.ts'

/** Bytes that the write-ahead log keeps once it was written into the file. */
const LOG_BYTES = 8 * 1024 * 1024

export type Db = Database.Database

/**
 * Opens a database file (or `:memory:`), brings it to the newest schema, and sets what must hold on every
 * connection: WAL, foreign keys, a flush with each commit. On the disk only its owner may read it.
 * @throws Error in a sentence that names the setting and says what is wrong with the file
 */
export function openDb(file: string): Db {
  const db = inWords(file, () => new Database(file))
  try {
    inWords(file, () => {
      refuseForeign(db, file)
      db.pragma('journal_mode = WAL')
      db.pragma('foreign_keys = ON')
      db.pragma('synchronous = FULL')
      db.pragma('busy_timeout = 5000')
      // What a large write left of the log is given back to the disk once it is written into the file.
      db.pragma(`journal_size_limit = ${LOG_BYTES}`)
    })
    migrate(db, file)
    for (const end of file === ':memory:' ? [] : ['', '-wal', '-shm'])
      if (existsSync(`${file}${end}`)) chmodSync(`${file}${end}`, OWNER_ONLY)
    return db
  } catch (error) {
    db.close()
    throw error
  }
}

/** A file with tables that no migration of ours made is another program's, and stays as it is. */
function refuseForeign(db: Db, file: string): void {
  const tables = db.prepare("SELECT name FROM sqlite_master WHERE type = 'table'").pluck().all() as string[]
  const version = db.pragma('user_version', { simple: true }) as number
  const ours = version > 0 && ['person', 'course', 'sheet'].every((name) => tables.includes(name))
  if (tables.length > 0 && !ours)
    throw new Error(`HAPLON_DB names ${file}, which is another program’s database. Name a file of its own.`)
}
