import type { Instant } from '../../core/instant.ts'
import { newCode } from '../codes.ts'
import type { Db } from '../db/open.ts'

/** A file that is whole, on the disk under `stored`. */
export interface KeptFile {
  id: number
  code: string
  stored: string
  sheet_id: number
  name: string
  /** Bytes. */
  size: number
  type: string
  by_id: number
  kept_at: Instant
  /** SHA-256 of its content, as hex; null where that is not known. */
  digest: string | null
}

/** A file on its way. */
export interface Upload {
  id: number
  code: string
  sheet_id: number
  by_id: number
  name: string
  /** Bytes that it is going to have. */
  size: number
  modified: number
  /** JSON: what it is for. */
  aim: string
  begun_at: Instant
}

export type FileFields = Pick<KeptFile, 'stored' | 'sheet_id' | 'name' | 'size' | 'type' | 'by_id' | 'digest'>
export type FileStore = ReturnType<typeof createFileStore>

const FILE = 'SELECT id, code, stored, sheet_id, name, size, type, by_id, kept_at, digest FROM kept_file'
const UPLOAD = 'SELECT id, code, sheet_id, by_id, name, size, modified, aim, begun_at FROM upload'

/** What is known of the files on the disk, and of those on their way. */
export function createFileStore(db: Db) {
  const add = db.prepare(
    `INSERT INTO kept_file (code, stored, sheet_id, name, size, type, by_id, kept_at, digest)
     VALUES (@code, @stored, @sheet_id, @name, @size, @type, @by_id, @now, @digest)`,
  )
  const byCode = db.prepare<[number, string], KeptFile>(`${FILE} WHERE sheet_id = ? AND code = ?`)
  const byIds = db.prepare<[string], KeptFile>(
    `${FILE} WHERE id IN (SELECT value FROM json_each(?)) ORDER BY id`,
  )
  const drop = db.prepare<[number]>('DELETE FROM kept_file WHERE id = ?')
  const storedNames = db.prepare<[], string>('SELECT stored FROM kept_file').pluck()
  const addUpload = db.prepare(
    `INSERT INTO upload (code, sheet_id, by_id, name, size, modified, aim, begun_at)
     VALUES (@code, @sheet_id, @by_id, @name, @size, @modified, @aim, @now)`,
  )
  const upload = db.prepare<[number, number, string], Upload>(
    `${UPLOAD} WHERE sheet_id = ? AND by_id = ? AND code = ?`,
  )
  const same = db.prepare<[number, number, string, number, number, string], Upload>(
    `${UPLOAD} WHERE sheet_id = ? AND by_id = ? AND name = ? AND size = ? AND modified = ? AND aim = ?`,
  )
  const withAim = db.prepare<[number, string], Upload>(`${UPLOAD} WHERE sheet_id = ? AND aim = ?`)
  const dropUpload = db.prepare<[number]>('DELETE FROM upload WHERE id = ?')
  const dropUploadsBefore = db.prepare<[Instant]>('DELETE FROM upload WHERE begun_at < ?')
  const uploadCodes = db.prepare<[], string>('SELECT code FROM upload').pluck()
  return {
    add(fields: FileFields, now: Instant): KeptFile {
      const code = newCode()
      add.run({ ...fields, code, now })
      return byCode.get(fields.sheet_id, code) as KeptFile
    },
    byCode: (sheetId: number, code: string) => byCode.get(sheetId, code),
    byIds: (ids: readonly number[]): KeptFile[] => (ids.length === 0 ? [] : byIds.all(JSON.stringify(ids))),
    /** Forgets a file that nothing points to any more. It leaves the disk with the next sweep. */
    drop: (id: number) => drop.run(id),
    /** The names on the disk of all files that are known. */
    storedNames: () => new Set(storedNames.all()),
    addUpload(fields: Omit<Upload, 'id' | 'code' | 'begun_at'>, now: Instant): Upload {
      const code = newCode()
      addUpload.run({ ...fields, code, now })
      return upload.get(fields.sheet_id, fields.by_id, code) as Upload
    },
    /** Somebody's own upload. */
    upload: (sheetId: number, byId: number, code: string) => upload.get(sheetId, byId, code),
    /** An unfinished upload of the same file by the same person, for the same aim. */
    sameUpload: ({ sheet_id, by_id, name, size, modified, aim }: Omit<Upload, 'id' | 'code' | 'begun_at'>) =>
      same.get(sheet_id, by_id, name, size, modified, aim),
    /** Everything on its way for one aim. */
    uploadsFor: (sheetId: number, aim: string) => withAim.all(sheetId, aim),
    dropUpload: (id: number) => dropUpload.run(id),
    dropUploadsBefore: (instant: Instant) => dropUploadsBefore.run(instant),
    uploadCodes: () => new Set(uploadCodes.all()),
  }
}
