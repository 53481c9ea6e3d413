import { expect, type Page, test } from '@playwright/test'
import { daysFromNow, enterAs, INSTRUCTOR, post, send } from './people.ts'

/** A course of its own, with two sections of two students and one open sheet; gives their codes. */
async function ownCourse(page: Page, courseCode: string): Promise<{ course: string; sheet: string }> {
  const { code: course } = await post<{ code: string }>(page, '/api/courses', {
    courseCode,
    title: 'Cellar Practice',
    zone: 'Europe/Copenhagen',
    sections: ['Mon cellar', 'Fri cellar'],
  })
  const csv = [
    'name,email,section',
    ...['Mon', 'Fri'].flatMap((day) =>
      [1, 2].map(
        (n) => `${day} ${n},${day}${n}.${courseCode.replace(' ', '')}@brinemoor.example,${day} cellar`,
      ),
    ),
  ].join('\n')
  await post(page, `/api/courses/${course}/roster/import`, { csv, skipFaults: false })
  const { code: sheet } = await post<{ code: string }>(page, `/api/courses/${course}/sheets`, {
    title: 'Crock watch',
  })
  await post(page, `/api/sheets/${sheet}/topics/several`, { topics: [{ title: 'Brine' }, { title: 'Salt' }] })
  await send(page, 'PATCH', `/api/sheets/${sheet}`, { closesAt: daysFromNow(3), seats: 2 })
  await post(page, `/api/sheets/${sheet}/publish`, {})
  return { course, sheet }
}

test('a course is set on its own page, and each change is taken back by its undo', async ({ browser }) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const { sheet } = await ownCourse(page, 'CELL 1')
  await page.goto(`/sheets/${sheet}/run`)
  await page
    .getByRole('navigation', { name: 'Where you are' })
    .getByRole('link', { name: 'CELL 1 Cellar Practice' })
    .click()
  await expect(page.getByRole('heading', { level: 1, name: 'CELL 1 Cellar Practice' })).toBeVisible()
  await expect(page.getByRole('link', { name: /Crock watch/ })).toBeVisible()
  const settings = page.getByRole('region', { name: 'Settings' })

  const title = settings.getByRole('textbox', { name: 'Title' })
  await title.fill('Cellar and Crock')
  await title.press('Enter')
  await expect(page.getByRole('heading', { level: 1, name: 'CELL 1 Cellar and Crock' })).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(title).toHaveValue('Cellar Practice')

  const code = settings.getByRole('textbox', { name: 'Course code' })
  await code.fill('FERM 210')
  await code.press('Enter')
  await expect(settings.getByRole('alert')).toContainText('You already have a course FERM 210')
  await code.press('Escape')
  await expect(code).toHaveValue('CELL 1')

  await settings.getByRole('textbox', { name: 'A further section' }).fill('Sun cellar')
  await page.keyboard.press('Enter')
  await expect(settings.getByRole('textbox', { name: 'Name of Sun cellar' })).toBeVisible()

  await settings.getByRole('combobox', { name: 'Time zone' }).selectOption('Asia/Tokyo')
  const zone = page.getByRole('alertdialog', { name: 'The clocks of Asia/Tokyo' })
  await expect(zone.getByRole('row', { name: /Crock watch: It closes/ })).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(settings.getByRole('combobox', { name: 'Time zone' })).toHaveValue('Europe/Copenhagen')
  await settings.getByRole('combobox', { name: 'Time zone' }).selectOption('Asia/Tokyo')
  await zone.getByRole('radio', { name: /The moment stays/ }).check()
  await zone.getByRole('button', { name: 'Change zone' }).click()
  await expect(page.getByText('clocks of Asia/Tokyo').first()).toBeVisible()
})

test('a section is merged into another with those who sit there, and comes back with them', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const { course, sheet } = await ownCourse(page, 'CELL 2')
  const student = await enterAs(browser, 'mon1.cell2@brinemoor.example')
  await student.goto(`/sheets/${sheet}`)
  const brine = student.getByRole('article', { name: /Brine/ })
  await brine.getByRole('button', { name: /Take a seat/ }).click()
  await expect(student.getByRole('complementary', { name: 'Your seat' })).toContainText('Brine')

  await page.goto(`/courses/${course}`)
  await page.getByRole('button', { name: 'Remove Mon cellar' }).click()
  const first = page.getByRole('alertdialog', { name: 'Remove Mon cellar' })
  await expect(first.getByRole('combobox')).toHaveValue(/.+/)
  await first.getByRole('button', { name: 'Merge into Fri cellar' }).click()
  const asked = page.getByRole('alertdialog', { name: 'Remove Mon cellar?' })
  await expect(asked).toContainText('2 students come into Fri cellar. 1 seat goes along')
  await asked.getByRole('button', { name: 'Merge into Fri cellar' }).click()
  await expect(page.getByText('Mon cellar is merged into Fri cellar.').first()).toBeVisible()
  await expect(page.getByText('Fri cellar 4').first()).toBeVisible()
  await student.reload()
  await expect(student.getByRole('complementary', { name: 'Your seat' })).toContainText('Brine')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByText('Mon cellar 2 · Fri cellar 2').first()).toBeVisible()
  await student.reload()
  await expect(student.getByRole('complementary', { name: 'Your seat' })).toContainText('Brine')
})

