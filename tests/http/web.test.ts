import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { brotliCompressSync } from 'node:zlib'
import { expect, it } from 'vitest'
import { readConfig } from '../../src/server/config.ts'
import { start } from '../../src/server/start.ts'

it('serves the pages; a file that is not there is a plain 404, and source maps are not given out', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'haplon-web-'))
  const web = join(folder, 'web')
  mkdirSync(join(web, 'assets'), { recursive: true })
  writeFileSync(join(web, 'index.html'), '<head><title>Haplon</title></head>')
  writeFileSync(join(web, 'assets/page.js'), 'export {}')
  writeFileSync(join(web, 'assets/page.js.map'), '{}')
  writeFileSync(join(web, 'assets/page.js.br'), brotliCompressSync('export {}'))
  writeFileSync(join(web, 'build.json'), JSON.stringify({ name: 'abc123', sheet: ['/assets/sheet.js'] }))
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
    const packed = await fetch(`${running.address}/assets/page.js`, {
      headers: { 'Accept-Encoding': 'br, gzip' },
    })
    expect(packed.headers.get('Content-Encoding')).toBe('br')
    expect(await packed.text()).toBe('export {}')
    expect(await get('/sheets/anything/run')).toMatchObject({ status: 200, cache: 'no-cache' })
    // A student's sheet asks early for what it will need; what stands in an address is never put into the page raw.
    const sheet = await fetch(`${running.address}/sheets/a_B-1`)
    expect(sheet.headers.get('Link')).toContain('</api/sheets/a_B-1/student>; rel=preload')
    expect(await sheet.text()).toContain('href="/assets/sheet.js"')
    for (const path of ['/sheets/%22%3E%3Cscript%3E', '/sheets/a%0d%0aX-Own:1']) {
      const other = await fetch(`${running.address}${path}`)
      expect(other.headers.get('Link')).toBe(null)
      expect(other.headers.get('X-Own')).toBe(null)
      expect(await other.text()).not.toContain('preload')
    }
    const plain = await fetch(`${running.address}/sheets/a_B-1`, {
      headers: { 'Accept-Encoding': 'identity' },
    })
    expect(plain.headers.get('Content-Encoding')).toBe(null)
    expect(await plain.text()).toContain('<title>Haplon</title>')
    // What is a page passes no route of the API, and what is of the API is never answered with a page.
    expect((await get('/api')).status).toBe(404)
    expect((await get('/API/nowhere')).status).toBe(404)
    expect(sheet.headers.get('Content-Security-Policy')).toContain("script-src 'self'")
    const about = await fetch(`${running.address}/api/about`)
    expect(about.headers.get('Haplon-Build')).toBe('abc123')
    for (const path of ['/assets/page.js.map', '/assets/gone.js', '/index.html.map', '/build.json'])
      expect((await get(path)).status).toBe(404)
  } finally {
    await running.stop()
    rmSync(folder, { recursive: true, force: true })
  }
})
