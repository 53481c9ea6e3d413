import type { Browser, BrowserContext, Locator, Page } from '@playwright/test'
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

/**
 * Publishes a new sheet in the sample's first course, open at once; gives its code. One of the same title, which an
 * earlier try of the same test left, is deleted first.
 */
export async function publishSheet(
  instructor: Page,
  title: string,
  topics: object[],
  rules: object = {},
): Promise<string> {
  const { courses } = await instructor.evaluate(() => fetch('/api/courses').then((answer) => answer.json()))
  const course = courses.find(({ courseCode }: { courseCode: string }) => courseCode === 'FERM 210')
  for (const left of course.sheets.filter((sheet: { title: string }) => sheet.title === title))
    await send(instructor, 'DELETE', `/api/sheets/${left.code}`, undefined)
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

/** The work of last term that has most remarks: where its desk and its students’ page are, and one of its students. */
export async function remarkedWork(
  instructor: Page,
  context: BrowserContext,
): Promise<{ desk: string; page: string; email: string }> {
  const { sheet, task, owner, names } = await instructor.evaluate(async () => {
    const read = async (path: string) => (await fetch(path)).json()
    const { courses } = await read('/api/courses')
    const sheet = courses.find((one: { courseCode: string }) => one.courseCode === 'FERM 210-T').sheets[0]
      .code
    const view = await read(`/api/sheets/${sheet}/work`)
    const task = view.tasks.find(({ remarked }: { remarked: object[] }) => remarked.length > 0)
    const { owner } = task.remarked[0]
    const { members } = view.groups.find(({ code }: { code: string }) => code === owner)
    const people = view.people.filter(({ code }: { code: string }) => members.includes(code))
    return { sheet, task: task.code, owner, names: people.map(({ name }: { name: string }) => name) }
  })
  const student = (await studentsOf(context, 'FERM 210-T')).find(({ name }) => names.includes(name))
  const at = `/sheets/${sheet}/tasks/${task}`
  return { desk: `${at}/desk?pile=${owner}`, page: `${at}/remarks/${owner}`, email: student?.email ?? '' }
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

/** Waits until something stands still where it is: what is scrolled past is laid out only when it comes near. */
export async function atRest(what: Locator): Promise<void> {
  await what.evaluate(async (element) => {
    let place = Number.NaN
    for (let still = 0; still < 10; ) {
      await new Promise(requestAnimationFrame)
      const { top } = element.getBoundingClientRect()
      still = top === place ? still + 1 : 0
      place = top
    }
  })
}

/** Ends a sheet’s window a minute ago. */
export async function closeNow(page: Page, code: string): Promise<void> {
  const view = (await page.evaluate(
    (sheet) => fetch(`/api/sheets/${sheet}/run`).then((answer) => answer.json()),
    code,
  )) as { course: { zone: string } }
  const ago = new Intl.DateTimeFormat('sv-SE', {
    timeZone: view.course.zone,
    dateStyle: 'short',
    timeStyle: 'short',
  }).format(new Date(Date.now() - 60_000))
  await send(page, 'PATCH', `/api/sheets/${code}`, {
    opensAt: daysFromNow(-1),
    closesAt: ago.replace(' ', 'T'),
    confirmed: true,
  })
}
