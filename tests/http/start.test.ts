import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'

let folder: string
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'haplon-start-'))
})
afterEach(() => rmSync(folder, { recursive: true, force: true }))

/** Starts the real server; ends it with SIGTERM once it has said what is waited for. */
function startReal(
  env: Record<string, string>,
  until: RegExp,
): Promise<{ code: number | null; said: string }> {
  return new Promise((resolve) => {
    const server = spawn(process.execPath, ['--import', 'tsx', 'src/server/main.ts'], {
      env: { PATH: process.env.PATH, HAPLON_DB: join(folder, 'a.db'), PORT: '0', ...env },
    })
    let said = ''
    const hear = (chunk: Buffer) => {
      said += String(chunk)
      if (until.test(said)) server.kill('SIGTERM')
    }
    server.stdout.on('data', hear)
    server.stderr.on('data', hear)
    server.on('close', (code) => resolve({ code, said }))
  })
}

describe('a start', () => {
  it('on an empty database says how to begin, and ends in good order when it is asked to', async () => {
    const { code, said } = await startReal(
      { HAPLON_INSTRUCTORS: 'ida@school.example' },
      /There is no course yet/,
    )
    expect(said).toMatch(/sign in as ida@school\.example, and add one/)
    expect(said).toMatch(/HAPLON_SMTP is not set/)
    expect(code).toBe(0)
  })

  it('with nobody who may add courses says which setting is missing', async () => {
    expect((await startReal({}, /There is no course yet/)).said).toMatch(/set HAPLON_INSTRUCTORS/)
  })

  it.each([
    [{ PORT: 'eighty' }, /PORT is not a number/],
    [{ HAPLON_DB: '' }, /HAPLON_DB names no database file/],
    [
      { HAPLON_DB: '/nonexistent/folder/a.db' },
      /HAPLON_DB names \/nonexistent\/folder\/a\.db, which cannot be opened/,
    ],
  ])('with a wrong setting stops with a sentence that names it: %j', async (env, words) => {
    const { code, said } = await startReal(env, /is listening/)
    expect(code).toBe(1)
    expect(said).toMatch(/did not start/)
    expect(said).toMatch(words)
  })
})

it.each(["throw new Error('A bug.')", "void Promise.reject(new Error('A bug.'))"])(
  'an error that nobody catches is logged and ends the process in order: %s',
  async (bug) => {
    const script = `import { stopOnSignal } from './src/server/start.ts'
      const say = (what) => (facts, words) => console.log(what, facts.err?.message ?? '', words)
      const log = { fatal: say('fatal'), error: say('error'), info: say('info') }
      setTimeout(() => {}, 60_000)
      stopOnSignal({ log, stop: async () => console.log('all is put away') })
      setTimeout(() => { ${bug} })`
    const child = spawn(process.execPath, ['--import', 'tsx', '--input-type=module', '-e', script])
    let said = ''
    child.stdout.on('data', (chunk) => (said += String(chunk)))
    const code = await new Promise((resolve) => child.on('close', resolve))
    expect(said).toMatch(/fatal A bug\. an error that nobody caught[\s\S]*all is put away/)
    expect(code).toBe(1)
  },
)
