import type { RequestHandler } from 'express'
import { ProblemError } from './problem.ts'

const READS = new Set(['GET', 'HEAD', 'OPTIONS'])

/**
 * Lets a write pass only when the browser says that it comes from our own pages: by `Origin`, or where that is
 * missing by `Sec-Fetch-Site`. A write that carries neither is refused, unless a program shows its token: no browser sends
 * one by itself.
 * @param origin the public address, believed beside the one the request names as its host
 */
export function sameOrigin(origin: string | null): RequestHandler {
  const publicHost = origin === null ? null : new URL(origin).host
  return (req, _res, next) => {
    if (READS.has(req.method) || req.get('authorization') !== undefined) return next()
    const claimed = req.get('origin')
    const host = claimed === undefined ? null : hostOf(claimed)
    const ours =
      claimed === undefined
        ? req.get('sec-fetch-site') === 'same-origin'
        : host !== null && (host === req.get('host') || host === publicHost)
    if (ours) return next()
    throw new ProblemError('wrong-origin', 'Open Haplon at its own address and do it there.')
  }
}

function hostOf(origin: string): string | null {
  try {
    return new URL(origin).host
  } catch {
    return null
  }
}