test('a course is archived and restored, deleted and brought back', async ({ browser }) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const { course, sheet } = await ownCourse(page, 'CELL 3')
  const student = await enterAs(browser, 'fri1.cell3@brinemoor.example')
  await page.goto(`/courses/${course}`)
  await page.getByRole('button', { name: 'Archive course' }).click()
  await expect(page.getByText('The course is archived since').first()).toBeVisible()
  await expect(page.getByRole('link', { name: 'New sheet' })).toHaveCount(0)
  await student.goto(`/sheets/${sheet}`)
  await expect(student.getByRole('button', { name: /Take a seat/ })).toHaveCount(0)
  await page.goto('/')
  await page
    .getByRole('region', { name: 'Archived courses' })
    .getByRole('link', { name: 'CELL 3 Cellar Practice' })
    .click()
  await page.getByRole('button', { name: 'Restore course' }).click()
  await expect(page.getByRole('link', { name: 'New sheet' })).toBeVisible()
  await student.reload()
  await expect(student.getByRole('button', { name: /Take a seat/ }).first()).toBeVisible()

  await page.getByRole('button', { name: 'Delete course…' }).click()
  await page.getByRole('alertdialog').getByRole('button', { name: 'Delete course' }).click()
  await expect(page.getByText('CELL 3 is deleted.').first()).toBeVisible()
  await expect(page.getByRole('link', { name: 'CELL 3 Cellar Practice' })).toHaveCount(0)
  await student.reload()
  await expect(student.getByRole('button', { name: /Take a seat/ })).toHaveCount(0)
  await page
    .getByRole('listitem')
    .filter({ hasText: 'CELL 3 is deleted' })
    .getByRole('button', { name: 'Undo' })
    .click()
  await expect(page.getByRole('heading', { level: 1, name: 'CELL 3 Cellar Practice' })).toBeVisible()
  await student.reload()
  await expect(student.getByRole('button', { name: /Take a seat/ }).first()).toBeVisible()
})

test('when somebody leaves and a group is too small, the first page offers plans to mend it', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const { course, sheet } = await ownCourse(page, 'CELL 4')
  await send(page, 'PATCH', `/api/sheets/${sheet}`, { seats: 4, floor: 2, confirmed: true })
  for (const [who, topic] of [
    ['mon1', 'Brine'],
    ['mon2', 'Salt'],
  ] as const) {
    const student = await enterAs(browser, `${who}.cell4@brinemoor.example`)
    await student.goto(`/sheets/${sheet}`)
    await student
      .getByRole('article', { name: new RegExp(topic) })
      .getByRole('button', { name: /Take a seat/ })
      .click()
    await expect(student.getByRole('complementary', { name: 'Your seat' })).toContainText(topic)
  }
  const late = { name: 'Mon 3', email: 'mon3.cell4@brinemoor.example', role: 'student' }
  const sections = await page.evaluate(
    (code) => fetch(`/api/courses/${code}`).then((answer) => answer.json()),
    course,
  )
  await post(page, `/api/courses/${course}/roster/people`, {
    ...late,
    section: sections.sections[0].code,
  })
  const third = await enterAs(browser, late.email)
  await third.goto(`/sheets/${sheet}`)
  await third
    .getByRole('article', { name: /Brine/ })
    .getByRole('button', { name: /Take a seat/ })
    .click()
  await expect(third.getByRole('complementary', { name: 'Your seat' })).toContainText('Brine')

  const { people: now } = await page.evaluate(
    (code) => fetch(`/api/courses/${code}/roster`).then((answer) => answer.json()),
    course,
  )
  const { code: leaver } = now.find(({ name }: { name: string }) => name === late.name)
  const left = { status: 'left', freeSeats: true }
  await send(page, 'PATCH', `/api/courses/${course}/roster/people/${leaver}`, left)

  await page.goto(`/courses/${course}`)
  await expect(page.getByText('has 1 of at least 2, since Mon 3 left')).toBeVisible()
  await page.getByRole('link', { name: /Merge group: Brine/ }).click()
  await expect(page.getByText('Merge Brine, Mon cellar into Salt, Mon cellar').first()).toBeVisible()
  await expect(page).not.toHaveURL(/mend=/)
  await page.goBack()
  await page.getByRole('button', { name: /Lower floor: Brine/ }).click()
  await expect(page.getByText('has 1 of at least 2, since Mon 3 left')).toHaveCount(0)
})
