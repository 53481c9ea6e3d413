import { createHash, randomBytes } from 'node:crypto'
import {
  accessSync,
  closeSync,
  constants,
  createReadStream,
  createWriteStream,
  fsyncSync,
  linkSync,
  mkdirSync,
  openSync,
  renameSync,
  rmSync,
  statSync,
} from 'node:fs'
import { open, readdir, readFile, writeFile } from 'node:fs/promises'
import { join, resolve } from 'node:path'
import { type Readable, Transform } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { fileTypeFromFile } from 'file-type'
import { forgetPlace } from './takenAt.ts'
import { isUtf8 } from './text.ts'

/**
 * The folder in which files are kept, outside of everything that is served and under names of our own:
 * `parts/<upload>` while a file arrives, `kept/<name>` once it is whole.
 */
export type Disk = ReturnType<typeof createDisk>

export function createDisk(folder: string) {
  const parts = resolve(folder, 'parts')
  const kept = resolve(folder, 'kept')
  try {
    for (const one of [parts, kept]) mkdirSync(one, { recursive: true, mode: 0o700 })
    accessSync(kept, constants.W_OK)
  } catch (error) {
    const reason = error instanceof Error ? error.message : String(error)
    throw new Error(`HAPLON_FILES names ${folder}, where files cannot be kept: ${reason}.`)
  }
  const partOf = (upload: string) => join(parts, upload)
  const size = (upload: string): number => statSync(partOf(upload), { throwIfNoEntry: false })?.size ?? 0
  return {
    /** Bytes of an upload that have arrived. */
    arrived: size,
    /**
     * Appends what a stream brings. What came before the stream broke off stays.
     * @param most bytes after which it is too much
     * @throws RangeError when more came; the part then ends where it began
     */
    async append(upload: string, from: Readable, most: number): Promise<void> {
      let came = 0
      const count = new Transform({
        transform(chunk: Buffer, _encoding, done) {
          came += chunk.length
          if (came > most) done(new RangeError('more bytes than the file has'))
          else done(null, chunk)
        },
      })
      await pipeline(from, count, createWriteStream(partOf(upload), { flags: 'a', mode: 0o600 }))
    },
    /** Flushes a part that is whole to the disk. */
    async flush(upload: string): Promise<void> {
      const file = await open(partOf(upload), 'r+')
      await file.sync().finally(() => file.close())
    },
    /** The media type of a part, as its content shows: never as its name says. */
    async typeOf(upload: string): Promise<string> {
      const known = await fileTypeFromFile(partOf(upload))
      if (known) return known.mime
      return (await isUtf8(partOf(upload))) ? 'text/plain' : 'application/octet-stream'
    },
    /** Takes out of a picture where it was taken. Done twice, as after a crash in the middle, it comes to the same. */
    async forgetPlace(upload: string): Promise<void> {
      const bytes = await readFile(partOf(upload))
      if (forgetPlace(bytes)) await writeFile(partOf(upload), bytes, { flag: 'r+', flush: true })
    },
    /** SHA-256 of a part, as hex: by it the same file is known when it is brought again. */
    async digestOf(upload: string): Promise<string> {
      const hash = createHash('sha256')
      await pipeline(createReadStream(partOf(upload)), hash)
      return hash.digest('hex')
    },
    /** Makes a part that is whole a kept file, and gives its name. Nobody knows of it until a row says so. */
    keep(upload: string): string {
      const stored = randomBytes(16).toString('hex')
      renameSync(partOf(upload), join(kept, stored))
      const directory = openSync(kept, 'r')
      try {
        fsyncSync(directory)
      } finally {
        closeSync(directory)
      }
      return stored
    },
    /** Gives a kept file a second name, under which it stays when the first goes. Nobody knows of it until a row does. */
    keepAgain(stored: string): string {
      const again = randomBytes(16).toString('hex')
      linkSync(join(kept, stored), join(kept, again))
      return again
    },
    /** Makes a kept file a part again, when its row could not be written. */
    unkeep: (stored: string, upload: string) => renameSync(join(kept, stored), partOf(upload)),
    pathOf: (stored: string) => join(kept, stored),
    dropPart: (upload: string) => rmSync(partOf(upload), { force: true }),
    drop: (stored: string) => rmSync(join(kept, stored), { force: true }),
    /** Everything there is. */
    async listed(): Promise<{ parts: string[]; kept: string[] }> {
      const [inParts, inKept] = await Promise.all([readdir(parts), readdir(kept)])
      return { parts: inParts, kept: inKept }
    },
  }
}
