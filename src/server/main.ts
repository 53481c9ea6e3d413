import { fileURLToPath } from 'node:url'
import { readConfig } from './config.ts'
import { start, stopOnSignal } from './start.ts'

// The server for a real course: no sample data, no door. What it writes is for whoever runs it alone.
process.umask(0o077)
try {
  const config = readConfig(process.env)
  const running = await start({ config, web: fileURLToPath(new URL('../web/', import.meta.url)) })
  stopOnSignal(running)
  running.log.info({ address: running.address, db: config.db }, 'Haplon is listening')
  if (!config.smtp) {
    running.log.warn('HAPLON_SMTP is not set: mail is kept in the outbox. Read it with: npm run outbox')
  }
  if (running.stores.courses.all().length === 0) {
    running.log.info(
      config.instructors.length > 0
        ? `There is no course yet. Open ${config.origin ?? running.address}, sign in as ${config.instructors.join(' or ')}, and add one.`
        : 'There is no course yet. Stop, set HAPLON_INSTRUCTORS to the addresses that may add courses, and start again.',
    )
  }
} catch (error) {
  console.error(`Haplon did not start.\n${error instanceof Error ? error.message : String(error)}`)
  process.exit(1)
}
