import type { AddressInfo } from 'node:net'
import { createServer, type Socket } from 'node:net'
import { pino } from 'pino'
import { expect, it } from 'vitest'
import { DAY, HOUR, MINUTE, shift } from '../../core/instant.ts'
import { openDb } from '../db/open.ts'
import { createSmtpMailer } from './mailer.ts'
import { createMailStore } from './store.ts'

/** A mail server in a few lines (RFC 5321, the least of it), which turns the first `refusals` mails away with a reply. */
async function mailServer(refusals: number, reply: number) {
  const taken: string[] = []
  let left = refusals
  const serve = (socket: Socket) => {
    let data = false
    let text = ''
    socket.write('220 test\r\n')
    socket.on('data', (chunk) => {
      for (const line of String(chunk).split('\r\n')) {
        if (data && line === '.') {
          data = false
          taken.push(text)
          socket.write('250 taken\r\n')
        } else if (data) text += `${line}\n`
        else if (/^EHLO/.test(line)) socket.write('250 test\r\n')
        else if (/^MAIL/.test(line)) socket.write(left-- > 0 ? `${reply} not now\r\n` : '250 ok\r\n')
        else if (/^RCPT/.test(line)) socket.write('250 ok\r\n')
        else if (/^DATA/.test(line)) {
          data = true
          socket.write('354 go on\r\n')
        } else if (/^(QUIT|RSET)/.test(line)) socket.end('221 bye\r\n')
      }
    })
    socket.on('error', () => {})
  }
  const server = createServer(serve)
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
  const { port } = server.address() as AddressInfo
  return { address: `smtp://127.0.0.1:${port}`, taken, close: () => server.close() }
}

const mail = { to: 'ada@school.example', subject: '123456 is your code', text: 'Your code is 123456.' }

/** A mailer over a store of its own, with a clock that the test moves. */
function mailerTo(address: string) {
  let now = '2026-05-06T07:00:00.000Z'
  const store = createMailStore(openDb(':memory:'))
  const parts = { store, clock: () => now, log: pino({ level: 'silent' }) }
  const mailer = createSmtpMailer(address, 'Haplon <haplon@school.example>', parts)
  const later = (ms: number) => {
    now = shift(now, ms)
  }
  return { mailer, store, later }
}

it('sends by SMTP, and tries again later when the server will not take it at first', async () => {
  const server = await mailServer(2, 451)
  const { mailer, store, later } = mailerTo(server.address)
  const id = mailer.send(mail)
  await mailer.deliver()
  expect(store.byIds([id])[0]).toMatchObject({
    state: 'waiting',
    tries: 1,
    fault: expect.stringMatching(/not now/),
  })
  await mailer.deliver()
  expect(store.byIds([id])[0]?.tries).toBe(1)
  later(MINUTE)
  await mailer.deliver()
  later(HOUR)
  await mailer.deliver()
  expect(server.taken).toHaveLength(1)
  expect(server.taken[0]).toMatch(/To: ada@school\.example/)
  expect(server.taken[0]).toMatch(/Your code is 123456/)
  expect(store.byIds([id])[0]).toMatchObject({ state: 'sent', body: '', fault: null })
  server.close()
})

it('gives a mail up after six tries, and at once when the server will never take it', async () => {
  const server = await mailServer(99, 451)
  const { mailer, store, later } = mailerTo(server.address)
  const id = mailer.send(mail)
  for (let n = 0; n < 8; n++) {
    await mailer.deliver()
    later(DAY)
  }
  expect(store.byIds([id])[0]).toMatchObject({ state: 'failed', tries: 6 })
  server.close()
  const never = await mailServer(99, 550)
  const other = mailerTo(never.address)
  const second = other.mailer.send(mail)
  await other.mailer.deliver()
  expect(other.store.byIds([second])[0]).toMatchObject({ state: 'failed', tries: 1 })
  never.close()
})

it('loses no mail when the server is away, nor when the process ends in between', async () => {
  const { mailer, store, later } = mailerTo('smtp://127.0.0.1:1')
  const id = mailer.send(mail)
  await mailer.deliver()
  expect(store.byIds([id])[0]?.state).toBe('waiting')
  const server = await mailServer(0, 451)
  later(MINUTE)
  const again = createSmtpMailer(server.address, 'Haplon <haplon@school.example>', {
    store,
    clock: () => '2026-05-07T07:00:00.000Z',
    log: pino({ level: 'silent' }),
  })
  await again.deliver()
  expect(server.taken).toHaveLength(1)
  server.close()
})
