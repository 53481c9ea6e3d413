import type { RequestHandler } from 'express'
import type { Logger } from 'pino'

/**
 * Notices once where `HAPLON_PROXIES` and what arrives disagree. Believed proxies that are not there let anybody choose
 * the address they come from; proxies that are there and not believed make all of a school one address.
 * @param proxies the number of reverse proxies that is set
 */
export function noticeProxies(proxies: number, log: Logger): RequestHandler {
  let noticed = false
  return (req, _res, next) => {
    if (noticed) return next()
    const hops = (req.get('x-forwarded-for') ?? '').split(',').filter((hop) => hop.trim() !== '').length
    if (hops < proxies) {
      noticed = true
      log.warn(
        { proxies, hops },
        'HAPLON_PROXIES says more proxies than a request came through: whoever reaches the server directly can name any address as their own. Let nobody reach it but the proxy, or lower the number.',
      )
    } else if (proxies === 0 && hops > 0) {
      noticed = true
      log.warn(
        { hops },
        'Requests come through a proxy, and HAPLON_PROXIES is 0: all visitors count as one network. Set it to the number of proxies.',
      )
    }
    next()
  }
}
