import type { Browser, BrowserContext, Page } from '@playwright/test'
import type { DoorPerson } from '../../src/contract/demo.ts'

export const INSTRUCTOR = 'renske.okonjo@brinemoor.example'
export const TUTOR_AND_INSTRUCTOR = 'jonas.wehrli@brinemoor.example'
export const TUTOR = 'yuki.tanabe-holm@brinemoor.example'
export const PHONE = { width: 390, height: 844 }

/** A page on which somebody of the sample is signed in, in a browser context of its own. */
export async function enterAs(
  browser: Browser,
  email: string,
  options: Parameters<Browser['newContext']>[0] = {},
): Promise<Page> {
  const context = await browser.newContext(options)
  const page = await context.newPage()
  await page.goto('/door')
  await post(page, '/api/door', { email })
  return page
}

/** Calls the API from the page, with the page's session. */
export const post = <T>(page: Page, path: string, body: unknown): Promise<T> => send(page, 'POST', path, body)

/** The same, by any method. */
export async function send<T>(page: Page, method: string, path: string, body: unknown): Promise<T> {
  return page.evaluate(
    async ([how, to, sent]) => {
      const response = await fetch(to as string, {
        method: how as string,
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify(sent),
      })
      if (!response.ok) throw new Error(await response.text())
      return response.json() as Promise<T>
    },
    [method, path, body],
  )
}

/** Publishes a new sheet in the sample's first course, open at once; gives its code. */
export async function publishSheet(
  instructor: Page,
  title: string,
  topics: object[],
  rules: object = {},
): Promise<string> {
  const { courses } = await instructor.evaluate(() => fetch('/api/courses').then((answer) => answer.json()))
  const course = courses.find(({ courseCode }: { courseCode: string }) => courseCode === 'FERM 210')
  const { code } = await post<{ code: string }>(instructor, `/api/courses/${course.code}/sheets`, { title })
  await post(instructor, `/api/sheets/${code}/topics/several`, { topics })
  await send(instructor, 'PATCH', `/api/sheets/${code}`, { closesAt: daysFromNow(3), ...rules })
  await post(instructor, `/api/sheets/${code}/publish`, {})
  return code
}

/** The people of the sample. */
export async function sample(context: BrowserContext): Promise<DoorPerson[]> {
  const answer = await context.request.get('/api/door')
  return ((await answer.json()) as { people: DoorPerson[] }).people
}

/** Students of one course only, in the order of the roster. */
export async function studentsOf(context: BrowserContext, course: string): Promise<DoorPerson[]> {
  return (await sample(context)).filter(({ roles }) => roles === `student in ${course}`)
}

/** A closing time as a form field takes it, some days from now. */
export function daysFromNow(days: number): string {
  return `${new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 10)}T17:00`
}

/** Opens a sheet of the sample from the first page, by its title. */
export async function openSheet(page: Page, title: string): Promise<void> {
  await page.goto('/')
  await page
    .getByRole('link', { name: new RegExp(title) })
    .first()
    .click()
}
