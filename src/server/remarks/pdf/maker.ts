import { existsSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { Worker } from 'node:worker_threads'
import type { Logger } from 'pino'
import { ProblemError } from '../../http/problem.ts'
import type { PdfJob } from './job.ts'

/** Milliseconds that one PDF may take. */
const PATIENCE = 60_000
/** PDFs that wait at most, of everybody and of one person; whoever comes then is asked to come again. */
const MOST_WAITING = 20
const MOST_OF_ONE = 2
/** Mebibytes that the thread may use besides the files it reads. */
const MEMORY = 512

export type PdfSays = { made: Uint8Array } | { why: string }
export type PdfMaker = ReturnType<typeof createPdfMaker>

/** Makes PDFs in a thread of their own, one after the other, so that a large one holds up nothing else. */
export function createPdfMaker(log: Pick<Logger, 'warn'>, patience = PATIENCE) {
  let before: Promise<unknown> = Promise.resolve()
  const waiting: number[] = []

  const makeNow = (job: PdfJob) =>
    new Promise<Uint8Array>((resolve, reject) => {
      const worker = newWorker(job)
      const fail = (why: string) =>
        reject(new ProblemError('pdf-not-made', `${why} Download its files one by one instead.`))
      const end = setTimeout(() => {
        fail('It took too long.')
        void worker.terminate()
      }, patience)
      worker
        .once('message', (said: PdfSays) => {
          if ('made' in said) resolve(said.made)
          else fail(said.why)
        })
        .once('error', (error) => {
          log.warn({ err: error }, 'a PDF of a work could not be made')
          fail('The work is too large, or something in it cannot be read.')
        })
        .once('exit', () => {
          clearTimeout(end)
          fail('It ended before it was done.')
        })
    })
  return {
    /**
     * @param personId who asks: one person never holds up all others
     * @returns the bytes of the PDF
     * @throws ProblemError `pdf-not-made`, `too-busy`
     */
    async make(job: PdfJob, personId: number): Promise<Uint8Array> {
      if (waiting.filter((one) => one === personId).length >= MOST_OF_ONE)
        throw new ProblemError('too-busy', 'PDFs that you asked for are still being made. Wait for them.')
      if (waiting.length >= MOST_WAITING)
        throw new ProblemError('too-busy', 'Many PDFs are being made just now. Try again in a minute.')
      waiting.push(personId)
      const next = before
        .then(() => makeNow(job))
        .finally(() => {
          waiting.splice(waiting.indexOf(personId), 1)
        })
      before = next.catch(() => undefined)
      return next
    },
  }
}

/** The worker as it was built, or from its source where the server runs from there. */
function newWorker(workerData: PdfJob): Worker {
  const options = { workerData, resourceLimits: { maxOldGenerationSizeMb: MEMORY } }
  const built = fileURLToPath(new URL('./pdf.worker.js', import.meta.url))
  const worker = existsSync(built)
    ? new Worker(built, options)
    : new Worker(FROM_SOURCE, { ...options, eval: true })
  worker.unref()
  return worker
}

const FROM_SOURCE = `import('tsx/esm/api').then(({ tsImport }) =>
  tsImport('./pdf.worker.ts', ${JSON.stringify(import.meta.url)}))`
