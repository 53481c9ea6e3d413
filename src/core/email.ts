import { composed } from './text.ts'

/** An address as it is kept and compared: trimmed, in lower case, and composed, so that one spelling is one person. */
export function normalEmail(typed: string): string {
  return composed(typed.trim().toLowerCase())
}

const EMAIL = /^[^\s@<>()[\]\\,;:"]+@[^\s@<>()[\]\\,;:".]+(\.[^\s@<>()[\]\\,;:".]+)+$/

/** True for an address that mail can be sent to: one `@`, no blanks, a domain with a dot, 254 characters at most (RFC 5321). */
export function isEmail(address: string): boolean {
  return address.length <= 254 && EMAIL.test(address) && !address.includes('..')
}
