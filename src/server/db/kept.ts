import type { Db } from './open.ts'

/** Answers kept at once by one query; past it, all are forgotten and read anew. */
const MOST_KEPT = 20_000

/** A database as a store prepares its statements on it. */
export type Preparing = Pick<Db, 'prepare'>

/**
 * Lets a store keep what it reads for as long as none of its own statements has changed a row. A store owns its tables
 * alone, so nothing else can change what it keeps. Nothing is kept that is read in a transaction after a write of the
 * store: it could be rolled back. What is kept is shared, so it is frozen.
 */
export function createKeeper(db: Db): {
  /** The database, noticing what is written through it. */
  db: Preparing
  /** The same query, read once until something is written. */
  keep: <Key extends string | number, Value>(read: (key: Key) => Value) => (key: Key) => Value
} {
  let writes = 0
  /** True from a write inside a transaction until the first read outside of one. */
  let unsure = false
  const prepare = (sql: string) => {
    const statement = db.prepare<unknown[], unknown>(sql)
    if (statement.reader) {
      if (!statement.readonly) throw new Error(`What gives rows and writes is not noticed here: ${sql}`)
      return statement
    }
    const run = statement.run.bind(statement)
    statement.run = (...values) => {
      const result = run(...values)
      if (result.changes > 0) {
        writes += 1
        unsure = db.inTransaction
      }
      return result
    }
    return statement
  }
  function keep<Key extends string | number, Value>(read: (key: Key) => Value): (key: Key) => Value {
    const kept = new Map<Key, Value>()
    let asOf = writes
    return (key) => {
      if (asOf !== writes || kept.size > MOST_KEPT) {
        kept.clear()
        asOf = writes
      }
      const known = kept.get(key)
      if (known !== undefined) return known
      const value = read(key)
      if (!db.inTransaction) unsure = false
      if (value !== undefined && !unsure) kept.set(key, frozen(value))
      return value
    }
  }
  return { db: { prepare: prepare as Db['prepare'] }, keep }
}

function frozen<Value>(value: Value): Value {
  if (Array.isArray(value)) for (const row of value) Object.freeze(row)
  return Object.freeze(value)
}
