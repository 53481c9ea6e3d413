import type { NextFunction, Request, RequestHandler, Response } from 'express'

/**
 * Several middlewares as one, each called once the one before has handed on; a fault ends the row. A router looks for
 * each of its layers anew for every request, which for many small ones costs more than what they do.
 */
export function inOrder(steps: readonly RequestHandler[]): RequestHandler {
  const from = (n: number, req: Request, res: Response, next: NextFunction): void => {
    const step = steps[n]
    if (step === undefined) next()
    else void step(req, res, (error?: unknown) => (error ? next(error) : from(n + 1, req, res, next)))
  }
  return (req, res, next) => from(0, req, res, next)
}
