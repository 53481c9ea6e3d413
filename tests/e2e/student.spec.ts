import { readFileSync } from 'node:fs'
import { expect, test } from '@playwright/test'
import { daysFromNow, enterAs, INSTRUCTOR, PHONE, publishSheet, studentsOf } from './people.ts'

test('a convener invites somebody, who accepts; group mates, calendar file and calendar address follow', async ({
  browser,
  context,
}) => {
  const instructor = await enterAs(browser, INSTRUCTOR)
  const day = daysFromNow(8).slice(0, 10)
  const code = await publishSheet(
    instructor,
    'Invited benches',
    [
      {
        title: 'Rye',
        seats: 3,
        startsAt: `${day}T10:00`,
        endsAt: `${day}T12:00`,
        link: 'https://meet.example/rye',
      },
      { title: 'Spelt', seats: 3 },
    ],
    { invitations: 'convener' },
  )
  const people = await studentsOf(context, 'FERM 210')
  const [convener, guest] = await Promise.all(
    people.slice(12, 14).map(({ email }) => enterAs(browser, email, { viewport: PHONE })),
  )
  await convener!.goto(`/sheets/${code}`)
  const rye = convener!.getByRole('article', { name: 'Rye' })
  await rye.getByRole('button', { name: 'Take a seat' }).click()
  await expect(rye).toContainText('You answer for this group.')
  await guest!.goto(`/sheets/${code}`)
  await guest!.getByRole('article', { name: 'Spelt' }).waitFor()

  await rye.getByRole('button', { name: 'Invite somebody' }).click()
  const dialog = convener!.getByRole('alertdialog')
  await dialog.getByRole('searchbox', { name: 'Search' }).fill(people[13]!.name.slice(0, 6))
  await dialog.getByRole('radio', { name: people[13]!.name }).check()
  await dialog.getByRole('button', { name: `Invite ${people[13]!.name}` }).click()
  await expect(rye).toContainText(`${people[13]!.name} is invited and has not answered yet.`)

  // The page of the invited says so by itself.
  await expect(guest!.getByText(`${people[12]!.name} invites you to Rye`)).toBeVisible()
  await guest!.getByRole('button', { name: 'Accept' }).click()
  await expect(guest!.getByRole('complementary', { name: 'Your seat' })).toContainText('Rye')
  await expect(rye).toContainText(`With you: ${people[13]!.name}`)
  await expect(rye).not.toContainText('has not answered yet')

  const mine = guest!.getByRole('article', { name: 'Rye' })
  await expect(mine).toContainText(`${people[12]!.name} answers for this group.`)
  await expect(mine.getByRole('link', { name: 'Mail to all' })).toHaveAttribute(
    'href',
    `mailto:${encodeURIComponent(people[12]!.email)}?subject=Invited%20benches%3A%20Rye`,
  )
  await expect(mine.getByRole('link', { name: 'Meet online' })).toHaveAttribute(
    'href',
    'https://meet.example/rye',
  )
  const download = guest!.waitForEvent('download')
  await mine.getByRole('link', { name: 'Calendar file' }).click()
  const file = readFileSync(await (await download).path(), 'utf8')
  expect(file).toContain('SUMMARY:Rye (Invited benches)')

  await guest!.goto('/')
  await guest!.getByRole('button', { name: 'Make a private address' }).click()
  const address = await guest!.getByLabel(/Private address/).inputValue()
  const feed = await (await fetch(address)).text()
  expect(feed).toContain('SUMMARY:Rye (Invited benches)')
  await guest!.getByRole('button', { name: 'End address' }).click()
  await guest!.getByRole('alertdialog').getByRole('button', { name: 'End address' }).click()
  await expect(guest!.getByRole('button', { name: 'Make a private address' })).toBeVisible()
  expect((await fetch(address)).status).toBe(404)
})

