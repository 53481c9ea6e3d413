import { parentPort, workerData } from 'node:worker_threads'
import type { PdfJob } from './job.ts'
import { makePdf } from './make.ts'
import type { PdfSays } from './maker.ts'

// One PDF: made, handed over, and the thread ends.
const say = (said: PdfSays) => parentPort?.postMessage(said)
makePdf(workerData as PdfJob).then(
  (made) => parentPort?.postMessage({ made } satisfies PdfSays, [made.buffer as ArrayBuffer]),
  (error) => say({ why: error instanceof Error ? `${error.message}.` : 'Something in it cannot be read.' }),
)
