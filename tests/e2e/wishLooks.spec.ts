import { expect, type Page, test } from '@playwright/test'
import { faults } from './axe.ts'
import { enterAs, INSTRUCTOR, PHONE, studentsOf } from './people.ts'

/** The code of a sheet of the sample that somebody may see, by the course's code and its title. */
async function sheetOf(page: Page, courseCode: string, title: string): Promise<string> {
  const { courses } = await page.evaluate(() => fetch('/api/courses').then((answer) => answer.json()))
  const course = courses.find((one: { courseCode: string }) => one.courseCode === courseCode)
  return course.sheets.find((one: { title: string }) => one.title === title).code
}

for (const colorScheme of ['light', 'dark'] as const) {
  test(`axe finds nothing where topics are ranked, ${colorScheme}`, async ({ browser, context }) => {
    const page = await enterAs(browser, INSTRUCTOR, { colorScheme })
    const brew = await sheetOf(page, 'FERM 210', 'Brew partners')
    await page.goto(`/sheets/${brew}/run`)
    await page.getByRole('button', { name: /^Kimchi and lactic sours, Tue lab/ }).click()
    await page.getByText('better off').first().waitFor()
    expect(await faults(page), 'run').toEqual([])
    await page.getByRole('button', { name: 'Who ranked what' }).click()
    await page.getByRole('dialog').getByRole('row').nth(1).waitFor()
    expect(await faults(page), 'who ranked what').toEqual([])
    await page.goto(`/sheets/${brew}/settle`)
    await page.getByText('each is the best there is for its aim').waitFor()
    expect(await faults(page), 'the aims').toEqual([])

    const people = await studentsOf(context, 'FERM 210')
    const student = await enterAs(browser, people[4]!.email, { colorScheme, viewport: PHONE })
    await student.goto(`/sheets/${brew}`)
    await student.getByRole('heading', { name: 'Your order', exact: true }).waitFor()
    expect(await faults(student), 'ranking').toEqual([])

    const matteo = await enterAs(browser, 'matteo.lindgren@brinemoor.example', { colorScheme })
    const past = await sheetOf(matteo, 'FERM 210-T', 'Brew partners')
    const [one] = await studentsOf(context, 'FERM 210-T')
    const reader = await enterAs(browser, one!.email, { colorScheme, viewport: PHONE })
    await reader.goto(`/sheets/${past}`)
    await reader.getByText('How it was decided').click()
    await reader.getByRole('button', { name: 'Save the record' }).waitFor()
    expect(await faults(reader), 'why').toEqual([])
  })
}

test('where topics are ranked, pages are whole on a narrow phone and at twice the text size', async ({
  browser,
  context,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  const brew = await sheetOf(page, 'FERM 210', 'Brew partners')
  const people = await studentsOf(context, 'FERM 210')
  const student = await enterAs(browser, people[5]!.email)
  for (const viewport of [
    { width: 320, height: 640 },
    { width: 640, height: 400 },
  ])
    for (const [who, path, ready] of [
      [page, `/sheets/${brew}/run`, 'If it closed now'],
      [page, `/sheets/${brew}/settle`, 'What comes first'],
      [page, `/sheets/${brew}/compose`, 'They rank at least'],
      [student, `/sheets/${brew}`, 'Your order'],
    ] as const) {
      await who.setViewportSize(viewport)
      await who.goto(path)
      await who.getByText(ready, { exact: true }).first().waitFor()
      await who.waitForLoadState('networkidle')
      const width = await who.evaluate(() => document.documentElement.scrollWidth)
      expect(width, `${path} at ${viewport.width}`).toBeLessThanOrEqual(viewport.width)
    }
})
