import { expect, test } from '@playwright/test'
import { enterAs, INSTRUCTOR, PHONE, post, studentsOf } from './people.ts'

test('whoever is first in line is seated by itself when a seat comes free, and sees it', async ({
  browser,
  context,
}) => {
  const instructor = await enterAs(browser, INSTRUCTOR)
  const { courses } = await instructor.evaluate(() => fetch('/api/courses').then((answer) => answer.json()))
  const ferm = courses.find(({ courseCode }: { courseCode: string }) => courseCode === 'FERM 210')
  const sheet = await post<{ code: string }>(instructor, `/api/courses/${ferm.code}/sheets`, {
    title: 'One seat each',
  })
  await post(instructor, `/api/sheets/${sheet.code}/topics/several`, {
    topics: [{ title: 'Rye', seats: 1 }, { title: 'Spelt' }],
  })
  await instructor.goto(`/sheets/${sheet.code}/compose`)
  await instructor.getByLabel('Full groups').selectOption('keep a waiting line')
  await instructor
    .getByLabel('Closes', { exact: true })
    .fill(`${new Date(Date.now() + 3 * 86_400_000).toISOString().slice(0, 10)}T17:00`)
  await instructor.getByLabel('Closes', { exact: true }).blur()
  await instructor.getByRole('button', { name: 'Publish…' }).click()
  await instructor.getByRole('button', { name: 'Publish', exact: true }).click()
  await expect(instructor.getByRole('link', { name: /\/s\// })).toBeVisible()
  await instructor.getByRole('link', { name: 'Run' }).click()

  const people = await studentsOf(context, 'FERM 210')
  const [one, two] = await Promise.all(
    people.slice(0, 2).map(({ email }) => enterAs(browser, email, { viewport: PHONE })),
  )
  await one!.goto(`/sheets/${sheet.code}`)
  await one!.getByRole('article', { name: 'Rye' }).getByRole('button', { name: 'Take a seat' }).click()
  await expect(one!.getByRole('complementary', { name: 'Your seat' })).toContainText('Rye')
  await two!.goto(`/sheets/${sheet.code}`)
  const rye = two!.getByRole('article', { name: 'Rye' })
  await two!.getByRole('article', { name: 'Spelt' }).getByRole('button', { name: 'Take a seat' }).click()
  await rye.getByRole('button', { name: 'Wait in line' }).click()
  await expect(rye).toContainText('1 in line, you are 1st')
  await expect(instructor.getByRole('region', { name: 'Tally' })).toContainText('Waiting in line')
  await expect(
    instructor.getByRole('button', { name: /Rye, Tue lab: 1 of 1 seat taken, full, 1 in line/ }),
  ).toBeVisible()

  await one!.getByRole('button', { name: 'Give up' }).click()
  await one!.getByRole('button', { name: 'Give up seat' }).click()
  await expect(two!.getByText('A seat came free and it was your turn: you sit at Rye.').first()).toBeVisible()
  await expect(two!.getByRole('complementary', { name: 'Your seat' })).toContainText('Rye')
  await expect(one!.getByRole('article', { name: 'Rye' })).toContainText('Full')
})
