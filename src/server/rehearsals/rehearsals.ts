import { existsSync, mkdtempSync, rmSync, statSync } from 'node:fs'
import { request } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { Worker } from 'node:worker_threads'
import type { Request, RequestHandler, Response } from 'express'
import { MINUTE } from '../../core/instant.ts'
import type { Sessions } from '../access/sessions.ts'
import { newCode } from '../codes.ts'
import type { Config } from '../config.ts'
import { ProblemError } from '../http/problem.ts'
import type { Stores } from '../stores.ts'
import type { Beginning, RehearsalSays } from './beginning.ts'
import { rightsOf } from './rights.ts'

/** Rehearsals at once; with one more, the one that was looked at longest ago ends. */
const MOST = 6
/** Milliseconds without a request after which a rehearsal ends. */
const IDLE = 15 * MINUTE
/** Bytes of a database that is still copied into memory. */
const MOST_BYTES = 512 * 1024 * 1024
/** Milliseconds in which one has to begin. */
const PATIENCE = 40_000

/** Who plays: a person in one session of theirs, and what they may see while they do. */
export interface Player {
  personId: number
  /** The session in which it was begun, by its hash. */
  session: string | null
  sheetId: number
  /** As `rightsOf` says it. */
  rights: string | null
}

interface Playing extends Player {
  code: string
  worker: Worker
  folder: string
  socket: string
  usedAt: number
}

export type Rehearsals = ReturnType<typeof createRehearsals>

/** Rehearsals under way: each a thread of its own with a copy of everything, reached by the person who began it alone. */
export function createRehearsals(config: Config, stores: Stores) {
  const playing = new Map<string, Playing>()
  /** Whether whoever began it still may see what it shows. */
  const holds = ({ personId, sheetId, rights }: Player) => rights === rightsOf(personId, sheetId, stores)
  const idle = setInterval(() => {
    for (const one of playing.values())
      if (Date.now() - one.usedAt > IDLE || !holds(one)) end(one).catch(() => {})
  }, MINUTE)
  idle.unref()

  async function end(one: Playing): Promise<void> {
    playing.delete(one.code)
    await one.worker.terminate()
    rmSync(one.folder, { recursive: true, force: true })
  }
  const ownOne = (personId: number) => [...playing.values()].find((one) => one.personId === personId)
  /** Ends what somebody has, until nothing of theirs is left: another may be begun while one ends. */
  const endOf = async (personId: number) => {
    for (let own = ownOne(personId); own; own = ownOne(personId)) await end(own)
  }
  return {
    /**
     * Begins a rehearsal for somebody, and ends the one they had.
     * @throws ProblemError `rehearsal-failed` where the copy could not be made
     */
    async begin(
      who: Pick<Player, 'personId' | 'session'>,
      what: Omit<Beginning, 'config' | 'folder' | 'socket'>,
    ): Promise<{ code: string; as: string }> {
      const { personId } = who
      const rights = rightsOf(personId, what.sheetId, stores)
      if (statSync(config.db).size > MOST_BYTES)
        throw new ProblemError(
          'rehearsal-failed',
          'The database is too large to be copied for it. Look at the sheet with a student’s account of your own.',
        )
      // Looked at here and not in a function of its own: between the last look and the beginning nothing else may run,
      // or two that were asked for at once would both stand.
      for (let own = ownOne(personId); own; own = ownOne(personId)) await end(own)
      const oldest = [...playing.values()].sort((a, b) => a.usedAt - b.usedAt)[0]
      if (oldest && playing.size >= MOST) end(oldest).catch(() => {})
      const folder = mkdtempSync(join(tmpdir(), 'haplon-rehearsal-'))
      const socket = join(folder, 's')
      const worker = newWorker({ ...what, config, folder, socket })
      const { sheetId } = what
      const one = { ...who, sheetId, rights, code: newCode(), worker, folder, socket, usedAt: Date.now() }
      playing.set(one.code, one)
      try {
        return { code: one.code, as: await readyOf(worker) }
      } catch (error) {
        await end(one)
        const why = error instanceof Error ? error.message : String(error)
        throw new ProblemError('rehearsal-failed', `The copy for it could not be made: ${why}`)
      }
    },
    endOf,
    /** Ends what was begun in a session that is over. */
    endSession(session: string): void {
      for (const one of playing.values()) if (one.session === session) end(one).catch(() => {})
    },
    /**
     * Hands a request of a rehearsal's pages to it; what it would keep in the browser is left out. Whoever asks is who
     * began it, in the same session, and may still see what it shows.
     */
    pass({ current, of }: Pick<Sessions, 'current' | 'of'>): RequestHandler {
      return (req, res) => {
        const one = playing.get(String(req.params.code))
        const session = current(req)
        if (!one || session?.person_id !== one.personId || of(req) !== one.session)
          throw new ProblemError('rehearsal-over', 'Begin it again to go on.')
        if (!holds(one)) {
          end(one).catch(() => {})
          throw new ProblemError(
            'rehearsal-over',
            'What you may see of the course has changed. Begin it again to go on.',
          )
        }
        one.usedAt = Date.now()
        hand(one, req, res)
      }
    },
    async stop(): Promise<void> {
      clearInterval(idle)
      await Promise.all([...playing.values()].map(end))
    },
  }
}

function hand({ socket }: Playing, req: Request, res: Response): void {
  const { cookie: _, authorization: ___, ...headers } = req.headers
  const onward = request({ socketPath: socket, path: req.url, method: req.method, headers }, (answer) => {
    const { 'set-cookie': __, ...kept } = answer.headers
    res.writeHead(answer.statusCode ?? 502, kept)
    answer.pipe(res)
  })
  onward.on('error', () => res.destroy())
  res.on('close', () => onward.destroy())
  req.pipe(onward)
}

function readyOf(worker: Worker): Promise<string> {
  return new Promise((resolve, reject) => {
    const patience = setTimeout(() => reject(new Error('it took too long')), PATIENCE)
    worker
      .once('message', (said: RehearsalSays) => {
        clearTimeout(patience)
        if (said.ready) resolve(said.as)
        else reject(new Error(said.why))
      })
      .once('error', reject)
      // Ended before it began: another was wanted meanwhile.
      .once('exit', () => {
        clearTimeout(patience)
        reject(new Error('it was ended before it began'))
      })
  })
}

function newWorker(workerData: Beginning): Worker {
  const built = fileURLToPath(new URL('./rehearsal.worker.js', import.meta.url))
  const worker = existsSync(built)
    ? new Worker(built, { workerData })
    : new Worker(FROM_SOURCE, { eval: true, workerData })
  worker.unref()
  // What breaks in a rehearsal is its own affair.
  worker.on('error', () => {})
  return worker
}

const FROM_SOURCE = `import('tsx/esm/api').then(({ tsImport }) =>
  tsImport('./rehearsal.worker.ts', ${JSON.stringify(import.meta.url)}))`
