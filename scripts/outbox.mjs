// Prints the newest mails of the outbox, for whoever runs Haplon without a mail server.
import Database from 'better-sqlite3'
import { say } from './lib/setup.mjs'

const file = process.env.HAPLON_DB
if (!file) {
  say('HAPLON_DB names no database file. Example: HAPLON_DB=/var/lib/haplon/haplon.db npm run outbox')
  process.exit(1)
}
const db = new Database(file, { readonly: true, fileMustExist: true })
const mails = db
  .prepare('SELECT recipient, subject, body, created_at FROM mail ORDER BY id DESC LIMIT 20')
  .all()
if (mails.length === 0) say('The outbox is empty.')
for (const { recipient, subject, body, created_at } of mails.reverse()) {
  say(`${created_at}  to ${recipient}\n${subject}\n\n${body}\n${'-'.repeat(72)}`)
}
