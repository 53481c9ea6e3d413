import { createHash, createSign, generateKeyPairSync, randomBytes } from 'node:crypto'
import { isoCBOR } from '@simplewebauthn/server/helpers'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { type Instant, MINUTE, shift } from '../../core/instant.ts'
import { openDb } from '../db/open.ts'
import type { ProblemError } from '../http/problem.ts'
import { createStores, type Stores } from '../stores.ts'
import { createPasskeys } from './passkeys.ts'

const NOON = '2026-05-04T12:00:00.000Z'
const ORIGIN = 'https://haplon.example'
const PRESENT = 0x01
const ATTESTED = 0x40

let db: ReturnType<typeof openDb>
let stores: Stores
let now: Instant
beforeEach(() => {
  db = openDb(':memory:')
  stores = createStores(db)
  now = NOON
})
afterEach(() => db.close())

const passkeysAt = (origin: string | null = ORIGIN) =>
  createPasskeys(stores.passkeys, stores.roster, origin, () => now)
const asked = (host = 'haplon.example', protocol = 'https') => ({ protocol, get: () => host })
const person = (email = 'ines@haplon.example') => stores.roster.ensurePerson(email, NOON)
const sha256 = (bytes: string | Uint8Array) => createHash('sha256').update(bytes).digest()

/** What answers for a person's passkeys: one key pair (ES256), with `none` for an attestation. */
function authenticator(host = 'haplon.example', origin = ORIGIN) {
  const { publicKey, privateKey } = generateKeyPairSync('ec', { namedCurve: 'P-256' })
  const { x = '', y = '' } = publicKey.export({ format: 'jwk' })
  const raw = randomBytes(16)
  const id = raw.toString('base64url')
  const bytes = (text: string) => new Uint8Array(Buffer.from(text, 'base64url'))
  const key = isoCBOR.encode(
    new Map<number, number | Uint8Array>([
      [1, 2],
      [3, -7],
      [-1, 1],
      [-2, bytes(x)],
      [-3, bytes(y)],
    ]),
  )
  const authData = (flags: number, counter: number, more: Uint8Array = new Uint8Array()) => {
    const count = Buffer.alloc(4)
    count.writeUInt32BE(counter)
    return Buffer.concat([sha256(host), Buffer.from([flags]), count, more])
  }
  const clientData = (type: string, challenge: string) =>
    Buffer.from(JSON.stringify({ type, challenge, origin, crossOrigin: false }))
  const named = { id, rawId: id, type: 'public-key' as const, clientExtensionResults: {} }
  return {
    id,
    /** What the browser sends for a new passkey. */
    made({ challenge }: { challenge: string }) {
      const attested = Buffer.concat([Buffer.alloc(16), Buffer.from([0, raw.length]), raw, key])
      const object = isoCBOR.encode(
        new Map<string, string | Uint8Array | Map<string, string>>([
          ['fmt', 'none'],
          ['attStmt', new Map()],
          ['authData', new Uint8Array(authData(PRESENT | ATTESTED, 0, attested))],
        ]),
      )
      const clientDataJSON = clientData('webauthn.create', challenge).toString('base64url')
      const attestationObject = Buffer.from(object).toString('base64url')
      return { ...named, response: { clientDataJSON, attestationObject } }
    },
    /** What the browser sends to sign in. */
    used({ challenge }: { challenge: string }, counter = 1) {
      const client = clientData('webauthn.get', challenge)
      const data = authData(PRESENT, counter)
      const signature = createSign('sha256')
        .update(Buffer.concat([data, sha256(client)]))
        .sign(privateKey)
      const response = {
        clientDataJSON: client.toString('base64url'),
        authenticatorData: data.toString('base64url'),
        signature: signature.toString('base64url'),
      }
      return { ...named, response }
    },
  }
}

const refused = (work: Promise<unknown>) =>
  expect(work).rejects.toMatchObject({ code: 'passkey-not-valid' } satisfies Partial<ProblemError>)

