// How long a key takes to be painted in the topics table: a sheet of 120 topics in 6 sections (720 groups) against one of
// 12 topics, in one run. Prints median and 95th percentile of each, and the ratio of the two 95th percentiles.
// Build first: `npm run build`.
import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { chromium } from '@playwright/test'
import { chromiumOptions, untilUp } from '../scripts/lib/chromium.mjs'
import { root, say } from '../scripts/lib/setup.mjs'

const PORT = '4891'
const base = `http://127.0.0.1:${PORT}`
const INSTRUCTOR = 'renske.okonjo@brinemoor.example'
const KEYS = 120
const folder = mkdtempSync(join(tmpdir(), 'haplon-bench-'))
const server = spawn(process.execPath, ['dist/server/demo.js'], {
  cwd: root,
  stdio: 'ignore',
  env: { ...process.env, PORT, HAPLON_DB: join(folder, 'bench.db') },
})

/** Types into the middle of the table and gives the milliseconds from each key to the frame after its paint. */
async function typeInto(page, code) {
  await page.goto(`${base}/sheets/${code}/compose`)
  const field = page.locator('[data-cell$=":title"]').nth(5)
  await field.waitFor()
  await pause(1_000)
  await page.evaluate(() => {
    window.times = []
    addEventListener(
      'keydown',
      (event) => {
        const from = event.timeStamp
        requestAnimationFrame(() => {
          const { port1, port2 } = new MessageChannel()
          port1.onmessage = () => window.times.push(performance.now() - from)
          port2.postMessage(null)
        })
      },
      true,
    )
  })
  await field.click()
  for (let i = 0; i < KEYS; i++) {
    await page.keyboard.press(i % 2 === 0 ? 'x' : 'Backspace')
    // Longer than the pause after which a field keeps itself, now and then: saving and drawing anew are measured too.
    await pause(i % 12 === 11 ? 700 : 40)
  }
  await pause(300)
  const times = (await page.evaluate(() => window.times)).sort((a, b) => a - b)
  const at = (share) => times[Math.min(times.length - 1, Math.floor(times.length * share))]
  return { median: at(0.5), p95: at(0.95), keys: times.length }
}

try {
  await untilUp(base)
  const browser = await chromium.launch(chromiumOptions())
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
  const post = async (path, data) => {
    const answer = await context.request.post(`${base}${path}`, { data, headers: { Origin: base } })
    if (!answer.ok()) throw new Error(await answer.text())
    return answer.json()
  }
  await post('/api/door', { email: INSTRUCTOR })
  const sections = Array.from({ length: 6 }, (_, i) => `Section ${i + 1}`)
  const course = await post('/api/courses', { courseCode: 'BENCH 1', title: 'Bench', zone: 'UTC', sections })
  const sheet = async (count) => {
    const { code } = await post(`/api/courses/${course.code}/sheets`, { title: `${count} topics` })
    const topics = Array.from({ length: count }, (_, i) => ({
      title: `Topic ${i + 1}`,
      brief: 'Compare three batches over four weeks.',
      place: `Bench ${i + 1}`,
    }))
    await post(`/api/sheets/${code}/topics/several`, { topics })
    return code
  }
  const page = await context.newPage()
  const small = await typeInto(page, await sheet(12))
  const large = await typeInto(page, await sheet(120))
  const line = (name, { median, p95, keys }) =>
    say(`${name}: median ${median.toFixed(1)} ms, 95th percentile ${p95.toFixed(1)} ms over ${keys} keys`)
  line('12 topics, 72 groups', small)
  line('120 topics, 720 groups', large)
  say(`compose ratio ${(large.p95 / small.p95).toFixed(2)}`)
  await browser.close()
} finally {
  server.kill('SIGTERM')
  await pause(500)
  rmSync(folder, { recursive: true, force: true })
}
