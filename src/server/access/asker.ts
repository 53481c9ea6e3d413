import { randomBytes } from 'node:crypto'
import { isIPv6 } from 'node:net'
import type { CookieOptions, Request, Response } from 'express'
import { DAY } from '../../core/instant.ts'
import { hashOf } from '../codes.ts'

/** Days for which a browser is known by the cookie that it got when it first asked. */
const DAYS = 90

/** Who asks to be let in, as far as can be told before anybody is. */
export interface Asker {
  /** The browser's cookie, hashed; null where it sent none. */
  browser: string | null
  /** The network address; of IPv6 the first half, which is what one household or room has. */
  network: string
}

/** A browser that asks for a mail: known from now on, whether it was before or not. */
export interface NewAsker extends Asker {
  browser: string
  /** Whether it came without a cookie. */
  fresh: boolean
}

export type Askers = ReturnType<typeof createAskers>

/**
 * Tells browsers apart that ask to be let in, by a cookie that says nothing of whose they are: what one of them tries
 * in vain is not held against another.
 */
export function createAskers(secure: boolean) {
  const name = secure ? '__Host-haplon_asker' : 'haplon_asker'
  const cookie: CookieOptions = { httpOnly: true, sameSite: 'lax', secure, path: '/', maxAge: DAYS * DAY }
  const of = (req: Request): Asker => {
    const token: unknown = req.cookies?.[name]
    const known = typeof token === 'string' && /^[\w-]{32}$/.test(token)
    return { browser: known ? hashOf(token) : null, network: networkOf(req.ip ?? '') }
  }
  return {
    of,
    /** The browser that asks, which gets its cookie if it has none. Gives it as it will be known from now on. */
    known(req: Request, res: Response): NewAsker {
      const asker = of(req)
      if (asker.browser !== null) return { ...asker, browser: asker.browser, fresh: false }
      const token = randomBytes(24).toString('base64url')
      res.cookie(name, token, cookie)
      return { ...asker, browser: hashOf(token), fresh: true }
    },
  }
}

function networkOf(ip: string): string {
  const plain = ip.replace(/^::ffff:(?=\d+\.)/, '')
  if (!isIPv6(plain)) return plain
  const [head = '', tail] = plain.split('::')
  const start = head.split(':').filter(Boolean)
  const end = tail === undefined ? [] : tail.split(':').filter(Boolean)
  const gap = Array.from({ length: Math.max(0, 8 - start.length - end.length) }, () => '0')
  return `${[...start, ...gap, ...end].slice(0, 4).join(':')}::/64`
}
