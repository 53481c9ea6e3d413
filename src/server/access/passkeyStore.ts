import type { Instant } from '../../core/instant.ts'
import type { Db } from '../db/open.ts'

/** A passkey: the public half of a key that an authenticator keeps. */
export interface Passkey {
  id: number
  code: string
  person_id: number
  credential_id: string
  public_key: Buffer
  /** How often the authenticator says it was used. */
  counter: number
  name: string
  created_at: Instant
  used_at: Instant | null
}

export type PasskeyStore = ReturnType<typeof createPasskeyStore>

const PASSKEY =
  'SELECT id, code, person_id, credential_id, public_key, counter, name, created_at, used_at FROM passkey'

/** Passkeys by whose they are. */
export function createPasskeyStore(db: Db) {
  const ofPerson = db.prepare<[number], Passkey>(`${PASSKEY} WHERE person_id = ? ORDER BY id`)
  const byCredential = db.prepare<[string], Passkey>(`${PASSKEY} WHERE credential_id = ?`)
  const add = db.prepare<[number, string, string, Buffer, number, string, Instant]>(
    `INSERT INTO passkey (person_id, code, credential_id, public_key, counter, name, created_at)
     VALUES (?, ?, ?, ?, ?, ?, ?)`,
  )
  const used = db.prepare<[number, Instant, number]>(
    'UPDATE passkey SET counter = ?, used_at = ? WHERE id = ?',
  )
  const remove = db.prepare<[number, string]>('DELETE FROM passkey WHERE person_id = ? AND code = ?')
  return {
    ofPerson: (personId: number) => ofPerson.all(personId),
    byCredential: (credentialId: string) => byCredential.get(credentialId),
    add(
      personId: number,
      made: Pick<Passkey, 'code' | 'credential_id' | 'public_key' | 'counter' | 'name'>,
      now: Instant,
    ): void {
      const { code, credential_id, public_key, counter, name } = made
      add.run(personId, code, credential_id, public_key, counter, name, now)
    },
    used: (id: number, counter: number, now: Instant) => used.run(counter, now, id),
    remove: (personId: number, code: string) => remove.run(personId, code),
  }
}
