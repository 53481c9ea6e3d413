// Takes the pictures in docs/screenshots anew from the demo data. Build first: `npm run build`.
import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { chromiumOptions, untilUp } from './lib/chromium.mjs'
import { root, say } from './lib/setup.mjs'

const { chromium } = await import('@playwright/test')
const PORT = '4890'
const base = `http://127.0.0.1:${PORT}`
const DESK = { width: 1280, height: 800 }
const PHONE = { width: 390, height: 844 }
const INSTRUCTOR = 'renske.okonjo@brinemoor.example'
const MATTEO = 'matteo.lindgren@brinemoor.example'

const demo = spawn(process.execPath, ['dist/server/demo.js'], {
  cwd: root,
  stdio: 'ignore',
  env: { ...process.env, PORT, HAPLON_DB: 'data/screenshots.db' },
})
await untilUp(base)

const browser = await chromium.launch(chromiumOptions())

/** Opens a page as somebody of the sample, goes through the steps, and keeps what is then seen. */
async function picture(name, email, viewport, steps, colorScheme = 'light') {
  const context = await browser.newContext({ viewport, colorScheme, locale: 'en-GB' })
  await context.request.post(`${base}/api/door`, { data: { email }, headers: { Origin: base } })
  // A device that has had the letters before shows them at once.
  await context.addInitScript(() => localStorage.setItem('haplon-letters', 'here'))
  const page = await context.newPage()
  await page.goto(`${base}/`)
  await steps(page)
  await page.evaluate(() => document.fonts.ready.then(() => undefined))
  await page.mouse.move(0, 0)
  await pause(600)
  await page.screenshot({ path: join(root, 'docs/screenshots', `${name}.png`) })
  await context.close()
  say(`docs/screenshots/${name}.png`)
}

const benches = (page) => page.getByRole('link', { name: /Culture benches/ }).first()
const run = async (page) => {
  await benches(page).click()
  await page.getByRole('heading', { name: 'No group yet' }).waitFor()
}

