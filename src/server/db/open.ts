import Database from 'better-sqlite3'
import { migrate } from './migrate.ts'

export type Db = Database.Database

function openFile(file: string): Db {
  try {
    return new Database(file)
  } catch (error) {
    const reason = error instanceof Error ? error.message : String(error)
    throw new Error(`HAPLON_DB names ${file}, which cannot be opened: ${reason}`)
  }
}

/**
 * Opens a database file (or `:memory:`), brings it to the newest schema, and sets what must hold on every
 * connection: WAL, foreign keys, a flush with each commit.
 */
export function openDb(file: string): Db {
  const db = openFile(file)
  db.pragma('journal_mode = WAL')
  db.pragma('foreign_keys = ON')
  db.pragma('synchronous = FULL')
  db.pragma('busy_timeout = 5000')
  migrate(db, file)
  return db
}
