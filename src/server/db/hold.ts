import Database from 'better-sqlite3'
import { inWords } from './inWords.ts'

/**
 * Holds a database for one server, whatever port it listens on: mail would go out twice and sessions differ if two
 * worked on one file. The hold is a lock of the operating system on a file beside it, so it ends with the process,
 * however that ends; reading the database with other programs and copying it stay possible.
 * @returns lets go
 * @throws Error in a sentence when another server holds it, or when nothing can be written there
 */
export function holdDb(file: string): () => void {
  if (file === ':memory:') return () => {}
  const beside = `${file}.held`
  let lock: Database.Database | undefined
  try {
    lock = inWords(file, () => new Database(beside, { timeout: 0 }))
    // In rollback mode an exclusive transaction keeps every other process out for as long as it is open.
    lock.pragma('journal_mode = MEMORY')
    lock.exec('BEGIN EXCLUSIVE')
  } catch (error) {
    lock?.close()
    if (!(error as { code?: string }).code?.startsWith('SQLITE_BUSY')) throw error
    throw new Error(
      `Another Haplon server works on ${file}. Stop that one first: two on one database would send every mail twice.`,
    )
  }
  const held = lock
  return () => held.close()
}
