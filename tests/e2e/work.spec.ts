import { expect, type Page, test } from '@playwright/test'
import {
  daysFromNow,
  enterAs,
  INSTRUCTOR,
  PHONE,
  post,
  publishSheet,
  send,
  studentsOf,
  TUTOR_AND_INSTRUCTOR,
} from './people.ts'

/** Opens the menu-less way: the page of a sheet's tasks as a student. */
const tasksOf = async (page: Page, code: string) => {
  await page.goto(`/sheets/${code}/tasks`)
  await expect(page.getByRole('heading', { name: 'Tasks', exact: true })).toBeVisible()
}

test('a task is locked without a group, opens with a seat, is handed in by one for all, marked with one set apart, and each sees their own', async ({
  browser,
  context,
}) => {
  const [first, second] = await studentsOf(context, 'FERM 210')
  const instructor = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(instructor, 'Brine logs', [
    { title: 'North tank' },
    { title: 'South tank' },
  ])

  await test.step('the instructor sets a task with criteria', async () => {
    await instructor.goto(`/sheets/${code}/work`)
    await instructor.getByRole('button', { name: 'Set a task' }).click()
    const dialog = instructor.getByRole('dialog', { name: 'Set a task' })
    await dialog.getByLabel('Title').fill('Brine report')
    await dialog.getByLabel('Due', { exact: true }).fill(daysFromNow(2))
    for (const [i, name] of ['What was seen', 'Plain writing'].entries()) {
      await dialog.getByRole('button', { name: 'Add a criterion' }).click()
      await dialog.getByLabel(`Criterion ${i + 1}`, { exact: true }).fill(name)
    }
    await dialog.getByRole('button', { name: 'Set the task' }).click()
    await expect(instructor.getByRole('heading', { name: 'Brine report' })).toBeVisible()
  })

  const page = await enterAs(browser, first?.email ?? '', { viewport: PHONE })
  await test.step('without a group it is locked, with the way to the sheet', async () => {
    await tasksOf(page, code)
    const task = page.getByRole('article', { name: 'Brine report' })
    await expect(task.getByText('Locked')).toBeVisible()
    await expect(task.getByText('What was seen')).toHaveCount(0)
    await task.getByRole('link', { name: 'To the sheet' }).click()
    await page
      .getByRole('article', { name: 'North tank' })
      .getByRole('button', { name: 'Take a seat' })
      .click()
    await expect(page.getByText(/You sit at/).first()).toBeVisible()
    await page.getByRole('link', { name: /1 task/ }).click()
    await expect(task.getByText('Open')).toBeVisible()
  })

  const mate = await enterAs(browser, second?.email ?? '', { viewport: PHONE })
  const section = await mate.evaluate(
    (sheet) => fetch(`/api/sheets/${sheet}/student`).then((answer) => answer.json()),
    code,
  )
  const north = section.groups.find(({ title }: { title: string }) => title === 'North tank').code
  await post(mate, `/api/sheets/${code}/claims`, { key: 'mate-sits-1', kind: 'take', to: north })

  await test.step('one writes, the mate reads along, and one hands in for both', async () => {
    await page.getByLabel('Text').fill('The brine was cloudy on Monday.')
    await expect(page.getByText('Saved. Your group sees it too.')).toBeVisible()
    await tasksOf(mate, code)
    await expect(mate.getByText(/is writing now/)).toBeVisible()
    await expect(mate.getByLabel('Text')).toHaveValue('The brine was cloudy on Monday.')
    await page.getByRole('button', { name: 'Hand in for your group' }).click()
    await page.getByRole('alertdialog').getByRole('button', { name: 'Hand in' }).click()
    await expect(page.getByText('Handed in: version 1')).toBeVisible()
    await expect(mate.getByText('Handed in: version 1')).toBeVisible()
  })

  await test.step('nobody leaves the group by themselves any more', async () => {
    await page.goto(`/sheets/${code}`)
    await expect(page.getByText(/You sit at/).first()).toBeVisible()
    const south = page.getByRole('article', { name: 'South tank' })
    await expect(south.getByRole('button', { name: 'Move here' })).toHaveCount(0)
  })

  await test.step('the tutor marks by keys alone and sets one apart', async () => {
    const { courses } = await instructor.evaluate(() => fetch('/api/courses').then((answer) => answer.json()))
    const course = courses.find(({ courseCode }: { courseCode: string }) => courseCode === 'FERM 210').code
    await send(instructor, 'PATCH', `/api/courses/${course}`, { tutorsMark: true })
    const roster = await instructor.evaluate(
      (of) => fetch(`/api/courses/${of}/roster`).then((answer) => answer.json()),
      course,
    )
    const tutorCode = roster.people.find(
      ({ email }: { email: string }) => email === TUTOR_AND_INSTRUCTOR,
    ).code
    await send(instructor, 'PUT', `/api/sheets/${code}/tutors`, {
      changes: [{ group: north, add: [tutorCode] }],
    })
    const tutor = await enterAs(browser, TUTOR_AND_INSTRUCTOR)
    await tutor.goto(`/sheets/${code}/work`)
    await tutor.getByRole('link', { name: 'To the desk' }).click()
    await expect(tutor.getByText('The brine was cloudy on Monday.')).toBeVisible()
    await tutor.getByRole('slider', { name: 'What was seen' }).focus()
    await tutor.keyboard.press('4')
    await tutor.keyboard.press('ArrowRight')
    await tutor.getByRole('slider', { name: 'Plain writing' }).focus()
    await tutor.keyboard.press('3')
    await expect(tutor.getByText('7.5 of 10')).toBeVisible()
    await tutor.getByLabel('Feedback').fill('Say where you looked.')
    await expect(tutor.getByText(/^Saved\./)).toBeVisible()
    await tutor.getByRole('button', { name: `Set apart ${second?.name}` }).click()
    await tutor.getByRole('slider', { name: 'What was seen' }).focus()
    await tutor.keyboard.press('2')
    await tutor.getByRole('slider', { name: 'Plain writing' }).focus()
    await tutor.keyboard.press('2')
    await expect(tutor.getByText(/^Saved\./)).toBeVisible()
    await expect(tutor.getByText('set apart', { exact: true }).first()).toBeVisible()
  })

  await test.step('released, each sees their own mark and nobody else’s', async () => {
    await instructor.goto(`/sheets/${code}/work`)
    await instructor.getByRole('link', { name: 'To the desk' }).click()
    await instructor.getByRole('button', { name: 'Release 1 mark…' }).click()
    await instructor
      .getByRole('alertdialog')
      .getByRole('button', { name: /^Release \d+ marks?$/ })
      .click()
    await tasksOf(page, code)
    const mark = page.getByRole('region', { name: 'Your mark' })
    await expect(mark.getByText('7.5 of 10')).toBeVisible()
    await expect(mark.getByText('Say where you looked.')).toBeVisible()
    await tasksOf(mate, code)
    const apart = mate.getByRole('region', { name: 'Your mark' })
    await expect(apart.getByText('4 of 10')).toBeVisible()
    await expect(apart.getByText('set apart from the group’s')).toBeVisible()
  })

  await test.step('a criterion under given marks is taken away only when asked for twice, and comes back whole', async () => {
    await instructor.goto(`/sheets/${code}/work`)
    await instructor.getByRole('button', { name: 'Change', exact: true }).click()
    const dialog = instructor.getByRole('dialog', { name: 'Change the task' })
    await dialog
      .getByRole('button', { name: /^Remove/ })
      .first()
      .click()
    await dialog.getByRole('button', { name: 'Save task' }).click()
    const asked = instructor.getByRole('alertdialog', { name: 'Marks were given already' })
    await expect(asked.getByText(/“What was seen” would not count any more in 2 marks given/)).toBeVisible()
    await asked.getByRole('button', { name: 'Save changes all the same' }).click()
    await instructor.getByRole('button', { name: 'Undo' }).click()
    await tasksOf(page, code)
    await expect(page.getByRole('region', { name: 'Your mark' }).getByText('7.5 of 10')).toBeVisible()
  })

  await test.step('the overview tells no group from missing', async () => {
    await instructor.goto(`/sheets/${code}/work`)
    await instructor.getByLabel('Group').selectOption('none')
    await expect(instructor.getByRole('link', { name: 'no group, seat them' }).first()).toBeVisible()
  })
})
