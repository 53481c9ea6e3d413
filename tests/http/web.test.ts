import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, it } from 'vitest'
import { readConfig } from '../../src/server/config.ts'
import { start } from '../../src/server/start.ts'

it('serves the pages; a file that is not there is a plain 404, and source maps are not given out', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'haplon-web-'))
  const web = join(folder, 'web')
  mkdirSync(join(web, 'assets'), { recursive: true })
  writeFileSync(join(web, 'index.html'), '<title>Haplon</title>')
  writeFileSync(join(web, 'assets/page.js'), 'export {}')
  writeFileSync(join(web, 'assets/page.js.map'), '{}')
  const config = readConfig({ HAPLON_DB: join(folder, 'test.db'), PORT: '0', HAPLON_LOG: 'silent' })
  const running = await start({ config, web })
  const get = async (path: string) => {
    const answer = await fetch(`${running.address}${path}`)
    return { status: answer.status, text: await answer.text(), cache: answer.headers.get('Cache-Control') }
  }
  try {
    expect(await get('/assets/page.js')).toMatchObject({
      status: 200,
      text: 'export {}',
      cache: expect.stringMatching(/immutable/),
    })
    expect(await get('/sheets/anything/run')).toMatchObject({ status: 200, cache: 'no-cache' })
    for (const path of ['/assets/page.js.map', '/assets/gone.js', '/index.html.map'])
      expect((await get(path)).status).toBe(404)
  } finally {
    await running.stop()
    rmSync(folder, { recursive: true, force: true })
  }
})
