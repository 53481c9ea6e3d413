import { describe, expect, it } from 'vitest'
import { object, string } from 'yup'
import { asProblem, fieldProblem, ProblemError } from './problem.ts'

describe('what was thrown', () => {
  it('stays as it is when it is a problem', () => {
    const problem = new ProblemError('group-full', 'Full.')
    expect(asProblem(problem)).toBe(problem)
    expect(fieldProblem('seats', 'Too many.').more.errors).toEqual([{ path: 'seats', message: 'Too many.' }])
  })

  it('names every field that a schema refused', async () => {
    const schema = object({ a: string().required('a is missing.'), b: string().max(1, 'b is too long.') })
    const error = await schema.validate({ b: 'xx' }, { abortEarly: false }).catch((thrown: unknown) => thrown)
    expect(asProblem(error)).toMatchObject({
      code: 'body-invalid',
      more: {
        errors: expect.arrayContaining([
          { path: 'a', message: 'a is missing.' },
          { path: 'b', message: 'b is too long.' },
        ]),
      },
    })
  })

  it.each(['SQLITE_FULL', 'SQLITE_READONLY', 'SQLITE_READONLY_DBMOVED', 'SQLITE_IOERR_WRITE', 'SQLITE_BUSY'])(
    '%s means that nothing can be written now',
    (code) => {
      expect(asProblem(Object.assign(new Error('x'), { code })).code).toBe('store-unavailable')
    },
  )

  it('is told without its inside when nobody foresaw it', () => {
    for (const thrown of [
      new Error('secret'),
      'secret',
      Object.assign(new Error('secret'), { code: 'SQLITE_CONSTRAINT' }),
    ]) {
      const problem = asProblem(thrown)
      expect(problem.code).toBe('server-fault')
      expect(problem.detail).not.toContain('secret')
    }
  })

  it('is read from the body parser by its type', () => {
    expect(asProblem({ type: 'entity.too.large' }).code).toBe('body-too-large')
    expect(asProblem({ type: 'entity.parse.failed' }).code).toBe('body-malformed')
    expect(asProblem(new URIError('x')).code).toBe('not-found')
  })
})
