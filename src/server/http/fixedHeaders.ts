import type { Request, RequestHandler, Response } from 'express'

/**
 * A middleware that sets what another one sets, without asking it anew for each request: for one whose headers depend on
 * nothing of the request.
 * @throws Error when it does not finish at once, or sets nothing
 */
export function fixedHeaders(middleware: RequestHandler): RequestHandler {
  const headers: (readonly [string, string])[] = []
  let finished = false
  const res = {
    setHeader: (name: string, value: string) => void headers.push([name, value]),
    removeHeader: () => {},
  }
  void middleware({ headers: {} } as Request, res as unknown as Response, (error?: unknown) => {
    if (error !== undefined) throw error
    finished = true
  })
  if (!finished || headers.length === 0) throw new Error('These headers are not the same for every request.')
  return (_req, res, next) => {
    for (const [name, value] of headers) res.setHeader(name, value)
    next()
  }
}
