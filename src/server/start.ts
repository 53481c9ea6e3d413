import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { type Logger, pino } from 'pino'
import { DAY, HOUR, shift } from '../core/instant.ts'
import { IDLE_DAYS, type Sessions } from './access/sessions.ts'
import { sendDueAnnouncements } from './announcements/due.ts'
import { createApp } from './app.ts'
import { type Clock, systemClock } from './clock.ts'
import type { Config } from './config.ts'
import { type Db, openDb } from './db/open.ts'
import { createDisk, type Disk } from './files/disk.ts'
import { forgetRemoved } from './files/groupFiles.ts'
import { sweep } from './files/uploads.ts'
import type { Serve } from './http/serve.ts'
import { createOutboxMailer, createSmtpMailer } from './mail/mailer.ts'
import { sendDueNudges } from './nudges/send.ts'
import { createClosing } from './plans/closing.ts'
import { createPlanner } from './plans/planner.ts'
import type { Claims } from './seats/claims.ts'
import { createStores, type Stores } from './stores.ts'

export interface StartOptions {
  config: Config
  /** Folder of the built pages, or null for the API alone. */
  web: string | null
  clock?: Clock
  /** Fills the database before anybody is let in. */
  fill?: (parts: { db: Db; stores: Stores; claims: Claims; disk: Disk }) => Promise<void>
  /** Routes that only the demo has. */
  demo?: (serve: Serve, sessions: Sessions, stores: Stores) => void
}

export interface Running {
  /** Where it listens: `http://127.0.0.1:4800`. */
  address: string
  db: Db
  stores: Stores
  claims: Claims
  disk: Disk
  log: Logger
  /** Stops taking requests, ends the streams, waits for what is under way, closes the database. */
  stop: () => Promise<void>
}

/** Milliseconds between two looks at what is due. */
const DUE_EVERY = 2_000

/** Opens the database, puts the server together and listens. */
export async function start({
  config,
  web,
  clock = systemClock,
  fill,
  demo,
}: StartOptions): Promise<Running> {
  const log = pino({ level: config.logLevel })
  const db = openDb(config.db)
  const stores = createStores(db)
  const disk = createDisk(config.files)
  const mailer = config.smtp
    ? createSmtpMailer(config.smtp, config.mailFrom, { store: stores.mail, clock, log })
    : createOutboxMailer(stores.mail, clock)
  const app = createApp({
    db,
    stores,
    config,
    clock,
    log,
    mailer,
    disk,
    web,
    ...(demo && { demo: (serve: Serve, sessions: Sessions) => demo(serve, sessions, stores) }),
  })
  await fill?.({ db, stores, claims: app.claims, disk })
  const tidy = () => {
    stores.access.dropCodesExpiredBefore(shift(clock(), -DAY))
    stores.access.dropSessionsIdleSince(shift(clock(), -IDLE_DAYS * DAY))
  }
  // What a crash left on the disk goes before anybody is let in; what is dropped later goes within the hour.
  const tidyFiles = async () => {
    forgetRemoved(stores, clock())
    const swept = await sweep(disk, stores.files, clock())
    if (swept.parts + swept.kept > 0) log.info(swept, 'files that nobody knows of were removed')
  }
  tidy()
  await tidyFiles()
  const tidying = setInterval(() => {
    tidy()
    tidyFiles().catch((error: unknown) => log.error({ err: error }, 'files could not be tidied'))
  }, HOUR)
  tidying.unref()
  const planner = createPlanner()
  const closing = createClosing({ db, log, stores, mailer, planner, touched: app.hub.touched })
  // What is due by the clock is found by query, every few seconds and at start, so that a restart misses nothing.
  const duties = [
    () => sendDueAnnouncements(db, stores, mailer, clock()),
    () => app.visits.flush(),
    () => sendDueNudges(db, stores, mailer, clock()),
    () => void closing.carryOut(clock()),
    () => void mailer.deliver(),
  ]
  const due = () => {
    for (const duty of duties) {
      try {
        duty()
      } catch (error) {
        log.error({ err: error }, 'what was due could not be done; it is tried again')
      }
    }
  }
  due()
  const dueTimer = setInterval(due, DUE_EVERY)
  const server = createServer(app.express)
  await listen(server, config)
  const stop = async () => {
    clearInterval(tidying)
    clearInterval(dueTimer)
    app.hub.close()
    const closed = new Promise<void>((resolve) => server.close(() => resolve()))
    server.closeIdleConnections()
    const patience = setTimeout(() => server.closeAllConnections(), 5_000)
    await closed
    clearTimeout(patience)
    await closing.stop()
    app.visits.flush()
    await mailer.deliver()
    db.close()
  }
  return { address: addressOf(server, config), db, stores, claims: app.claims, disk, log, stop }
}

/** Stops the server once when the process is asked to end. */
export function stopOnSignal({ stop, log }: Running): void {
  let stopping = false
  for (const signal of ['SIGINT', 'SIGTERM'] as const) {
    process.on(signal, () => {
      if (stopping) return
      stopping = true
      log.info({ signal }, 'stopping')
      stop().then(
        () => process.exit(0),
        (error: unknown) => {
          log.error({ err: error }, 'stopped with an error')
          process.exit(1)
        },
      )
    })
  }
}

function listen(server: Server, { host, port }: Config): Promise<void> {
  return new Promise((resolve, reject) => {
    server.once('error', (error: NodeJS.ErrnoException) => {
      const reason =
        error.code === 'EADDRINUSE'
          ? `PORT ${port} is in use on ${host}. Choose another with PORT=…`
          : `HOST ${host} with PORT ${port} cannot be listened on: ${error.message}`
      reject(new Error(reason))
    })
    server.listen(port, host, () => resolve())
  })
}

function addressOf(server: Server, { host }: Config): string {
  const { port } = server.address() as AddressInfo
  return `http://${host.includes(':') ? `[${host}]` : host}:${port}`
}
