import { number, object, string } from 'yup'
import { plainRoute, route } from './route.ts'

/** A file as a page lists it. */
export interface FileView {
  /** Its code: what `keptFile` is asked for. */
  code: string
  name: string
  /** Bytes. */
  size: number
  /** The media type, as its content shows. */
  type: string
  /** Who brought it, by name. */
  by: string
  at: string
}

/** One file of a group with its versions, newest first. */
export interface GroupFileView {
  code: string
  name: string
  versions: (FileView & { version: number })[]
  /** When it was taken away; null while it is there. */
  removedAt: string | null
}

/** A file on its way. */
export interface UploadView {
  code: string
  /** Its name as it is going to be kept. */
  name: string
  size: number
  /** Bytes that have arrived. */
  offset: number
  /** True when the group has a file of that name, so that this becomes a further version of it. */
  newVersion: boolean
}

/**
 * What an upload is for: the files of a group, a hand-in (for the group, or with null for oneself), a task, or what goes
 * back with the mark of a group or student.
 */
export const uploadBody = object({
  name: string()
    .required('The file has no name.')
    .max(1_000, 'The file’s name holds 1,000 characters at most.'),
  /** Bytes. */
  size: number()
    .typeError('The size of the file is a number of bytes.')
    .integer()
    .required()
    .min(1, 'The file is empty (0 bytes). Choose one with something in it.'),
  /** When the file was changed last, in milliseconds since 1970, so that a lost upload goes on only with the same file. */
  modified: number().integer().required(),
  aim: string()
    .oneOf(['group', 'work', 'task', 'feedback'] as const)
    .required(),
  group: string().nullable().default(null),
  task: string().nullable().default(null),
  /** Whose mark it goes back with: a group’s code, or a student’s. */
  owner: string().nullable().default(null),
})

/** Begins an upload, or finds the same caller’s unfinished one of the same file. */
export const beginUpload = route<UploadView>()('POST', '/api/sheets/:sheet/uploads', 'member', uploadBody)
/**
 * How much of a file has arrived: `Upload-Offset` and `Upload-Length` (tus 1.0.0, core protocol). Also answers HEAD.
 * @see https://tus.io/protocols/resumable-upload
 */
export const uploadState = plainRoute<UploadView>()('GET', '/api/sheets/:sheet/uploads/:upload', 'member')
/**
 * Takes the bytes from `Upload-Offset` on, as `application/offset+octet-stream` (tus 1.0.0). With the last byte the file
 * is kept. Bytes that arrived before a connection was lost stay.
 */
export const sendPart = plainRoute<never>()('PATCH', '/api/sheets/:sheet/uploads/:upload', 'member')
/** Gives an upload up. */
export const dropUpload = plainRoute<null>()('DELETE', '/api/sheets/:sheet/uploads/:upload', 'member')
/** A file to be saved: of the own group, the own hand-in, or a task that is there. Always a download, never a page. */
export const keptFile = plainRoute<never>()('GET', '/api/sheets/:sheet/files/:file', 'member')
