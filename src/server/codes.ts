import { hash, randomBytes, randomInt } from 'node:crypto'

const PLAIN = '23456789abcdefghjkmnpqrstvwxyz'

/** A code that nobody can guess (96 random bits), for addresses of things. */
export function newCode(): string {
  return randomBytes(12).toString('base64url')
}

/** A code short enough to read out, for a sheet's link: ten characters that are not mistaken for each other. */
export function newLinkCode(): string {
  return Array.from({ length: 10 }, () => PLAIN[randomInt(PLAIN.length)]).join('')
}

/** A new lot number, 0 to 99,999: short enough to be read out. */
export function newLotNumber(): number {
  return randomInt(100_000)
}

/** What is kept of a token instead of it: whoever reads the database can show none (SHA-256; tokens are long and random). */
export function hashOf(token: string): string {
  return hash('sha256', token)
}
