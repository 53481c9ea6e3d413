import type { Response } from 'express'

/**
 * Answers with JSON. Nothing of the API is compared or asked for in parts, so text and headers leave in one piece, without
 * being looked at for tags and ranges first.
 */
export function sendJson(res: Response, value: unknown, type = 'application/json'): void {
  const text = JSON.stringify(value)
  res.setHeader('Content-Type', `${type}; charset=utf-8`)
  res.setHeader('Content-Length', Buffer.byteLength(text))
  res.end(text)
}
