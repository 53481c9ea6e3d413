import type { Readable } from 'node:stream'
import type { UploadView } from '../../contract/files.ts'
import { sayBytes } from '../../core/files.ts'
import { DAY, HOUR, type Instant, shift } from '../../core/instant.ts'
import { notFound, ProblemError } from '../http/problem.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Telling, UnitOfWork } from '../unitOfWork.ts'
import type { Disk } from './disk.ts'
import type { FileStore, KeptFile, Upload } from './store.ts'

/** Days after which an upload that was not finished is given up. */
export const UPLOAD_DAYS = 7

/** Who uploads, where and when. */
export interface Uploading {
  sheet: Sheet
  enrolment: Enrolment
  now: Instant
}

/** What an upload is for, by ids. */
export type Aim =
  | { kind: 'group'; group: number }
  | { kind: 'work'; task: number; group: number | null; student: number | null }
  | { kind: 'task'; task: number }
  | { kind: 'feedback'; task: number; group: number | null; student: number | null }

/** What one kind of aim makes of uploads. A refusal is thrown as a problem. */
export interface AimRules<Of extends Aim = Aim> {
  /** Whether the caller may bring a file there now, and how much room is left (bytes) without what is on its way. */
  room(aim: Of, by: Uploading): { fileBytes: number; left: number; files: number }
  /** True when a file of that name becomes a further version of one that is there. */
  isVersion?(aim: Of, name: string): boolean
  /** Takes the whole file over, inside the transaction that makes it known. */
  take(aim: Of, file: KeptFile, by: Uploading, telling: Telling): void
}

export type Uploads = ReturnType<typeof createUploads>

/**
 * Uploads that go on after a lost connection. How much has arrived is the size of the part on the disk, so that no crash
 * can make the two disagree. A file becomes known in one transaction, after its bytes are flushed and under its last name:
 * before that the sweep takes it for nobody's, after it everything is there.
 */
