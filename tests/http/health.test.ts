import { afterEach, beforeEach, expect, it } from 'vitest'
import { openDb } from '../../src/server/db/open.ts'
import { start } from '../../src/server/start.ts'
import { type Harness, startHarness } from './harness.ts'

let harness: Harness
beforeEach(async () => {
  harness = await startHarness()
})
afterEach(() => harness.end())

it('says that nothing can be written, while reading goes on', async () => {
  harness.db.exec(
    "CREATE TRIGGER full BEFORE UPDATE ON pulse BEGIN SELECT RAISE(ABORT, 'database or disk is full'); END",
  )
  const answer = await harness.stranger.get('/healthz')
  expect(answer.status).toBe(503)
  expect(answer.body).toMatchObject({ ok: false, fault: expect.stringMatching(/^Nothing can be written: /) })
  expect((await harness.stranger.get('/api/about')).status).toBe(200)
})

it('adds how mail stands where that is asked for', async () => {
  expect((await harness.stranger.get('/healthz?deep')).body).toMatchObject({
    ok: true,
    mail: { waiting: 0, failed: 0, away: null },
  })
})

it('a second server on the same file says so and does not start, whatever its port', async () => {
  const config = { ...harness.config, port: 0 }
  await expect(start({ config, web: null })).rejects.toThrow(/Another Haplon server works on/)
  // Whoever only reads is let in, and the first goes on.
  openDb(config.db).close()
  expect((await harness.stranger.get('/healthz')).status).toBe(200)
})

it('a start that fails at the port lets go of the database', async () => {
  const { port } = new URL(harness.address)
  const other = await startHarness()
  const { config } = other
  await other.stop()
  await expect(start({ config: { ...config, port: Number(port) }, web: null })).rejects.toThrow(/is in use/)
  await (await start({ config, web: null })).stop()
})
