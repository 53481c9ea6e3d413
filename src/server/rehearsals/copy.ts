import Database from 'better-sqlite3'
import type { Db } from '../db/open.ts'

/** Where the header of a database file says that its journal is a write-ahead log, and what it says instead of it. */
const JOURNAL = { at: [18, 19], rollback: 1 }

/**
 * Copies a database, as it stands, into memory. The copy is written to like the file, and gone with its last reader.
 * (SQLite file format 2, section 1.3: bytes 18 and 19 say how the file is written; memory has no write-ahead log.)
 */
export function copyOfDb(file: string): Db {
  const source = new Database(file, { readonly: true })
  try {
    const bytes = source.serialize()
    for (const at of JOURNAL.at) bytes[at] = JOURNAL.rollback
    const copy = new Database(bytes)
    copy.pragma('foreign_keys = ON')
    return copy
  } finally {
    source.close()
  }
}
