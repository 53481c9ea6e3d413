import type { CookieOptions, Request, Response } from 'express'
import { describe, expect, it } from 'vitest'
import { DAY } from '../../core/instant.ts'
import { hashOf } from '../codes.ts'
import { createAskers } from './asker.ts'

const TOKEN = 'aB3-_xyz'.repeat(4)
const from = (ip: string | undefined, cookies?: Record<string, unknown>) =>
  ({ ...(ip !== undefined && { ip }), ...(cookies && { cookies }) }) as Request

/** A response that keeps the cookies it is given. */
function answer() {
  const cookies: [name: string, value: string, options: CookieOptions][] = []
  const res = { cookie: (...given: (typeof cookies)[number]) => void cookies.push(given) }
  return { res: res as unknown as Response, cookies }
}

describe('who asks', () => {
  const askers = createAskers(true)

  it('is told apart by a cookie, which is known by its hash alone', () => {
    expect(askers.of(from('192.0.2.1', { '__Host-haplon_asker': TOKEN }))).toEqual({
      browser: hashOf(TOKEN),
      network: '192.0.2.1',
    })
  })

  it.each([
    ['no cookies', undefined],
    ['another cookie', { haplon_asker: TOKEN }],
    ['one that is too short', { '__Host-haplon_asker': TOKEN.slice(1) }],
    ['one that is too long', { '__Host-haplon_asker': `${TOKEN}a` }],
    ['one with other letters', { '__Host-haplon_asker': `${TOKEN.slice(1)}!` }],
    ['one that is no text', { '__Host-haplon_asker': { length: 32 } }],
  ])('is known by nothing with %s', (_what, cookies) => {
    expect(askers.of(from('192.0.2.1', cookies)).browser).toBeNull()
  })

  it.each([
    ['192.0.2.1', '192.0.2.1'],
    ['::ffff:192.0.2.1', '192.0.2.1'],
    ['2001:db8:1:2:3:4:5:6', '2001:db8:1:2::/64'],
    ['2001:db8:1:2::6', '2001:db8:1:2::/64'],
    ['2001:db8::6', '2001:db8:0:0::/64'],
    ['2001::1:2:3:4:6', '2001:0:0:1::/64'],
    ['::1', '0:0:0:0::/64'],
    ['fe80::', 'fe80:0:0:0::/64'],
    ['::ffff:c000:201', '0:0:0:0::/64'],
    ['nowhere', 'nowhere'],
    [undefined, ''],
  ])('comes from %s, whose network is %s', (ip, network) => {
    expect(askers.of(from(ip)).network).toBe(network)
  })
})

describe('a browser that asks for a mail', () => {
  it.each([
    [true, '__Host-haplon_asker'],
    [false, 'haplon_asker'],
  ])(
    'gets a cookie, where there is TLS (%s) for this host alone, and is known by it afterwards',
    (secure, name) => {
      const askers = createAskers(secure)
      const { res, cookies } = answer()
      const asker = askers.known(from('192.0.2.1'), res)
      expect(cookies).toEqual([
        [
          name,
          expect.stringMatching(/^[\w-]{32}$/),
          { httpOnly: true, sameSite: 'lax', secure, path: '/', maxAge: 90 * DAY },
        ],
      ])
      const token = cookies[0]?.[1] ?? ''
      expect(asker).toEqual({ browser: hashOf(token), network: '192.0.2.1', fresh: true })
      const again = answer()
      expect(askers.known(from('192.0.2.1', { [name]: token }), again.res)).toEqual({
        ...asker,
        fresh: false,
      })
      expect(again.cookies).toEqual([])
    },
  )
})
