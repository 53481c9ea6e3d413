import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { type Logger, pino } from 'pino'
import { HOUR } from '../core/instant.ts'
import type { Sessions } from './access/sessions.ts'
import { sendDueAnnouncements } from './announcements/due.ts'
import { createApp } from './app.ts'
import { createArrivals } from './arrivals.ts'
import { createCalm } from './calm.ts'
import { type Clock, systemClock } from './clock.ts'
import type { Config } from './config.ts'
import { holdDb } from './db/hold.ts'
import { type Db, openDb } from './db/open.ts'
import { createDisk, type Disk } from './files/disk.ts'
import { forgetRemoved } from './files/groupFiles.ts'
import { sweep } from './files/uploads.ts'
import type { Serve } from './http/serve.ts'
import { createOutboxMailer, createSmtpMailer } from './mail/mailer.ts'
import { sendDueNudges } from './nudges/send.ts'
import { createClosing } from './plans/closing.ts'
import { tellOfLate } from './plans/late.ts'
import { createPlanner } from './plans/planner.ts'
import { createRehearsals } from './rehearsals/rehearsals.ts'
import type { Claims } from './seats/claims.ts'
import { createStores, type Stores } from './stores.ts'
import { createSwapDuty } from './swaps/due.ts'
import { sweepRows } from './sweep.ts'
import { sendDueDigests } from './talk/digests.ts'
import { sendDueNotices } from './talk/notices.ts'

export interface StartOptions {
  config: Config
  /** Folder of the built pages, or null for the API alone. */
  web: string | null
  clock?: Clock
  /** Fills the database before anybody is let in. */
  fill?: (parts: { db: Db; stores: Stores; claims: Claims; disk: Disk }) => Promise<void>
  /** Milliseconds between two looks at what is due by the clock; a test during which nothing may be done makes it long. */
  dueEvery?: number
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

/**
 * Opens the database, puts the server together and listens.
 * @throws Error in a sentence when a setting is wrong, another server works on the database, or the port is taken
 */
export async function start(options: StartOptions): Promise<Running> {
  const letGo = holdDb(options.config.db)
  let db: Db | undefined
  try {
    db = openDb(options.config.db)
    const running = await startOn(db, options)
    const stop = async () => {
      await running.stop()
      letGo()
    }
    return { ...running, stop }
  } catch (error) {
    db?.close()
    letGo()
    throw error
  }
}

async function startOn(
  db: Db,
  { config, web, clock = systemClock, fill, demo, dueEvery = DUE_EVERY }: StartOptions,
): Promise<Running> {
  const log = pino({ level: config.logLevel })
  const calm = createCalm(log)
  const stores = createStores(db)
  const disk = createDisk(config.files)
  const mailer = config.smtp
    ? createSmtpMailer(config.smtp, config.mailFrom, {
        store: stores.mail,
        clock,
        log,
        plainLogin: config.smtpTls === 'optional',
      })
    : createOutboxMailer(stores.mail, clock)
  const arrivals = createArrivals()
  const rehearsals = createRehearsals(config, stores)
  const app = createApp({
    db,
    stores,
    config,
    clock,
    log,
    mailer,
    disk,
    web,
    arrivals,
    rehearsals,
    ...(demo && { demo: (serve: Serve, sessions: Sessions) => demo(serve, sessions, stores) }),
  })
  await fill?.({ db, stores, claims: app.claims, disk })
  const tidy = () => db.transaction(() => sweepRows(stores, clock())).immediate()
  // What a crash left on the disk goes before anybody is let in; what is dropped later goes within the hour.
  const tidyFiles = async () => {
    forgetRemoved(stores, clock())
    const swept = await sweep(disk, stores.files, clock())
    if (swept.parts + swept.kept > 0) log.info(swept, 'files that nobody knows of were removed')
  }
  tidy()
  await tidyFiles()
  const tidying = setInterval(() => {
    try {
      tidy()
    } catch (error) {
      calm(error, 'what is kept for a while only could not be swept')
    }
    tidyFiles().catch((error: unknown) => calm(error, 'files could not be tidied'))
  }, HOUR)
  tidying.unref()
  const planner = createPlanner()
  const closing = createClosing({ log, stores, unit: app.unit, mailer, planner })
  const swapsDue = createSwapDuty(app.unit, stores)
  // What is due by the clock is found by query, every few seconds and at start, so that a restart misses nothing.
  const duties = [
    () => sendDueAnnouncements(app.unit, stores, mailer, clock()),
    () => app.visits.flush(),
    () => sendDueNotices(app.unit, stores, mailer, clock()),
    () => sendDueDigests(app.unit, stores, mailer, clock()),
    () => sendDueNudges(app.unit, stores, mailer, clock()),
    () => void closing.carryOut(clock()),
    () => swapsDue(clock()),
    () => tellOfLate(app.unit, stores, mailer, clock()),
    () => void mailer.deliver().catch((error: unknown) => calm(error, 'mail could not be noted')),
  ]
  const due = () => {
    for (const duty of duties) {
      try {
        duty()
      } catch (error) {
        calm(error, 'what was due could not be done; it is tried again')
      }
    }
  }
  due()
  const server = createServer(arrivals.inTurns(app.express))
  server.on('connection', arrivals.arrived)
  await listen(server, config)
  // A connection that the system refuses, as where there are no descriptors left, is no reason to stop.
  server.on('error', (error) => calm(error, 'a connection was refused'))
  const dueTimer = setInterval(due, dueEvery)
  const stop = async () => {
    clearInterval(tidying)
    clearInterval(dueTimer)
    app.hub.close()
    const closed = new Promise<void>((resolve) => server.close(() => resolve()))
    server.closeIdleConnections()
    const patience = setTimeout(() => server.closeAllConnections(), 5_000)
    await closed
    clearTimeout(patience)
    await rehearsals.stop()
    await closing.stop()
    await app.reasoner.close()
    app.visits.flush()
    await mailer.stop()
    db.close()
  }
  return { address: addressOf(server, config), db, stores, claims: app.claims, disk, log, stop }
}

/** Milliseconds after which a process that is to end does so, whatever is still under way. */
const ENDING = 20_000

/**
 * Stops the server once: when the process is asked to end, or when something went wrong that nobody caught, after which
 * nothing can be relied on. What is under way ends in order, and a supervisor starts the server anew.
 */
export function stopOnSignal({ stop, log }: Running): void {
  let stopping = false
  const end = (code: number) => {
    if (stopping) return
    stopping = true
    setTimeout(() => {
      log.error('stopping took too long; it is broken off')
      process.exit(1)
    }, ENDING).unref()
    stop().then(
      () => process.exit(code),
      (error: unknown) => {
        log.error({ err: error }, 'stopped with an error')
        process.exit(1)
      },
    )
  }
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) {
    process.on(signal, () => {
      log.info({ signal }, 'stopping')
      end(0)
    })
  }
  for (const fault of ['uncaughtException', 'unhandledRejection'] as const) {
    process.on(fault, (error: unknown) => {
      log.fatal({ err: error }, 'an error that nobody caught; stopping in order')
      end(1)
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
