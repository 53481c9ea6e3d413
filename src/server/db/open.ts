import Database from 'better-sqlite3'
import { migrate } from './migrate.ts'

export type Db = Database.Database

/**
 * Opens a database file (or `:memory:`), brings it to the newest schema, and sets what must hold on every
 * connection: WAL, foreign keys, a flush with each commit.
 */
export function openDb(file: string): Db {
  const db = new Database(file)
  db.pragma('journal_mode = WAL')
  db.pragma('foreign_keys = ON')
  db.pragma('synchronous = FULL')
  db.pragma('busy_timeout = 5000')
  migrate(db, file)
  return db
}
