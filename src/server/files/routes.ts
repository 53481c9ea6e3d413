import type { Response } from 'express'
import * as contract from '../../contract/files.ts'
import { keptName } from '../../core/files.ts'
import { attachment } from '../http/files.ts'
import { notFound, ProblemError } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import type { Disk } from './disk.ts'
import type { FileStore, KeptFile } from './store.ts'
import type { Aim, Uploading, Uploads } from './uploads.ts'

/** Whether somebody reads a file; undefined from a room that does not know it. */
export type MayRead = (file: KeptFile, by: Uploading) => boolean | undefined

/** The version of the upload protocol that is spoken (https://tus.io/protocols/resumable-upload). */
const TUS = '1.0.0'

export interface FileParts {
  disk: Disk
  files: FileStore
  uploads: Uploads
  /** The aim that a request names, by codes; a problem where it is not there for the caller. */
  aimOf: (
    asked: { aim: Aim['kind']; group: string | null; task: string | null; owner: string | null },
    by: Uploading,
  ) => Aim
  mayRead: readonly MayRead[]
}

/** Files: brought in pieces, given out as downloads. */
export function bindFiles(serve: Serve, { disk, files, uploads, aimOf, mayRead }: FileParts): void {
  serve(contract.beginUpload, ({ body, ...by }) => {
    if (by.sheet.archived_at !== null)
      throw new ProblemError('sheet-archived', 'The sheet is archived: its files stay as they are.')
    const name = keptName(body.name)
    if (name === null) {
      throw new ProblemError(
        'file-name-unusable',
        'Of the file’s name nothing can be kept: it needs a letter or a digit. Rename the file and choose it again.',
      )
    }
    return uploads.begin(aimOf(body, by), { name, size: body.size, modified: body.modified }, by)
  })
  serve(contract.uploadState, async ({ res, params, ...by }) => {
    const state = await uploads.state(params.upload, by)
    res.setHeader('Tus-Resumable', TUS)
    res.setHeader('Upload-Offset', state.offset)
    res.setHeader('Upload-Length', state.size)
    return state
  })
  serve(contract.sendPart, async ({ req, res, params, ...by }) => {
    if (req.get('content-type') !== 'application/offset+octet-stream')
      throw new ProblemError('body-malformed', 'The bytes of a file come as application/offset+octet-stream.')
    const arrived = await uploads.receive(params.upload, Number(req.get('upload-offset')), req, by)
    res.setHeader('Tus-Resumable', TUS)
    res.setHeader('Upload-Offset', arrived)
    res.status(204).end()
    return undefined
  })
  serve(contract.dropUpload, async ({ params, ...by }) => {
    await uploads.drop(params.upload, by)
    return null
  })
  serve(contract.keptFile, async ({ res, params, ...by }) => {
    const file = files.byCode(by.sheet.id, params.file)
    if (!file || !mayRead.some((reads) => reads(file, by) === true)) throw notFound()
    await sendKept(res, file, disk)
    return undefined
  })
}

/** Sends a file to be saved; never as something that a browser would open by itself. */
function sendKept(res: Response, { name, stored, type }: KeptFile, disk: Disk): Promise<void> {
  res.setHeader('Content-Type', type === 'text/plain' ? 'text/plain; charset=utf-8' : type)
  res.setHeader('Content-Disposition', attachment(name))
  res.setHeader('Content-Security-Policy', "default-src 'none'; frame-ancestors 'none'; sandbox")
  return new Promise((resolve, reject) => {
    res.sendFile(disk.pathOf(stored), { cacheControl: false, lastModified: false, etag: false }, (error) => {
      // Whoever closed the page needs no answer.
      if (!error || (error as NodeJS.ErrnoException).code === 'ECONNABORTED' || res.headersSent) resolve()
      else reject(error)
    })
  })
}
