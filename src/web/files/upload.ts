import type { InferType } from 'yup'
import { beginUpload, dropUpload, sendPart, type uploadBody } from '../../contract/files.ts'
import { MIB } from '../../core/files.ts'
import { address } from '../data/base.ts'
import { call, faultIn } from '../data/call.ts'

/** What an upload is for, by codes. */
export type UploadAim = Pick<InferType<typeof uploadBody>, 'aim' | 'group' | 'task'> & { owner?: string }

/** An upload was given up by whoever began it. */
export class UploadStopped extends Error {}

/** Bytes sent in one request: a lost connection costs no more, and what is received is seen to move. */
const PIECE = 8 * MIB
/** Milliseconds before each further try after a connection was lost. */
const PAUSES = [500, 1_000, 2_000, 4_000, 8_000, 15_000, 15_000, 30_000, 30_000, 60_000]

/**
 * Brings a file to the server, from where it was left if the same file was begun before; goes on by itself after a lost
 * connection.
 * @param told is given the bytes that have arrived, and whether it waits for the connection
 * @param named is given the upload's code once the server knows of it
 * @returns what the file is called now, and whether it became a further version
 * @throws Fault when the server refuses it, or the connection stays away
 */
export async function upload(
  sheet: string,
  aim: UploadAim,
  file: File,
  told: (sent: number, waits: boolean) => void,
  stopped: AbortSignal,
  named: (code: string) => void,
): Promise<{ name: string; newVersion: boolean }> {
  const { name, size, lastModified } = file
  const begun = await call(
    beginUpload,
    { sheet },
    { owner: null, name, size, modified: lastModified, ...aim },
  )
  named(begun.code)
  // The carrier comes when the first file does.
  const { Upload } = await import('tus-js-client')
  await new Promise<void>((resolve, reject) => {
    const carrier = new Upload(file, {
      uploadUrl: new URL(address(sendPart.path, { sheet, upload: begun.code }), location.href).href,
      chunkSize: PIECE,
      retryDelays: PAUSES,
      storeFingerprintForResuming: false,
      onShouldRetry: (error) => {
        const status = error.originalResponse?.getStatus() ?? 0
        told(-1, true)
        return status === 0 || status === 409 || (status >= 500 && status !== 507)
      },
      onProgress: (sent) => told(sent, false),
      onSuccess: () => resolve(),
      onError: (error) => {
        const answer = 'originalResponse' in error ? error.originalResponse : null
        reject(faultIn(answer?.getStatus() ?? 0, answer?.getBody() ?? ''))
      },
    })
    stopped.addEventListener('abort', () => {
      void carrier.abort().finally(() => {
        call(dropUpload, { sheet, upload: begun.code }).catch(() => {})
        reject(new UploadStopped())
      })
    })
    carrier.start()
  })
  return begun
}
