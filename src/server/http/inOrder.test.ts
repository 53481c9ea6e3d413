import type { Request, RequestHandler, Response } from 'express'
import { describe, expect, it } from 'vitest'
import { inOrder } from './inOrder.ts'

/** What the row of middlewares does, told as what was called and what was handed on. */
function told(steps: (said: string[]) => RequestHandler[]): string[] {
  const said: string[] = []
  inOrder(steps(said))({} as Request, {} as Response, (error?: unknown) => {
    said.push(error === undefined ? 'on' : `refused: ${(error as Error).message}`)
  })
  return said
}
const passing =
  (said: string[], name: string): RequestHandler =>
  (_req, _res, next) => {
    said.push(name)
    next()
  }

describe('middlewares in order', () => {
  it('are called one after the other, then hand on once', () => {
    expect(told((said) => [passing(said, 'first'), passing(said, 'second')])).toEqual([
      'first',
      'second',
      'on',
    ])
    expect(told(() => [])).toEqual(['on'])
  })

  it('end at the first that refuses, with what it refused for', () => {
    const refuses: RequestHandler = (_req, _res, next) => next(new Error('no'))
    expect(told((said) => [passing(said, 'first'), refuses, passing(said, 'never')])).toEqual([
      'first',
      'refused: no',
    ])
  })

  it('end at the first that answers by itself', () => {
    expect(told((said) => [passing(said, 'first'), () => {}, passing(said, 'never')])).toEqual(['first'])
  })

  it('let through what one of them throws, for the router to hand on', () => {
    const throws: RequestHandler = () => {
      throw new Error('broken')
    }
    expect(() => told((said) => [passing(said, 'first'), throws])).toThrow('broken')
  })
})
