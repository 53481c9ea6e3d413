import { expect, type Page, test } from '@playwright/test'
import { strToU8, zipSync } from 'fflate'
import { enterAs, INSTRUCTOR, openSheet, sample, studentsOf, TUTOR_AND_INSTRUCTOR } from './people.ts'

/** Asks for a mail to sign in, and reads it. */
async function askForMail(page: Page, email: string): Promise<string> {
  await page.getByLabel('Email address').fill(email)
  await page.getByRole('button', { name: 'Send me a code' }).click()
  await expect(page.getByRole('heading', { name: 'Type the code' })).toBeVisible()
  const { mails } = (await (await page.request.get('/api/outbox')).json()) as {
    mails: { to: string; text: string }[]
  }
  return mails.find(({ to }) => to === email)!.text
}

async function signInByCode(page: Page, email: string) {
  const mail = await askForMail(page, email)
  await page.getByLabel('Code from the mail').fill(/\d{6}/.exec(mail)![0])
  await page.getByRole('button', { name: 'Sign in' }).click()
}

test('a sheet’s link, followed signed out, leads through sign-in back to the sheet', async ({
  page,
  browser,
  context,
}) => {
  const instructor = await enterAs(browser, INSTRUCTOR)
  await openSheet(instructor, 'Culture benches')
  await instructor.getByRole('link', { name: 'Compose' }).click()
  const address = (await instructor.getByRole('link', { name: /\/s\// }).getAttribute('href'))!

  const [student] = await studentsOf(context, 'FERM 210')
  await page.goto(address)
  await expect(page).toHaveURL(/\/sign-in\?next=/)
  await page.getByLabel('Email address').fill('not an address')
  await page.getByRole('button', { name: 'Send me a code' }).click()
  await expect(page.getByText('That is not an email address')).toBeVisible()
  await signInByCode(page, student!.email)
  await expect(page.getByRole('heading', { name: 'Culture benches' })).toBeVisible()
  await expect(page).toHaveURL(/\/sheets\//)

  await page.getByRole('button', { name: /Menu of/ }).click()
  await page.getByRole('menuitem', { name: 'Sign out' }).click()
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible()

  const stranger = (await sample(context)).find(({ roles }) => roles === 'student in SENS 105')
  const other = await enterAs(browser, stranger!.email)
  await other.goto(address)
  await expect(other.getByRole('alert')).toContainText('is not on its roster')
  await expect(other.getByRole('link', { name: INSTRUCTOR })).toBeVisible()
})

test('the link of a mail signs in where it was asked for, and anywhere else asks first', async ({
  page,
  browser,
  context,
}) => {
  const [student] = await studentsOf(context, 'FERM 210')
  const instructor = await enterAs(browser, INSTRUCTOR)
  await openSheet(instructor, 'Culture benches')
  const sheet = new URL(instructor.url()).pathname.replace(/\/run$/, '')
  await page.goto(sheet)
  const link = /http\S+\/enter\S+/.exec(await askForMail(page, student!.email))![0]

  const elsewhere = await (await browser.newContext()).newPage()
  await elsewhere.goto(link)
  await expect(elsewhere.getByRole('heading', { name: 'Sign in here?' })).toBeVisible()
  await expect(elsewhere.getByText(student!.email)).toBeVisible()
  expect(elsewhere.url()).not.toContain('#')

  await page.goto(link)
  await expect(page.getByRole('heading', { name: 'Culture benches' })).toBeVisible()
  expect(new URL(page.url()).pathname).toBe(sheet)

  await elsewhere.getByRole('button', { name: 'Sign in here' }).click()
  await expect(elsewhere.getByRole('alert')).toContainText('That link was used')
  await elsewhere.getByRole('link', { name: 'Ask for another mail' }).click()
  await expect(elsewhere.getByLabel('Email address')).toBeVisible()
})

test('a passkey is made, signs in without a mail, and is deleted', async ({ browser, baseURL, context }) => {
  const [, student] = await studentsOf(context, 'FERM 210')
  // Passkeys belong to a name, never to a bare address.
  const page = await (
    await browser.newContext({ baseURL: baseURL!.replace('127.0.0.1', 'localhost') })
  ).newPage()
  const devtools = await page.context().newCDPSession(page)
  await devtools.send('WebAuthn.enable')
  await devtools.send('WebAuthn.addVirtualAuthenticator', {
    options: {
      protocol: 'ctap2',
      transport: 'internal',
      hasResidentKey: true,
      hasUserVerification: true,
      isUserVerified: true,
      automaticPresenceSimulation: true,
    },
  })
  await page.goto('/sign-in')
  await signInByCode(page, student!.email)
  await page.getByRole('button', { name: /Menu of/ }).click()
  await page.getByRole('menuitem', { name: 'Where you are signed in' }).click()
  await page.getByRole('button', { name: 'Add a passkey' }).click()
  await page.getByRole('button', { name: 'Add passkey' }).click()
  await expect(page.getByText('Give it a name')).toBeVisible()
  await page.getByLabel('Name').fill('My laptop')
  await page.getByRole('button', { name: 'Add passkey' }).click()
  await expect(page.getByText('My laptop')).toBeVisible()
  await expect(page.getByText('not used yet')).toBeVisible()

  await page.getByRole('button', { name: 'Sign out everywhere' }).click()
  await page.getByRole('alertdialog').getByRole('button', { name: 'Sign out everywhere' }).click()
  await expect(page.getByRole('heading', { name: 'Sign in', exact: true })).toBeVisible()
  await page.getByRole('button', { name: 'Sign in with a passkey' }).click()
  await expect(page.getByRole('button', { name: /Menu of/ })).toBeVisible()
  await page.goto('/sign-ins')
  await expect(page.getByText(/last used/)).toBeVisible()
  await page.getByRole('button', { name: 'Delete My laptop' }).click()
  await page.getByRole('button', { name: 'Delete passkey' }).click()
  await expect(page.getByText('not used yet')).toHaveCount(0)
  await page.context().clearCookies()
  await page.goto('/sign-in')
  await page.getByRole('button', { name: 'Sign in with a passkey' }).click()
  await expect(page.getByRole('alert')).toContainText('does not let anybody in')
})

test('one sees where one is signed in, and ends it from elsewhere', async ({ browser, context }) => {
  const [, , student] = await studentsOf(context, 'FERM 210')
  const [here, there] = [await enterAs(browser, student!.email), await enterAs(browser, student!.email)]
  await there.goto('/')
  await here.goto('/sign-ins')
  await expect(here.getByText('this one')).toHaveCount(1)
  for (const button of await here.getByRole('button', { name: /^Sign out .* signed in since/ }).all())
    await button.click({ timeout: 5_000 }).catch(() => {})
  await expect(here.getByRole('button', { name: /^Sign out .* signed in since/ })).toHaveCount(0)
  await there.reload()
  await expect(there.getByRole('heading', { name: 'Sign in', exact: true })).toBeVisible()
  await expect(here.getByText('this one')).toBeVisible()
})

test('a wrong code is refused beside its field, whoever asks', async ({ page }) => {
  await page.goto('/sign-in')
  await page.getByLabel('Email address').fill('nobody@elsewhere.example')
  await page.getByRole('button', { name: 'Send me a code' }).click()
  await page.getByLabel('Code from the mail').fill('000000')
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByText('That code is wrong, used up or older')).toBeVisible()
})

test('somebody who is tutor here, instructor there sees both, and may write only where he may', async ({
  browser,
}) => {
  const page = await enterAs(browser, TUTOR_AND_INSTRUCTOR)
  await page.goto('/')
  const ferm = page.getByRole('region', { name: /FERM 210/ })
  await expect(ferm.getByRole('link', { name: 'New sheet' })).toHaveCount(0)
  await expect(
    page.getByRole('region', { name: /SENS 105/ }).getByRole('link', { name: 'New sheet' }),
  ).toBeVisible()
  await ferm.getByRole('link', { name: /Tasting panel slots/ }).click()
  await expect(page.getByRole('textbox', { name: 'Title of Bitter end' })).not.toBeEditable()
  await expect(page.getByRole('button', { name: 'Publish…' })).toHaveCount(0)
})

test('an instructor adds a course and brings in its roster', async ({ browser }) => {
  const page = await enterAs(browser, INSTRUCTOR)
  await page.goto('/courses/new')
  await page.getByLabel('Course code').fill('BREW 300')
  await page.getByRole('button', { name: 'Add the course' }).click()
  await expect(page.getByText('The title is missing.')).toBeVisible()
  await page.getByLabel('Title').fill('Grain and Hops')
  await page.getByLabel('Time zone').selectOption('Europe/Lisbon')
  for (const [i, name] of ['Mon lab', 'mon LAB'].entries()) {
    await page.getByRole('button', { name: 'Add a section' }).click()
    await page.getByRole('textbox', { name: `Section ${i + 1}` }).fill(name)
  }
  await page.getByRole('button', { name: 'Add the course' }).click()
  await expect(page.getByText('stands twice')).toBeVisible()
  await page.getByRole('textbox', { name: 'Section 2' }).fill('Fri lab')
  await page.getByRole('button', { name: 'Add the course' }).click()

  await expect(page.getByRole('heading', { name: 'Roster', exact: true })).toBeVisible()
  const csv =
    'SECTION;E-Mail;Name\nmon lab;a@school.example;Ana Šarić\nSun lab;b@school.example;Bo Lund\nFri lab;nowhere;Cy Reed\n'
  // As a spreadsheet saves it: UTF-16 with its mark.
  const file = Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from(csv, 'utf16le')])
  await page
    .getByLabel('Choose a file')
    .setInputFiles({ name: 'roster.csv', mimeType: 'text/csv', buffer: file })
  await expect(page.getByText('The course has no such section; it has Mon lab and Fri lab.')).toBeVisible()
  await expect(page.getByText('This is not an email address')).toBeVisible()
  await page.getByRole('button', { name: 'Import 1 person, leave out 2 wrong' }).click()
  await expect(page.getByRole('rowheader', { name: 'Ana Šarić' })).toBeVisible()

  await page.getByRole('button', { name: 'Import roster' }).click()
  await page.getByLabel('Roster as text').fill('nothing here')
  await page.getByRole('button', { name: 'See what would change' }).click()
  await expect(page.getByText('The first line must name the columns')).toBeVisible()
})

test('a OneRoster export in one zip becomes a roster; a zip that is none is refused', async ({ browser }) => {
  const page = await enterAs(browser, INSTRUCTOR)
  await page.goto('/courses/new')
  await page.getByLabel('Course code').fill('ROST 1')
  await page.getByLabel('Title').fill('From an export')
  await page.getByRole('button', { name: 'Add a section' }).click()
  await page.getByRole('textbox', { name: 'Section 1' }).fill('Tue lab')
  await page.getByRole('button', { name: 'Add the course' }).click()
  const choose = (name: string, buffer: Buffer) =>
    page.getByLabel('Choose a file').setInputFiles({ name, mimeType: 'application/zip', buffer })
  await choose('export.zip', Buffer.from('name,email'))
  await expect(page.getByText('This is not a zip file.')).toBeVisible()
  const zip = zipSync({
    'users.csv': strToU8(
      'sourcedId,status,givenName,familyName,email\nu1,active,Ada,Lind,ada@rost.example\nu2,active,Bo,Reed,bo@rost.example',
    ),
    'classes.csv': strToU8('sourcedId,status,title\nk1,active,Tue lab\nk2,active,Another course'),
    'enrollments.csv': strToU8(
      'sourcedId,status,classSourcedId,userSourcedId,role\ne1,active,k1,u1,student\ne2,active,k2,u2,student',
    ),
  })
  await choose('export.zip', Buffer.from(zip))
  await page.getByRole('button', { name: 'See what 1 person would change' }).click()
  await page.getByRole('button', { name: 'Import 1 person' }).click()
  await expect(page.getByRole('rowheader', { name: 'Ada Lind' })).toBeVisible()
  // One undo, and the roster is as it was.
  await page.getByRole('button', { name: 'Undo this change, seats included' }).click()
  await expect(page.getByRole('rowheader', { name: 'Ada Lind' })).toHaveCount(0)
})

test('Enter in a section’s field adds another, and sections that a file names are added on one press', async ({
  browser,
}) => {
  const page = await enterAs(browser, INSTRUCTOR)
  await page.goto('/courses/new')
  await page.getByLabel('Course code').fill('MALT 120')
  await page.getByLabel('Title').fill('Malt and Water')
  await page.getByRole('button', { name: 'Add a section' }).click()
  const first = page.getByRole('textbox', { name: 'Section 1' })
  await first.fill('Mon lab')
  await first.press('Enter')
  // The form is not sent, and the next field waits to be typed into.
  await expect(page.getByRole('textbox', { name: 'Section 2' })).toBeFocused()
  await page.keyboard.type('Fri lab')
  await page.getByRole('button', { name: 'Add the course' }).click()
  await expect(page.getByRole('heading', { name: 'Roster', exact: true })).toBeVisible()

  const csv = 'name,email,section\nAna Quist,ana@school.example,Mon lab\nBo Tarn,bo@school.example,Sun lab\n'
  await page.getByLabel('Roster as text').fill(csv)
  await page.getByRole('button', { name: 'See what would change' }).click()
  await expect(page.getByText('The course has no section “Sun lab”.', { exact: false })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Import 1 person, leave out 1 wrong' })).toBeVisible()
  await page.getByRole('button', { name: 'Add this section' }).click()
  await page.getByRole('button', { name: 'Import 2 people' }).click()
  await expect(page.getByRole('rowheader', { name: 'Bo Tarn' })).toBeVisible()
})