try {
  const { people } = await (await fetch(`${base}/api/door`)).json()
  const student = people.find(({ featured, roles }) => featured && roles === 'student in FERM 210').email
  await picture('courses', INSTRUCTOR, DESK, (page) => benches(page).waitFor())
  await picture('run', INSTRUCTOR, DESK, async (page) => {
    await run(page)
    await page.getByRole('button', { name: /Tempeh, Thu lab/ }).click()
  })
  await picture('settle', INSTRUCTOR, DESK, async (page) => {
    await run(page)
    await page.getByRole('link', { name: 'Settle' }).click()
    await page.getByText('students seated').waitFor()
  })
  await picture('settle-drawn', INSTRUCTOR, DESK, async (page) => {
    await run(page)
    await page.getByRole('link', { name: 'Settle' }).click()
    await page.getByRole('radio', { name: /By lot/ }).check()
    await page.getByRole('button', { name: 'How was this drawn?' }).click()
    await page.getByRole('table', { name: 'The chances each had' }).waitFor()
  })
  await picture('ledger', INSTRUCTOR, DESK, async (page) => {
    await run(page)
    await page.getByRole('link', { name: 'Ledger' }).click()
    await page.getByText(/ changes$/).waitFor()
  })
  const walks = async (page) => {
    await page
      .getByRole('link', { name: /Safety walk teams/ })
      .first()
      .click()
    await page.getByRole('link', { name: 'Work' }).click()
    await page.getByRole('heading', { name: 'Everybody' }).waitFor()
  }
  await picture('work', INSTRUCTOR, DESK, walks)
  // The course of last term, whose groups are at work.
  const owner = await browser.newContext()
  await owner.request.post(`${base}/api/door`, { data: { email: MATTEO }, headers: { Origin: base } })
  const read = async (path) => (await owner.request.get(`${base}${path}`)).json()
  const lastTerm = (await read('/api/courses')).courses.find(({ courseCode }) => courseCode === 'FERM 210-T')
  const past = lastTerm.sheets[0].code
  const { groups } = await read(`/api/sheets/${past}/groups`)
  const slow = groups.find(({ name }) => name === 'Slow Bubbles').code
  const { members } = await read(`/api/sheets/${past}/groups/${slow}`)
  const { tasks } = await read(`/api/sheets/${past}/work`)
  const report = tasks.find(({ title }) => title === 'Bench report')
  const bySection = await read(`/api/sheets/${past}/tasks/${report.code}/desk`)
  await picture('groups', MATTEO, DESK, async (page) => {
    await page.goto(`${base}/sheets/${past}/work/groups`)
    await page.getByRole('heading', { name: 'What groups get' }).waitFor()
  })
  await picture('group', MATTEO, DESK, async (page) => {
    await page.goto(`${base}/sheets/${past}/groups/${slow}`)
    await page.getByRole('button', { name: /Before you hand in/ }).click()
    await page.getByLabel('Reply').waitFor()
  })
  await picture('desk', MATTEO, DESK, async (page) => {
    // Five are placed already; the sixth is placed now.
    for (const [i, { owner }] of bySection.piles.slice(0, 5).entries()) {
      const placements = Object.fromEntries(
        report.criteria.map(({ id }, n) => [id, 2 + ((i * 3 + n * 2) % 7) / 2]),
      )
      const data = { owner, apart: null, version: 0, placements, points: null, feedback: '' }
      await page.request.put(`${base}/api/sheets/${past}/tasks/${report.code}/marks`, {
        data,
        headers: { Origin: base },
      })
    }
    await page.goto(`${base}/sheets/${past}/tasks/${report.code}/desk`)
    await page.getByRole('img', { name: /page 1 of/ }).waitFor()
    const lines = page.getByRole('slider')
    for (const [i, key] of ['4', '3'].entries()) {
      await lines.nth(i).focus()
      await page.keyboard.press(key)
    }
    await page.getByText(/^Saved\./).waitFor()
  })
  await picture('student-tasks', members[1].email, PHONE, async (page) => {
    await page.goto(`${base}/sheets/${past}/tasks`)
    await page.getByRole('article', { name: 'Bench report' }).waitFor()
    await page.getByRole('article', { name: 'Bench report' }).evaluate((one) => one.scrollIntoView())
  })
  await picture('student-group', members[1].email, PHONE, async (page) => {
    await page.goto(`${base}/sheets/${past}/groups/${slow}`)
    await page.getByRole('heading', { name: 'Talk' }).waitFor()
  })
  const left = (await read(`/api/sheets/${past}/work`)).noGroup[0]
  const everybody = (await read(`/api/courses/${lastTerm.code}/roster`)).people
  await picture('student-locked', everybody.find(({ code }) => code === left).email, PHONE, async (page) => {
    await page.goto(`${base}/sheets/${past}/tasks`)
    await page.getByText('Locked').first().waitFor()
  })
  await owner.close()
  await picture('compose', INSTRUCTOR, DESK, async (page) => {
    await page
      .getByRole('link', { name: /Tasting panel slots/ })
      .first()
      .click()
    await page.getByRole('region', { name: 'Seats check' }).waitFor()
  })
  await picture('roster', INSTRUCTOR, DESK, async (page) => {
    await page.getByRole('link', { name: 'Roster' }).first().click()
    await page.getByRole('region', { name: 'People' }).waitFor()
  })
  await picture('student-home', student, PHONE, (page) => benches(page).waitFor())
  await picture('student-sheet', student, PHONE, async (page) => {
    await benches(page).click()
    await page.getByRole('button', { name: 'Take a seat' }).first().click()
    await page.getByRole('complementary', { name: 'Your seat' }).getByText('You sit at').waitFor()
    await page.getByRole('button', { name: 'With seats' }).scrollIntoViewIfNeeded()
    await page.evaluate(() => window.scrollTo(0, 300))
    await pause(7_500)
  })
  // Students of the neighbour course, whose sheet has lines, dates and invitations.
  const panels = (page) => page.getByRole('link', { name: /Triangle test panels/ }).first()
  const neighbours = people.filter(({ roles }) => roles.includes('student in SENS 105'))
  /** The first of them whose first page says that. */
  const whoSays = async (words) => {
    for (const { email } of neighbours) {
      const context = await browser.newContext()
      await context.request.post(`${base}/api/door`, { data: { email }, headers: { Origin: base } })
      const page = await context.newPage()
      await page.goto(`${base}/`)
      await panels(page).click()
      await page.getByRole('article').first().waitFor()
      // What is said of a line comes with the student's own part, a moment after the list.
      await page
        .getByText(words)
        .first()
        .waitFor({ timeout: 2_000 })
        .catch(() => {})
      const said = await page.getByText(words).count()
      await context.close()
      if (said > 0) return email
    }
    throw new Error(`Nobody of the sample reads “${words}”.`)
  }
  await picture(
    'student-line',
    await whoSays('you are 1st'),
    PHONE,
    async (page) => {
      await panels(page).click()
      await page.getByText('you are 1st').scrollIntoViewIfNeeded()
    },
    'dark',
  )
  await picture('run-large', INSTRUCTOR, DESK, async (page) => {
    const { courses } = await (await page.request.get(`${base}/api/courses`)).json()
    const course = courses.find(({ courseCode }) => courseCode === 'FERM 210')
    const send = async (method, path, data) =>
      (await page.request.fetch(`${base}${path}`, { method, data, headers: { Origin: base } })).json()
    const { code } = await send('POST', `/api/courses/${course.code}/sheets`, { title: 'Starter diaries' })
    const topics = Array.from({ length: 40 }, (_, i) => ({ title: `Starter ${i + 1}` }))
    await send('POST', `/api/sheets/${code}/topics/several`, { topics })
    const closesAt = `${new Date(Date.now() + 3 * 86_400_000).toISOString().slice(0, 10)}T17:00`
    await send('PATCH', `/api/sheets/${code}`, { closesAt, seats: 2, floor: 1 })
    await send('POST', `/api/sheets/${code}/publish`, {})
    const view = await (await page.request.get(`${base}/api/sheets/${code}/run`)).json()
    const free = new Map(view.groups.map((group) => [group.code, 2]))
    const changes = view.people.slice(0, 96).flatMap(({ code: person, section }, i) => {
      const own = view.groups.filter((group) => group.section === section && free.get(group.code) > 0)
      const group = own[(i * 7) % own.length]
      free.set(group.code, free.get(group.code) - 1)
      return [{ person, from: null, to: group.code }]
    })
    await send('POST', `/api/sheets/${code}/seatings`, { changes, confirmed: true })
    await page.goto(`${base}/sheets/${code}/run`)
    await page.getByRole('heading', { name: 'No group yet' }).waitFor()
    await page.getByRole('radio', { name: 'Initials' }).click()
  })
  // Last of all, since it adds rules for people that the other pictures are without.
  await picture('new-sheet', INSTRUCTOR, DESK, async (page) => {
    const course = page.getByRole('region', { name: /FERM 210/ }).first()
    await course.getByRole('link', { name: 'New sheet' }).click()
    await page.getByLabel('Sheet title').fill('Tasting pairs, week 9')
    await page.getByLabel('How groups come about').selectOption('made')
    await page.getByLabel('How many').selectOption('most')
    await page.getByLabel('People in each, at most').fill('3')
    await page.getByLabel('In each section, or mixed').selectOption('mixed')
  })
} finally {
  await browser.close()
  demo.kill('SIGTERM')
}