describe('a passkey', () => {
  it('is made by who is signed in, and lets that person in', async () => {
    const passkeys = passkeysAt()
    const key = authenticator()
    const options = await passkeys.newOptions(asked(), person())
    expect(options.rp).toEqual({ name: 'Haplon', id: 'haplon.example' })
    expect(options.user).toMatchObject({ name: 'ines@haplon.example' })
    expect(options.authenticatorSelection).toMatchObject({
      residentKey: 'required',
      userVerification: 'preferred',
    })
    await passkeys.add(asked(), person(), 'My phone', key.made(options))
    expect(stores.passkeys.ofPerson(person().id)).toMatchObject([
      { credential_id: key.id, name: 'My phone', counter: 0, created_at: NOON, used_at: null },
    ])
    now = shift(NOON, MINUTE)
    const asks = await passkeys.askOptions(asked())
    expect([asks.rpId, asks.allowCredentials]).toEqual(['haplon.example', undefined])
    expect(await passkeys.redeem(asked(), key.used(asks))).toEqual(person())
    expect(stores.passkeys.ofPerson(person().id)).toMatchObject([{ counter: 1, used_at: now }])
  })

  it('names those that somebody has already, so that no device makes a second', async () => {
    const passkeys = passkeysAt()
    const key = authenticator()
    await passkeys.add(asked(), person(), 'One', key.made(await passkeys.newOptions(asked(), person())))
    const again = await passkeys.newOptions(asked(), person())
    expect(again.excludeCredentials?.map(({ id }) => id)).toEqual([key.id])
    const other = await passkeys.newOptions(asked(), person('tom@haplon.example'))
    expect(other.excludeCredentials).toEqual([])
    expect(other.user.id).not.toBe(again.user.id)
    await refused(passkeys.add(asked(), person(), 'Twice', key.made(again)))
  })

  it('is made once with a challenge, within five minutes, by the person it was given to', async () => {
    const passkeys = passkeysAt()
    const key = authenticator()
    const options = await passkeys.newOptions(asked(), person())
    await refused(passkeys.add(asked(), person('tom@haplon.example'), 'Not his', key.made(options)))
    // Used up by the try.
    await refused(passkeys.add(asked(), person(), 'Too often', key.made(options)))
    const late = await passkeys.newOptions(asked(), person())
    now = shift(NOON, 5 * MINUTE)
    await refused(passkeys.add(asked(), person(), 'Late', key.made(late)))
    const asks = await passkeys.askOptions(asked())
    await refused(passkeys.add(asked(), person(), 'For signing in', key.made(asks)))
    const intime = await passkeys.newOptions(asked(), person())
    now = shift(now, 5 * MINUTE - 1)
    await passkeys.add(asked(), person(), 'In time', key.made(intime))
    expect(stores.passkeys.ofPerson(person().id)).toHaveLength(1)
  })

  it('lets in once with a challenge, within five minutes, and none that was given for a new one', async () => {
    const passkeys = passkeysAt()
    const key = authenticator()
    await passkeys.add(asked(), person(), 'One', key.made(await passkeys.newOptions(asked(), person())))
    const asks = await passkeys.askOptions(asked())
    await passkeys.redeem(asked(), key.used(asks, 1))
    await refused(passkeys.redeem(asked(), key.used(asks, 2)))
    await refused(passkeys.redeem(asked(), key.used(await passkeys.newOptions(asked(), person()), 3)))
    const late = await passkeys.askOptions(asked())
    now = shift(NOON, 5 * MINUTE)
    await refused(passkeys.redeem(asked(), key.used(late, 4)))
    await refused(passkeys.redeem(asked(), key.used({ challenge: 'bWFkZSB1cA' }, 5)))
  })

  it('lets nobody in that is unknown, deleted, copied, of another place or signed by another key', async () => {
    const passkeys = passkeysAt()
    const key = authenticator()
    const signIn = async (by: typeof key, counter: number, id = by.id) => {
      const answer = by.used(await passkeys.askOptions(asked()), counter)
      return passkeys.redeem(asked(), { ...answer, id, rawId: id })
    }
    await refused(signIn(key, 1))
    await passkeys.add(asked(), person(), 'One', key.made(await passkeys.newOptions(asked(), person())))
    await signIn(key, 7)
    // A copy counts from where it was copied.
    await refused(signIn(key, 7))
    await refused(signIn(authenticator(), 8, key.id))
    const elsewhere = authenticator('other.example', 'https://other.example')
    await refused(
      passkeys.add(
        asked(),
        person(),
        'Elsewhere',
        elsewhere.made(await passkeys.newOptions(asked(), person())),
      ),
    )
    stores.passkeys.remove(person('tom@haplon.example').id, stores.passkeys.ofPerson(person().id)[0]!.code)
    expect(await signIn(key, 9)).toEqual(person())
    stores.passkeys.remove(person().id, stores.passkeys.ofPerson(person().id)[0]!.code)
    await refused(signIn(key, 10))
  })

  it('is one of twenty at most', async () => {
    const passkeys = passkeysAt()
    for (let n = 0; n < 20; n++) {
      const options = await passkeys.newOptions(asked(), person())
      await passkeys.add(asked(), person(), `Passkey ${n}`, authenticator().made(options))
    }
    const options = await passkeys.newOptions(asked(), person())
    await refused(passkeys.add(asked(), person(), 'One more', authenticator().made(options)))
    expect(stores.passkeys.ofPerson(person().id)).toHaveLength(20)
  })

  it.each([
    ['https://haplon.example', 'elsewhere.example', true],
    ['https://192.0.2.1:8080', 'haplon.example', false],
    ['https://[2001:db8::1]', 'haplon.example', false],
    [null, 'haplon.example', true],
    [null, 'localhost:4800', true],
    [null, '127.0.0.1:4800', false],
    [null, '[::1]:4800', false],
  ])('can be had under a name (%s, asked at %s): %s', async (origin, host, possible) => {
    const passkeys = passkeysAt(origin)
    expect(passkeys.possible(asked(host, 'http'))).toBe(possible)
    if (!possible) await refused(passkeys.askOptions(asked(host, 'http')))
  })

  it('belongs to the address that was asked where none is set', async () => {
    const passkeys = passkeysAt(null)
    const key = authenticator('localhost', 'http://localhost:4800')
    const here = asked('localhost:4800', 'http')
    await passkeys.add(here, person(), 'Here', key.made(await passkeys.newOptions(here, person())))
    expect(await passkeys.redeem(here, key.used(await passkeys.askOptions(here)))).toEqual(person())
    const there = asked('localhost:4900', 'http')
    await refused(passkeys.redeem(there, key.used(await passkeys.askOptions(there), 2)))
  })
})