test('a list of 120 topics is folded, searched, and keeps its place at twice the text size', async ({
  browser,
  context,
}) => {
  const instructor = await enterAs(browser, INSTRUCTOR)
  const topics = Array.from({ length: 120 }, (_, i) => ({
    title: `Ferment ${i + 1}`,
    brief: `Watch batch **${i + 1}** for four weeks.`,
    place: `Bench ${i + 1}`,
  }))
  const code = await publishSheet(instructor, 'A long list', topics)
  const people = await studentsOf(context, 'FERM 210')
  const student = await enterAs(browser, people[14]!.email, { viewport: PHONE })
  await student.goto(`/sheets/${code}`)
  const last = student.getByRole('article', { name: 'Ferment 120' })
  await expect(last).toBeAttached()
  const one = student.getByRole('article', { name: 'Ferment 7', exact: true })
  await expect(one.getByText('Watch batch')).toBeHidden()
  await one.getByRole('button', { name: /What it is about \(Ferment 7\)/ }).click()
  await expect(one.getByText('Watch batch')).toBeVisible()
  await student.getByRole('button', { name: 'Titles only' }).click()
  await expect(
    student.getByRole('article', { name: 'Ferment 9', exact: true }).getByText('Watch batch'),
  ).toBeVisible()
  await student.getByRole('button', { name: 'Search' }).click()
  await student.getByRole('searchbox', { name: 'Search the topics' }).fill('bench 118')
  await expect(student.getByRole('article')).toHaveCount(1)
  await student
    .getByRole('article', { name: 'Ferment 118' })
    .getByRole('button', { name: 'Take a seat' })
    .click()
  await expect(student.getByRole('complementary', { name: 'Your seat' })).toContainText('Ferment 118')
  // Twice the text size, and a desktop window at 200 %: nothing is cut off to the side.
  const tooWide = () =>
    student.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth)
  await student.evaluate(() => {
    document.documentElement.style.fontSize = '200%'
  })
  expect(await tooWide()).toBeLessThanOrEqual(0)
  await student.setViewportSize({ width: 640, height: 400 })
  await student.evaluate(() => {
    document.documentElement.style.fontSize = ''
  })
  expect(await tooWide()).toBeLessThanOrEqual(0)
})

test('where topics are open to the whole course, the list is shortened to one section', async ({
  browser,
  context,
}) => {
  const instructor = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(instructor, 'Across labs', [{ title: 'Rye' }, { title: 'Spelt' }], {
    offers: 'course',
  })
  const people = await studentsOf(context, 'FERM 210')
  const student = await enterAs(browser, people[16]!.email, { viewport: PHONE })
  await student.goto(`/sheets/${code}`)
  await expect(student.getByRole('article')).toHaveCount(6)
  await student.getByLabel('Section').selectOption('Wed lab')
  await expect(student.getByRole('article')).toHaveCount(2)
  await student
    .getByRole('article', { name: 'Spelt, Wed lab' })
    .getByRole('button', { name: 'Take a seat' })
    .click()
  await expect(student.getByRole('complementary', { name: 'Your seat' })).toContainText('Spelt')
})

test('a page left open turns at opening and at closing by itself, by the server’s clock', async ({
  browser,
  context,
}) => {
  const instructor = await enterAs(browser, INSTRUCTOR)
  const code = await publishSheet(instructor, 'By the clock', [{ title: 'Rye' }])
  const people = await studentsOf(context, 'FERM 210')
  const student = await enterAs(browser, people[15]!.email, { viewport: PHONE })
  // The phone's own clock is three days behind; what counts is the server's.
  await student.clock.install({ time: Date.now() - 3 * 86_400_000 })
  await student.goto(`/sheets/${code}`)
  await expect(student.getByText('Open', { exact: true })).toBeVisible()
  await expect(student.getByText(/closes .*in [23] days/)).toBeVisible()
  // Four days go by on the phone alone: an answer of the server, for whom they did not, would put it right again.
  await student.route('**/api/**', (route) => route.abort())
  await student.clock.fastForward(4 * 86_400_000)
  await expect(student.getByText('Closed', { exact: true })).toBeVisible()
  await expect(student.getByRole('button', { name: 'Take a seat' })).toHaveCount(0)
})
