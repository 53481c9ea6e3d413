// What a student waits for on the way to a sheet, from a cold cache: kilobytes and requests on the wire, and the time
// until the first words and until the sheet itself on a simulated slow phone network, held against a bare page of the
// same framework that is built and measured in the same run. Build first: `npm run build`.
import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { chromium } from '@playwright/test'
import { chromiumOptions, untilUp } from '../scripts/lib/chromium.mjs'
import { root, say } from '../scripts/lib/setup.mjs'
import { serveBarePage } from './lib/barePage.mjs'

const PORT = '4893'
const base = `http://127.0.0.1:${PORT}`
const STUDENT = 'chiara.mwangi@brinemoor.example'
const ROUNDS = 5
/** A slow phone network: 400 kbit/s both ways, 400 ms there and back. */
const SLOW = { offline: false, latency: 400, downloadThroughput: 50_000, uploadThroughput: 50_000 }
const folder = mkdtempSync(join(tmpdir(), 'haplon-bench-'))
const server = spawn(process.execPath, ['dist/server/demo.js'], {
  cwd: root,
  stdio: 'ignore',
  env: { ...process.env, PORT, HAPLON_DB: join(folder, 'bench.db') },
})
const bare = await serveBarePage(4894)
const median = (values) => values.sort((a, b) => a - b)[Math.floor(values.length / 2)]

/** Opens a page on the slow network with an empty cache; milliseconds until words and until `ready`, and the wire. */
async function open(browser, cookies, address, ready) {
  const context = await browser.newContext({
    viewport: { width: 390, height: 844 },
    // What a worker would keep for the next visit is not what this one waits for.
    serviceWorkers: 'block',
  })
  await context.addCookies(cookies)
  const page = await context.newPage()
  const session = await context.newCDPSession(page)
  await session.send('Network.enable')
  await session.send('Network.emulateNetworkConditions', SLOW)
  const wire = { bytes: 0, requests: 0, beforeWords: 0 }
  let words = 0
  session.on('Network.loadingFinished', ({ encodedDataLength }) => {
    wire.bytes += encodedDataLength
  })
  session.on('Network.requestWillBeSent', () => {
    wire.requests += 1
    if (words === 0) wire.beforeWords += 1
  })
  const from = performance.now()
  const going = page.goto(address)
  // What can be seen counts here, so the text as drawn is read.
  // biome-ignore lint/performance/useDomNodeTextContent: hidden words must not count as the first ones seen
  await page.waitForFunction(() => document.body?.innerText.trim().length > 12, null, {
    polling: 20,
    timeout: 60_000,
  })
  words = performance.now() - from
  await page.locator(ready).first().waitFor({ timeout: 60_000 })
  const whole = performance.now() - from
  // What comes once the sheet stands is not waited for.
  const waited = { ...wire }
  await going
  await page.waitForLoadState('networkidle').catch(() => {})
  await context.close()
  return { words, whole, ...waited, after: wire.bytes - waited.bytes }
}

try {
  await untilUp(base)
  const browser = await chromium.launch(chromiumOptions())
  const door = await browser.newContext({ baseURL: base })
  const entry = await door.newPage()
  await entry.goto('/door')
  const home = await entry.evaluate(async (email) => {
    const body = JSON.stringify({ email })
    await fetch('/api/door', { method: 'POST', headers: { 'Content-Type': 'application/json' }, body })
    return (await fetch('/api/home')).json()
  }, STUDENT)
  const sheet = home.sheets.find(({ state }) => state === 'open')
  const cookies = await door.cookies()
  await door.close()
  const ours = []
  const bares = []
  // They take turns, so that what else the machine does falls on both.
  for (let i = 0; i < ROUNDS; i++) {
    ours.push(await open(browser, cookies, `${base}/sheets/${sheet.code}`, 'article button'))
    bares.push(await open(browser, [], bare.address, 'li button'))
  }
  const [own] = ours
  const whole = median(ours.map((one) => one.whole))
  const bareWhole = median(bares.map((one) => one.whole))
  say(`wire kilobytes ${(own.bytes / 1000).toFixed(0)}`)
  say(`requests ${own.beforeWords}`)
  say(
    `on a slow phone network: words after ${median(ours.map((one) => one.words)).toFixed(0)} ms, the sheet after ${whole.toFixed(0)} ms, ${own.requests} requests; ${(own.after / 1000).toFixed(0)} kilobytes (letters, menu, Markdown) follow once it stands; the bare page after ${bareWhole.toFixed(0)} ms with ${(bares[0].bytes / 1000).toFixed(0)} kilobytes`,
  )
  say(`first ratio ${(whole / bareWhole).toFixed(2)}`)
  await browser.close()
} finally {
  server.kill('SIGTERM')
  bare.end()
  for (const path of [folder, bare.folder]) rmSync(path, { recursive: true, force: true })
}
