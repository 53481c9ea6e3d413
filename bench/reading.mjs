// How a long work is read at the desk: a text of 100,000 characters, a PDF of 200 pages and a picture of 40 megapixels,
// with 150 remarks, against a short text, two pages and a small picture, in one run. Build first: `npm run build`.
import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { chromium } from '@playwright/test'
import { chromiumOptions, untilUp } from '../scripts/lib/chromium.mjs'
import { root, say } from '../scripts/lib/setup.mjs'
import { makePdf, makePng } from '../src/demo/papers.ts'

const PORT = '4893'
const base = `http://127.0.0.1:${PORT}`
const ROUNDS = 5
const folder = mkdtempSync(join(tmpdir(), 'haplon-bench-'))
const server = spawn(process.execPath, ['dist/server/demo.js'], {
  cwd: root,
  stdio: 'ignore',
  env: { ...process.env, PORT, HAPLON_DB: join(folder, 'bench.db'), HAPLON_LOG: 'warn' },
})
const median = (values) => values.sort((a, b) => a - b)[Math.floor(values.length / 2)]
const LINE = 'The brine was kept at eighteen degrees, and two of us tasted it each morning at nine. '
const paper = (pages) =>
  makePdf(
    'A paper',
    Array.from({ length: 44 * pages }, (_, i) => `Line ${i + 1}. ${LINE}`),
  )
const speckled = (width, height) =>
  makePng(width, height, (x, y) => [(x >> 3) % 255, (y >> 2) % 255, ((x >> 4) ^ (y >> 4)) % 255])
const SIDES = [
  { text: LINE.repeat(12), pages: 2, size: [800, 500], remarks: 5 },
  {
    text: `${LINE.repeat(5)}\n`.repeat(230).slice(0, 100_000),
    pages: 200,
    size: [8_000, 5_000],
    remarks: 150,
  },
]

/** Signs somebody in, and gives what calls the API as them. */
async function as(browser, email) {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
  await context.request.post(`${base}/api/door`, { data: { email }, headers: { Origin: base } })
  const send = async (method, path, data) => {
    const answer = await context.request.fetch(`${base}${path}`, { method, data, headers: { Origin: base } })
    if (!answer.ok()) throw new Error(`${path}: ${await answer.text()}`)
    return answer.json()
  }
  return { context, send }
}

/** Makes a sheet with one group’s work on it, with remarks; gives where its desk is. */
async function workOf(owner, student, n, { text, pages, size, remarks }) {
  const { courses } = await owner.send('GET', '/api/courses')
  const course = courses.find(({ courseCode }) => courseCode === 'FERM 210')
  const { code } = await owner.send('POST', `/api/courses/${course.code}/sheets`, { title: `Reading ${n}` })
  const at = `/api/sheets/${code}`
  await owner.send('POST', `${at}/topics/several`, { topics: [{ title: 'One', offers: 'course' }] })
  await owner.send('PATCH', at, { offers: 'course', closesAt: '2099-05-13T17:00', confirmed: true })
  await owner.send('POST', `${at}/publish`, {})
  const { groups } = await student.send('GET', `${at}/student`)
  await student.send('POST', `${at}/claims`, { key: `reading-${n}-claim`, kind: 'take', to: groups[0].code })
  const { tasks } = await owner.send('POST', `${at}/tasks`, { title: 'Paper', out: true, takesFiles: true })
  const task = `${at}/tasks/${tasks[0].code}`
  const bring = async (name, bytes) => {
    const aim = { aim: 'work', group: groups[0].code, task: tasks[0].code, owner: null }
    const begun = await student.send('POST', `${at}/uploads`, {
      name,
      size: bytes.length,
      modified: 1,
      ...aim,
    })
    const headers = { Origin: base, 'Content-Type': 'application/offset+octet-stream', 'Upload-Offset': '0' }
    await student.context.request.fetch(`${base}${at}/uploads/${begun.code}`, {
      method: 'PATCH',
      data: bytes,
      headers,
    })
  }
  await bring('paper.pdf', paper(pages))
  await bring('jar.png', speckled(...size))
  const own = await student.send('GET', `${at}/own-work`)
  const files = own.tasks[0].work.brought.map((file) => file.code)
  await student.send('POST', `${task}/hand-ins`, { group: groups[0].code, text, files, after: 0 })
  for (let i = 0; i < remarks; i++) {
    const start = Math.floor((i * (text.length - 100)) / remarks)
    const place = { kind: 'passage', start, end: start + 60 }
    const said = { version: 1, file: null, place, words: `Remark ${i}` }
    await owner.send('POST', `${task}/remarks/${groups[0].code}`, { key: `reading-${n}-${i}`, ...said })
  }
  return `${base}/sheets/${code}/tasks/${tasks[0].code}/desk`
}

