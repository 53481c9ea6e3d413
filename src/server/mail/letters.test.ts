import { expect, it } from 'vitest'
import * as letters from './letters.ts'

const to = 'ada@school.example'
const about = { to, course: 'FERM 210', address: 'https://haplon.school.example/sheets/abc' }
const post = { by: 'Ben', subject: 'Plan', text: 'Who brings the soy?' }
const work = {
  course: 'FERM 210',
  task: 'Report',
  group: true,
  late: false,
  asks: false,
  at: 'Tue 6 May, 09:00',
}
const closing = { course: 'FERM 210', sheet: 'Benches', moves: 3, applied: true, left: 0, better: false }
const swap = { sheet: 'Benches', from: 'Kefir', to: 'Tempeh', address: about.address }

it.each([
  letters.signInMail(to, '123456', 'https://haplon.school.example/enter#token', 10),
  letters.signInMail(to, null, 'https://haplon.school.example/enter#token', 10),
  letters.guessedMail(to),
  letters.namedMail(about, post),
  letters.namedDigestMail(about, [post, { ...post, text: 'x'.repeat(900) }]),
  letters.fromLineMail(to, 'Benches', 'Tempeh', null),
  letters.fromLineMail(to, 'Benches', 'Tempeh', 'Kefir'),
  letters.requestMail(to, 'Benches', true, 'Tempeh'),
  letters.requestMail(to, 'Benches', true, null),
  letters.requestMail(to, 'Benches', false, 'Kefir'),
  letters.invitationMail(to, { sheet: 'Benches', by: null, topic: null, address: about.address }),
  letters.invitationMail(to, { sheet: 'Benches', by: 'Ben', topic: 'Tempeh', address: about.address }),
  letters.messageMail(about, { ...post, topic: 'Tempeh' }),
  letters.receiptMail(to, { ...work, by: null }, []),
  letters.receiptMail(to, { ...work, by: 'Ben', late: true }, ['plan.txt, 2 KB']),
  letters.unreadMail(
    to,
    [
      {
        group: 'Tempeh (FERM 210, Benches)',
        path: '/sheets/s/groups/g',
        subjects: [{ title: 'Week 3', posts: 2 }],
      },
    ],
    'https://haplon.example',
  ),
  letters.seatedByConvenerMail(to, 'FERM 210', 'Benches', 'Tempeh'),
  letters.takenOutMail(to, 'FERM 210', 'Benches', 'Tempeh'),
  letters.askedToLeaveMail(to, 'FERM 210', 'Benches', 'Tempeh'),
  letters.secondReadingMail(to, 'FERM 210', 'Report', 3),
  letters.markedMail(to, 'FERM 210', 'Report', 'Benches'),
  letters.announcementMail(to, { course: 'FERM 210', sheet: 'Benches', text: 'Choose.', address: 'a' }),
  letters.seatedByPlanMail(to, {
    sheet: 'Benches',
    topic: 'Tempeh',
    wish: '',
    when: '',
    place: '',
    mates: '',
    lead: '',
    address: '',
  }),
  letters.seatedByPlanMail(to, {
    sheet: 'Benches',
    topic: 'Tempeh',
    wish: 'That is your second wish.',
    when: 'Tue',
    place: 'Lab',
    mates: 'Ben',
    lead: 'Ben',
    address: 'https://school.example/s/abc',
  }),
  letters.swapOfferedMail(to, { ...swap, people: 2, until: 'Fri 8 May, 09:00' }),
  letters.swapOfferedMail(to, { ...swap, people: 4, until: 'Fri 8 May, 09:00' }),
  letters.swapMadeMail(to, swap),
  letters.swapEndedMail(to, { ...swap, address: '' }),
  letters.ruleTroubleMail(to, { course: 'FERM 210', sheet: 'Benches', rule: 'late', why: 'No room.' }),
  letters.closedMail(to, closing),
  letters.closedMail(to, { ...closing, moves: 0, left: 2 }),
  letters.closedMail(to, { ...closing, applied: false, better: true }),
])('$subject: reads as a whole, with nothing left out of it', (mail) => {
  expect(mail.to).toBe(to)
  expect(mail.subject).toMatch(/^\S.*\S$/)
  const words = `${mail.subject}\n${mail.text}`
  expect(words).not.toMatch(/\b(null|undefined|NaN)\b|\[object|\$\{| {2,}|“”/)
  expect(mail.text).toMatch(/[.!?]|https?:|^Choose/)
})

it('a digest quotes the start of long posts, ten of them at most, and says how many more there are', () => {
  const { text, subject } = letters.namedDigestMail(about, Array(14).fill({ ...post, text: 'x'.repeat(900) }))
  expect(subject).toMatch(/14 posts/)
  expect(text.match(/x{300} …/g)).toHaveLength(10)
  expect(text).toMatch(/And 4 more/)
})
