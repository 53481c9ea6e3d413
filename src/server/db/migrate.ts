import { chmodSync, copyFileSync, readdirSync, readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import type { Database } from 'better-sqlite3'

// The same place beside the source and beside the built server.
const FOLDER = fileURLToPath(new URL('./migrations/', import.meta.url))

/** Who may read a database: whoever runs the server, nobody else. */
export const OWNER_ONLY = 0o600

/**
 * Runs the numbered migrations that the database has not seen, each in one transaction, forward only.
 * A file that already holds data is copied first, as `<file>.before-<number>`.
 * @throws Error in a sentence when the file was made by a newer version, whose schema is not known here, or when one
 * of them fails: with the file, both numbers, and the copy
 */
export function migrate(db: Database, file: string, steps = migrations()): void {
  const version = db.pragma('user_version', { simple: true }) as number
  const newest = steps.at(-1)?.number ?? 0
  if (version > newest)
    throw new Error(
      `HAPLON_DB names ${file}, which a newer version of Haplon made: its schema is number ${version}, and this version knows up to ${newest}. Start the newer version, or a copy from before it (${file}.before-…).`,
    )
  const pending = steps.filter(({ number }) => number > version)
  const first = pending[0]
  if (!first) return
  const copy =
    version > 0 && file !== ':memory:' ? `${file}.before-${String(first.number).padStart(4, '0')}` : null
  if (copy !== null) {
    db.pragma('wal_checkpoint(TRUNCATE)')
    copyFileSync(file, copy)
    chmodSync(copy, OWNER_ONLY)
  }
  // A table is made anew under its own name where a check in it changes; until then its children point nowhere.
  // That none does afterwards is looked at before the commit (https://www.sqlite.org/lang_altertable.html, section 7).
  db.pragma('foreign_keys = OFF')
  for (const step of pending) {
    try {
      db.transaction(() => run(db, step)).exclusive()
    } catch (error) {
      throw new Error(failed(db, file, step, copy, error), { cause: error })
    }
  }
  db.pragma('foreign_keys = ON')
}

interface Migration {
  number: number
  sql: string
  /** The file that it stands in. */
  name?: string
}

function run(db: Database, { number, sql }: Migration): void {
  db.exec(sql)
  const broken = db.pragma('foreign_key_check') as { table: string }[]
  if (broken[0]) throw new Error(`it leaves rows of ${broken[0].table} that point nowhere`)
  db.pragma(`user_version = ${number}`)
}

/** What whoever runs the server needs to know of a migration that failed, in a sentence. */
function failed(db: Database, file: string, step: Migration, copy: string | null, error: unknown): string {
  const why = error instanceof Error ? error.message : String(error)
  const version = db.pragma('user_version', { simple: true })
  const kept = copy === null ? '' : ` A copy from before this start is ${copy}.`
  return `HAPLON_DB names ${file}, whose schema is number ${version}. Migration ${step.name ?? step.number} could not bring it to number ${step.number}: ${why}. The file is as it was at number ${version}.${kept} Was it used by a version that is between two that were handed out? Then start from the copy that stands beside it.`
}

function migrations(): Migration[] {
  return readdirSync(FOLDER)
    .filter((name) => /^\d{4}-.+\.sql$/.test(name))
    .sort()
    .map((name) => ({
      number: Number(name.slice(0, 4)),
      sql: readFileSync(`${FOLDER}/${name}`, 'utf8'),
      name,
    }))
}