/** Milliseconds from going to the desk until the text stands there with its first remark. */
async function openOnce(page, address) {
  const from = performance.now()
  await page.goto(address)
  await page.locator('mark').first().waitFor()
  return performance.now() - from
}

/** Milliseconds of each frame while something is scrolled by so much in each, sorted, and the tasks past 50 ms. */
function framesWhileScrolling(page, label, by, most) {
  return page.evaluate(
    ([label, [right, down], most]) =>
      new Promise((resolve) => {
        const box = document.querySelector(`section[aria-label="${label}"]`)
        const frames = []
        const long = []
        new PerformanceObserver((list) => {
          for (const { duration } of list.getEntries()) long.push(duration)
        }).observe({ type: 'longtask' })
        let before = performance.now()
        const step = (now) => {
          frames.push(now - before)
          before = now
          box.scrollBy(right, down)
          const end = box.scrollTop + box.clientHeight >= box.scrollHeight - 1
          if (!end && frames.length <= most) return requestAnimationFrame(step)
          resolve({ frames: frames.slice(2).sort((a, b) => a - b), long, height: box.scrollHeight })
        }
        requestAnimationFrame(step)
      }),
    [label, by, most],
  )
}

const inWords = ({ frames, long }) =>
  `frame of ${median(frames).toFixed(1)} ms in the median, ${frames[Math.floor(frames.length * 0.95)].toFixed(1)} ms at the 95th percentile, over ${frames.length} frames; ${long.length} tasks past 50 ms, the longest ${Math.max(0, ...long).toFixed(0)} ms`

try {
  await untilUp(base)
  const browser = await chromium.launch(chromiumOptions())
  const owner = await as(browser, 'renske.okonjo@brinemoor.example')
  const { people } = await owner.send('GET', '/api/door')
  const student = await as(browser, people.find(({ roles }) => roles === 'student in FERM 210').email)
  const desks = []
  for (const [n, side] of SIDES.entries()) desks.push(await workOf(owner, student, n, side))
  const page = await owner.context.newPage()
  const times = desks.map(() => [])
  for (let i = 0; i <= ROUNDS; i++)
    for (const [n, address] of desks.entries()) {
      const took = await openOnce(page, address)
      if (i > 0) times[n].push(took)
    }
  const [short, long] = times.map(median)
  say(`short: ${short.toFixed(0)} ms; long: ${long.toFixed(0)} ms until the text stands there`)
  say(`reading ratio ${(long / short).toFixed(2)}`)
  await openOnce(page, desks[1])
  await pause(3_000)
  const work = await framesWhileScrolling(page, 'The work', [0, 90], 600)
  say(`scrolling ${work.height} pixels: ${inWords(work)}`)
  // The picture alone, where it is drawn for the first time.
  await page.locator('img[alt="jar.png"]').scrollIntoViewIfNeeded()
  await pause(4_000)
  await page.getByRole('button', { name: 'Larger jar.png' }).click()
  await pause(1_500)
  say(`moving over the picture: ${inWords(await framesWhileScrolling(page, 'jar.png', [8, 8], 120))}`)
  await browser.close()
} finally {
  server.kill('SIGTERM')
  await pause(500)
  rmSync(folder, { recursive: true, force: true })
}
