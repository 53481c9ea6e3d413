import { expect, test } from '@playwright/test'
import { enterAs, INSTRUCTOR, post, studentsOf } from './people.ts'

test('an instructor makes a token, a program reads with it, and it is ended', async ({
  browser,
  playwright,
  baseURL,
}) => {
  const page = await enterAs(browser, INSTRUCTOR, { permissions: ['clipboard-read', 'clipboard-write'] })
  const { code } = await post<{ code: string }>(page, '/api/courses', {
    courseCode: 'FERM 305',
    title: 'Machines',
    zone: 'Europe/Copenhagen',
    sections: [],
  })
  await page.goto(`/courses/${code}`)
  await page.getByRole('link', { name: 'Programs and their tokens' }).click()
  await expect(page.getByText('None. No program reaches this course.')).toBeVisible()
  await page.getByLabel('What it is for').fill('Timetable')
  await page.getByRole('button', { name: 'Make token' }).click()
  await page.getByRole('button', { name: 'Copy token' }).click()
  await expect(page.getByText('The token is copied.')).toBeVisible()
  const token = await page.getByRole('textbox', { name: 'Token' }).inputValue()
  expect(await page.evaluate(() => navigator.clipboard.readText())).toBe(token)
  await page.reload()
  await expect(page.getByText(/reads only · made .* by Renske Okonjo · never used/)).toBeVisible()
  await expect(page.getByRole('textbox', { name: 'Token' })).toHaveCount(0)

  const program = await playwright.request.newContext({
    baseURL: baseURL!,
    extraHTTPHeaders: { Authorization: `Bearer ${token}` },
  })
  const description = await (await program.get('/openapi.json')).json()
  const [path] = Object.keys(description.paths).filter(
    (one) => description.paths[one].get?.operationId === 'roster',
  )
  expect((await program.get(path!.replace('{course}', code))).status()).toBe(200)
  expect((await program.post(`/api/courses/${code}/sheets`, { data: { title: 'No' } })).status()).toBe(403)
  await page.reload()
  await expect(page.getByText(/last used/)).toBeVisible()
  await page.getByRole('button', { name: 'End token Timetable' }).click()
  await page.getByRole('alertdialog').getByRole('button', { name: 'End token' }).click()
  await expect(page.getByText('None. No program reaches this course.')).toBeVisible()
  expect((await program.get(path!.replace('{course}', code))).status()).toBe(401)

  await page.getByRole('link', { name: 'what programs can do' }).click()
  await expect(page.getByRole('heading', { name: 'What programs can do', level: 1 })).toBeVisible()
  await page.getByRole('searchbox', { name: 'Search what can be done' }).fill('import roster')
  const one = page.getByText(/POST \/api\/courses\/\{course\}\/roster\/import/)
  await one.click()
  await expect(page.getByRole('rowheader', { name: 'csv', exact: true })).toBeVisible()
  await expect(page.getByRole('rowheader', { name: 'added', exact: true })).toBeVisible()
})

test('tokens are the instructors’ alone', async ({ browser, context }) => {
  const instructor = await enterAs(browser, INSTRUCTOR)
  const code = await instructor.evaluate(
    async () => (await (await fetch('/api/courses')).json()).courses[0].code,
  )
  const [student] = await studentsOf(context, 'FERM 210')
  const page = await enterAs(browser, student!.email)
  await page.goto(`/courses/${code}/programs`)
  // Whoever it is not for is led to what is theirs.
  await expect(page.getByRole('heading', { level: 1, name: /^Hello/ })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Make token' })).toHaveCount(0)
})
