import { afterEach, beforeEach, expect, it } from 'vitest'
import { createKeeper } from './kept.ts'
import { type Db, openDb } from './open.ts'

let db: Db
beforeEach(() => {
  db = openDb(':memory:')
  db.exec(
    "CREATE TABLE jar (id INTEGER PRIMARY KEY, label TEXT NOT NULL); INSERT INTO jar VALUES (1, 'miso')",
  )
})
afterEach(() => {
  db.close()
})

function jars() {
  const keeper = createKeeper(db)
  const byId = keeper.db.prepare<[number], { id: number; label: string }>('SELECT * FROM jar WHERE id = ?')
  const relabel = keeper.db.prepare<[string, number]>('UPDATE jar SET label = ? WHERE id = ?')
  let reads = 0
  const jar = keeper.keep((id: number) => {
    reads += 1
    return byId.get(id)
  })
  return { jar, relabel: (id: number, label: string) => relabel.run(label, id), reads: () => reads }
}

it('reads once, and anew after a write', () => {
  const { jar, relabel, reads } = jars()
  expect([jar(1)?.label, jar(1)?.label, reads()]).toEqual(['miso', 'miso', 1])
  relabel(1, 'koji')
  expect([jar(1)?.label, reads()]).toEqual(['koji', 2])
  relabel(99, 'nobody’s')
  expect([jar(1)?.label, reads()]).toEqual(['koji', 2])
})

it('keeps nothing of a transaction that is rolled back', () => {
  const { jar, relabel } = jars()
  jar(1)
  expect(() =>
    db.transaction(() => {
      relabel(1, 'spoiled')
      expect(jar(1)?.label).toBe('spoiled')
      throw new Error('taken back')
    })(),
  ).toThrow('taken back')
  expect(jar(1)?.label).toBe('miso')
})

it('does not keep that something is missing, and does not let what it keeps be changed', () => {
  const { jar } = jars()
  expect(jar(2)).toBeUndefined()
  db.exec("INSERT INTO jar VALUES (2, 'natto')")
  expect(jar(2)?.label).toBe('natto')
  const kept = jar(1)!
  expect(() => {
    kept.label = 'other'
  }).toThrow(TypeError)
})
