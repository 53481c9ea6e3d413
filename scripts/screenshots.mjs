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
  await picture('rehearsal', INSTRUCTOR, DESK, async (page) => {
    await run(page)
    await page.getByRole('link', { name: 'Compose' }).click()
    await page.getByRole('link', { name: 'See it as a student' }).click()
    await page.getByRole('checkbox', { name: 'as on a phone' }).check()
    const seen = page.frameLocator('iframe')
    await seen.getByRole('button', { name: 'Take a seat' }).first().click()
    await seen.getByRole('complementary', { name: 'Your seat' }).getByText('You sit at').waitFor()
    await pause(7_000)
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
  await picture('groups', MATTEO, DESK, async (page) => {
    await page.goto(`${base}/sheets/${past}/work/groups`)
    await page.getByRole('heading', { name: 'What groups get' }).waitFor()
  })
  await picture('group', MATTEO, DESK, async (page) => {
    await page.goto(`${base}/sheets/${past}/groups/${slow}`)
    await page.getByRole('button', { name: /Before you hand in/ }).click()
    await page.getByLabel('Reply').waitFor()
  })
  const starter = tasks.find(({ remarked }) => remarked.length > 0)
  const spoken = starter.remarked[0].owner
  await picture('desk', MATTEO, DESK, async (page) => {
    await page.goto(`${base}/sheets/${past}/tasks/${starter.code}/desk?pile=${spoken}`)
    await page.getByRole('img', { name: /page 1 of/ }).waitFor()
    await page.getByRole('button', { name: 'Edit remark 2' }).click()
    await page.getByRole('textbox', { name: 'Remark' }).waitFor()
    await page.waitForLoadState('networkidle')
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
  const everybody = (await read(`/api/courses/${lastTerm.code}/roster`)).people
  const reader = starter.work.find((work) => work.owner === spoken).members[0]
  await picture(
    'student-remarks',
    everybody.find(({ code }) => code === reader).email,
    PHONE,
    async (page) => {
      await page.goto(`${base}/sheets/${past}/tasks/${starter.code}/remarks/${spoken}`)
      await page.getByRole('article', { name: 'Remark 2' }).waitFor()
      await page.waitForLoadState('networkidle')
    },
  )
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
  await picture('course', INSTRUCTOR, DESK, async (page) => {
    await page
      .getByRole('link', { name: /FERM 210 Ferm/ })
      .first()
      .click()
    await page.getByRole('heading', { name: 'Settings' }).waitFor()
  })
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
