// How long the overview of work takes to open, and how it scrolls: a sheet of 600 students in 150 groups with 12 tasks
// against one of 60 students in 15 groups with as many tasks, in one run. Build first: `npm run build`.
import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { chromium } from '@playwright/test'
import { chromiumOptions, untilUp } from '../scripts/lib/chromium.mjs'
import { root, say } from '../scripts/lib/setup.mjs'
import { fillWork } from './lib/bigWork.ts'

const PORT = '4892'
const base = `http://127.0.0.1:${PORT}`
const ROUNDS = 7
const folder = mkdtempSync(join(tmpdir(), 'haplon-bench-'))
const file = join(folder, 'bench.db')
const sides = fillWork(file, [
  { students: 60, groups: 15, tasks: 12 },
  { students: 600, groups: 150, tasks: 12 },
])
const server = spawn(process.execPath, ['dist/server/main.js'], {
  cwd: root,
  stdio: 'ignore',
  env: { ...process.env, PORT, HAPLON_DB: file, NODE_ENV: 'production', HAPLON_LOG: 'warn' },
})
const median = (values) => values.sort((a, b) => a - b)[Math.floor(values.length / 2)]

/** Milliseconds from going to the page until its last row in sight is painted. */
async function openOnce(page, code) {
  const from = performance.now()
  await page.goto(`${base}/sheets/${code}/work`)
  await page.locator('tr[aria-rowindex="10"]').waitFor()
  return performance.now() - from
}

/** Milliseconds of each frame while the overview is scrolled from top to bottom. */
function framesWhileScrolling(page) {
  return page.evaluate(
    () =>
      new Promise((resolve) => {
        const box = document.querySelector('section[aria-label="Everybody by task"]')
        const frames = []
        let before = performance.now()
        const step = (now) => {
          frames.push(now - before)
          before = now
          box.scrollTop += 60
          if (box.scrollTop + box.clientHeight >= box.scrollHeight - 1 || frames.length > 400) resolve(frames)
          else requestAnimationFrame(step)
        }
        requestAnimationFrame(step)
      }),
  )
}

try {
  await untilUp(base)
  const browser = await chromium.launch(chromiumOptions())
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
  const [name, value] = sides.cookie.split('=')
  await context.addCookies([{ name, value, url: base, secure: true }])
  const page = await context.newPage()
  const times = sides.sheets.map(() => [])
  // The first of each warms up; then they take turns.
  for (let i = 0; i <= ROUNDS; i++)
    for (const [n, code] of sides.sheets.entries()) {
      const took = await openOnce(page, code)
      if (i > 0) times[n].push(took)
    }
  const [small, large] = times.map(median)
  await openOnce(page, sides.sheets[1])
  await pause(500)
  const frames = (await framesWhileScrolling(page)).slice(2).sort((a, b) => a - b)
  say(`60 students: ${small.toFixed(0)} ms; 600 students: ${large.toFixed(0)} ms until the rows are there`)
  say(`overview ratio ${(large / small).toFixed(2)}`)
  say(
    `scrolling: frame of ${median(frames).toFixed(1)} ms in the median, ${frames[Math.floor(frames.length * 0.95)].toFixed(1)} ms at the 95th percentile, over ${frames.length} frames`,
  )
  await browser.close()
} finally {
  server.kill('SIGTERM')
  await pause(500)
  rmSync(folder, { recursive: true, force: true })
}