export function createUploads({
  unit,
  disk,
  files,
  rules,
}: {
  unit: UnitOfWork
  disk: Disk
  files: FileStore
  rules: { [Kind in Aim['kind']]: AimRules<Extract<Aim, { kind: Kind }>> }
}) {
  /** Parts that are being written, and how to end that. */
  const writing = new Map<string, () => Promise<void>>()
  const rulesFor = (aim: Aim): AimRules => rules[aim.kind] as unknown as AimRules
  const aimOf = (upload: Upload) => JSON.parse(upload.aim) as Aim
  const view = (upload: Upload): UploadView => ({
    code: upload.code,
    name: upload.name,
    size: upload.size,
    offset: disk.arrived(upload.code),
    newVersion: rulesFor(aimOf(upload)).isVersion?.(aimOf(upload), upload.name) ?? false,
  })
  const checkRoom = (aim: Aim, name: string, size: number, by: Uploading, besides: number | null) => {
    const { fileBytes, left, files: most } = rulesFor(aim).room(aim, by)
    if (size > fileBytes) {
      throw new ProblemError(
        'file-too-large',
        `“${name}” has ${sayBytes(size)}; a file may have ${sayBytes(fileBytes)} at most. Make it smaller, or give a link to it.`,
      )
    }
    // One that was begun long ago may never end, so it counts with what has arrived of it alone.
    const begun = shift(by.now, -HOUR)
    const others = files.uploadsFor(by.sheet.id, JSON.stringify(aim)).filter(({ id }) => id !== besides)
    const fresh = others.filter(({ begun_at }) => begun_at > begun)
    if (most - fresh.length < 1) {
      throw new ProblemError(
        'too-many-files',
        `“${name}” would be one file too many. Take another away first.`,
      )
    }
    const free =
      left - others.reduce((sum, one) => sum + (fresh.includes(one) ? one.size : disk.arrived(one.code)), 0)
    if (size > free) {
      throw new ProblemError(
        'no-room-left',
        `“${name}” has ${sayBytes(size)}, and ${sayBytes(Math.max(0, free))} are left. Take files away that are not needed, or ask your instructor for more room.`,
      )
    }
  }
  const find = (code: string, { sheet, enrolment }: Uploading): Upload => {
    const upload = files.upload(sheet.id, enrolment.id, code)
    if (!upload) throw notFound('There is no such upload any more. Choose the file again.')
    return upload
  }
  const stopWriting = async (code: string) => {
    await writing.get(code)?.()
  }

  /** Makes a part that is whole a file. */
  const finish = async (upload: Upload, by: Uploading): Promise<void> => {
    await disk.flush(upload.code)
    const type = await disk.typeOf(upload.code)
    if (type.startsWith('image/')) await disk.forgetPlace(upload.code)
    const digest = await disk.digestOf(upload.code)
    // Between here and the commit nothing else runs in this process.
    if (!files.upload(upload.sheet_id, upload.by_id, upload.code)) return
    const aim = aimOf(upload)
    const stored = disk.keep(upload.code)
    try {
      unit.onSheet(by.sheet, by.now, (_, telling) => {
        checkRoom(aim, upload.name, upload.size, by, upload.id)
        const { sheet_id, name, size, by_id } = upload
        const kept = files.add({ sheet_id, name, size, by_id, type, stored, digest }, by.now)
        rulesFor(aim).take(aim, kept, by, telling)
        files.dropUpload(upload.id)
      })
    } catch (error) {
      // A refusal is for good; what cannot be written now is tried again with the same bytes.
      if (error instanceof ProblemError) {
        disk.drop(stored)
        files.dropUpload(upload.id)
      } else disk.unkeep(stored, upload.code)
      throw error
    }
  }

  return {
    /** Begins an upload, or finds the unfinished one of the same file. */
    begin(aim: Aim, wanted: Pick<Upload, 'name' | 'size' | 'modified'>, by: Uploading): UploadView {
      const fields = { ...wanted, sheet_id: by.sheet.id, by_id: by.enrolment.id, aim: JSON.stringify(aim) }
      const known = files.sameUpload(fields)
      checkRoom(aim, wanted.name, wanted.size, by, known?.id ?? null)
      return view(known ?? files.addUpload(fields, by.now))
    },
    /** How an upload stands. One that is whole but was not taken yet (the server went down in between) is taken now. */
    async state(code: string, by: Uploading): Promise<UploadView> {
      const upload = find(code, by)
      await stopWriting(code)
      const shown = view(upload)
      if (shown.offset === upload.size) await finish(upload, by)
      return shown
    },
    /**
     * Takes bytes from an offset on. Gives how much has arrived.
     * @throws ProblemError `upload-elsewhere` when the offset is not where the part ends, `upload-past-end`, `disk-full`
     */
    async receive(code: string, offset: number, from: Readable, by: Uploading): Promise<number> {
      const upload = find(code, by)
      await stopWriting(code)
      const arrived = disk.arrived(code)
      if (offset !== arrived) {
        throw new ProblemError(
          'upload-elsewhere',
          `${sayBytes(arrived)} of “${upload.name}” have arrived. Go on from there.`,
        )
      }
      const appended = disk.append(code, from, upload.size - arrived)
      const settled = appended.catch(() => {})
      writing.set(code, async () => {
        from.destroy()
        await settled
      })
      try {
        await appended
      } catch (error) {
        throw appendProblem(error, upload)
      } finally {
        writing.delete(code)
      }
      const now = disk.arrived(code)
      if (now === upload.size) await finish(upload, by)
      return now
    },
    async drop(code: string, by: Uploading): Promise<void> {
      const upload = find(code, by)
      await stopWriting(code)
      files.dropUpload(upload.id)
      disk.dropPart(code)
    },
  }
}

function appendProblem(error: unknown, { name }: Upload): unknown {
  if (error instanceof RangeError)
    return new ProblemError(
      'upload-past-end',
      `More came of “${name}” than it was said to have. Choose the file again.`,
    )
  const { code } = error as { code?: string }
  if (code === 'ENOSPC' || code === 'EDQUOT')
    return new ProblemError(
      'disk-full',
      `“${name}” did not fit any more. What has arrived stays; tell whoever runs Haplon, and try again later.`,
    )
  return error
}

/**
 * Removes from the disk what no row knows of, and gives up uploads that were not finished. The folder is listed before
 * the rows are read, and a file becomes known in the same turn in which it gets its name: so nothing known is removed.
 */
export async function sweep(
  disk: Disk,
  files: FileStore,
  now: Instant,
): Promise<{ parts: number; kept: number }> {
  const listed = await disk.listed()
  files.dropUploadsBefore(shift(now, -UPLOAD_DAYS * DAY))
  const uploads = files.uploadCodes()
  const stored = files.storedNames()
  const parts = listed.parts.filter((name) => !uploads.has(name))
  const kept = listed.kept.filter((name) => !stored.has(name))
  for (const name of parts) disk.dropPart(name)
  for (const name of kept) disk.drop(name)
  return { parts: parts.length, kept: kept.length }
}
