import type { AddressInfo } from 'node:net'
import { createServer, type Socket } from 'node:net'
import { pino } from 'pino'
import { expect, it } from 'vitest'
import { createSmtpMailer } from './mailer.ts'

/** A mail server in a few lines (RFC 5321, the least of it), which turns the first `refusals` mails away. */
async function mailServer(refusals: number) {
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
        else if (/^MAIL/.test(line)) socket.write(left-- > 0 ? '451 not now\r\n' : '250 ok\r\n')
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

it('sends by SMTP, and tries again when the server will not take it at first', async () => {
  const server = await mailServer(2)
  const mailer = createSmtpMailer(
    server.address,
    'Haplon <haplon@school.example>',
    pino({ level: 'silent' }),
    1,
  )
  mailer.send(mail)
  await mailer.settle()
  expect(server.taken).toHaveLength(1)
  expect(server.taken[0]).toMatch(/To: ada@school\.example/)
  expect(server.taken[0]).toMatch(/Your code is 123456/)
  server.close()
})

it('gives a mail up after three tries without failing anybody', async () => {
  const server = await mailServer(99)
  const mailer = createSmtpMailer(
    server.address,
    'Haplon <haplon@school.example>',
    pino({ level: 'silent' }),
    1,
  )
  mailer.send(mail)
  await mailer.settle()
  expect(server.taken).toEqual([])
  server.close()
})
