/** An address as it is kept and compared: trimmed and in lower case. */
export function normalEmail(typed: string): string {
  return typed.trim().toLowerCase()
}

const EMAIL = /^[^\s@<>()[\]\\,;:"]+@[^\s@<>()[\]\\,;:".]+(\.[^\s@<>()[\]\\,;:".]+)+$/

/** True for an address that mail can be sent to: one `@`, no blanks, a domain with a dot, 254 characters at most (RFC 5321). */
export function isEmail(address: string): boolean {
  return address.length <= 254 && EMAIL.test(address) && !address.includes('..')
}
