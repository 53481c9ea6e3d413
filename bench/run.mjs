// What Run draws anew with 600 students in 160 groups: for one seat taken elsewhere, for picking one person, and for
// each frame while somebody is dragged over the field. Counted are the components that React rendered, by what they
// drew. Build first: `npm run build`.
import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { chromium } from '@playwright/test'
import { chromiumOptions, untilUp } from '../scripts/lib/chromium.mjs'
import { root, say } from '../scripts/lib/setup.mjs'
import { fillTaughtCourse } from './lib/bigCourse.ts'

const PORT = '4896'
const base = `http://127.0.0.1:${PORT}`
const folder = mkdtempSync(join(tmpdir(), 'haplon-bench-'))
const file = join(folder, 'bench.db')

/** Counts what React renders, by what each component drew: runs in the page before anything of ours. */
function countRenders() {
  const RENDERED = 1
  const FUNCTIONS = new Set([0, 11, 14, 15])
  window.drawn = { cells: 0, chips: 0 }
  /** The element that a component drew first. */
  const drew = (fiber) => {
    for (let at = fiber.child; at; at = at.child) if (at.tag === 5) return at.stateNode
    return null
  }
  const visit = (fiber) => {
    if (!fiber) return
    const before = fiber.alternate
    if (FUNCTIONS.has(fiber.tag) && (!before || (fiber.flags & RENDERED) !== 0) && before !== fiber) {
      const element = drew(fiber)
      if (element?.matches?.('button[data-drop]')) window.drawn.cells += 1
      if (element?.matches?.('[role=option][data-pick]')) window.drawn.chips += 1
    }
    // What was not touched below is the same object as before.
    if (!before || before.child !== fiber.child) for (let at = fiber.child; at; at = at.sibling) visit(at)
  }
  window.__REACT_DEVTOOLS_GLOBAL_HOOK__ = {
    supportsFiber: true,
    inject: () => 1,
    onCommitFiberUnmount() {},
    onPostCommitFiberRoot() {},
    onCommitFiberRoot: (_, { current }) => visit(current),
  }
}

const made = fillTaughtCourse(file)
const server = spawn(process.execPath, ['dist/server/main.js'], {
  cwd: root,
  stdio: 'ignore',
  env: { ...process.env, PORT, HAPLON_DB: file, NODE_ENV: 'production', HAPLON_LOG: 'warn' },
})
const claim = (n, group) =>
  fetch(`${base}/api/sheets/${made.sheets[0].code}/claims`, {
    method: 'POST',
    headers: {
      'Content-Type': 'application/json',
      'Sec-Fetch-Site': 'same-origin',
      Origin: base,
      Cookie: made.students[n].cookie,
    },
    body: JSON.stringify({
      key: `bench-${n}-${group}-0123456789`,
      kind: 'take',
      to: made.sheets[0].groups[group],
    }),
  })

try {
  await untilUp(base)
  for (let n = 0; n < 300; n++) {
    const answer = await claim(n, n % 150)
    if (!answer.ok) throw new Error(await answer.text())
  }
  const browser = await chromium.launch(chromiumOptions())
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
  const [name, value] = made.cookie.split('=')
  await context.addCookies([{ name, value, url: base, secure: true }])
  const page = await context.newPage()
  await page.addInitScript(countRenders)
  await page.goto(`${base}/sheets/${made.sheets[0].code}/run`)
  await page.locator('button[data-drop]').nth(150).waitFor()
  await pause(2_500)
  const first = await page.evaluate(() => window.drawn)
  if (first.cells < 160) throw new Error(`The count saw only ${first.cells} of 160 cells when the page came.`)
  /** What is drawn while something happens and in the moment after it. */
  const drawnBy = async (work) => {
    await page.evaluate(() => {
      window.drawn = { cells: 0, chips: 0 }
    })
    await work()
    await pause(1_200)
    return page.evaluate(() => window.drawn)
  }
  const told = await drawnBy(() => claim(400, 155))
  const chip = page.locator('[role=option][data-pick]').nth(3)
  const picked = await drawnBy(() => chip.click())
  await chip.click()
  const from = await chip.boundingBox()
  await page.evaluate(() => {
    window.frames = []
    let before = performance.now()
    const step = (now) => {
      window.frames.push(now - before)
      before = now
      requestAnimationFrame(step)
    }
    requestAnimationFrame(step)
  })
  let passed = 0
  const dragged = await drawnBy(async () => {
    await page.mouse.move(from.x + 20, from.y + 8)
    await page.mouse.down()
    await page.mouse.move(from.x + 30, from.y - 20, { steps: 3 })
    await page.evaluate(() => {
      window.frames = []
    })
    for (let y = 250; y < 560; y += 10) {
      await page.mouse.move(700, y)
      passed += 1
    }
    await page.mouse.move(20, 20)
    await page.keyboard.press('Escape')
    await page.mouse.up()
  })
  const frames = (await page.evaluate(() => window.frames)).sort((a, b) => a - b)
  const at = (share) => frames[Math.min(frames.length - 1, Math.floor(frames.length * share))]
  say(`cells drawn ${told.cells}`)
  say(`one seat taken elsewhere drew ${told.cells} of 160 cells and ${told.chips} chips`)
  say(`picking one person drew ${picked.chips} chips and ${picked.cells} cells`)
  say(`a drag with ${passed} moves over the field drew ${dragged.cells} cells and ${dragged.chips} chips`)
  say(
    `frames while dragging: ${at(0.5).toFixed(1)} ms in the median, ${at(0.95).toFixed(1)} ms at the 95th percentile`,
  )
  await browser.close()
} finally {
  server.kill('SIGTERM')
  rmSync(folder, { recursive: true, force: true })
}
