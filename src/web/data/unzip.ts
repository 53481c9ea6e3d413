import { Unzip, UnzipInflate } from 'fflate'

/** Most that a zip may unpack to, all files together (bytes). */
export const MOST_UNPACKED = 40 * 1024 * 1024

/** A zip that cannot be read, with a sentence that says why. */
export class ZipFault extends Error {}

/**
 * Unpacks the wanted files of a zip, by their names without folders in lower case. What it unpacks to is counted as
 * it comes, so that a small zip that would fill the memory is stopped early.
 * @throws ZipFault when it is no zip or holds too much
 */
export function unzip(
  bytes: Uint8Array,
  wanted: readonly string[],
  most = MOST_UNPACKED,
): Map<string, Uint8Array> {
  if (bytes[0] !== 0x50 || bytes[1] !== 0x4b) throw new ZipFault('This is not a zip file.')
  const found = new Map<string, Uint8Array>()
  let unpacked = 0
  let failed: Error | null = null
  const reader = new Unzip((file) => {
    const name = file.name.split('/').at(-1)?.toLowerCase() ?? ''
    if (!wanted.includes(name)) return
    const parts: Uint8Array[] = []
    file.ondata = (error, data, final) => {
      if (error) failed = error
      unpacked += data?.length ?? 0
      if (unpacked > most) {
        file.terminate()
        throw new ZipFault(
          `It unpacks to more than ${Math.round(most / 1024 / 1024)} MB. A roster is far smaller; check what is in it.`,
        )
      }
      if (data) parts.push(data)
      if (final) found.set(name, joined(parts))
    }
    file.start()
  })
  reader.register(UnzipInflate)
  try {
    // In pieces, so that the count can stop it between them.
    const piece = 64 * 1024
    for (let at = 0; at < bytes.length; at += piece) {
      reader.push(bytes.subarray(at, at + piece), at + piece >= bytes.length)
    }
  } catch (error) {
    throw error instanceof ZipFault ? error : new ZipFault('The zip file is damaged and cannot be read.')
  }
  if (failed) throw new ZipFault('The zip file is damaged and cannot be read.')
  return found
}

function joined(parts: readonly Uint8Array[]): Uint8Array {
  const all = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0))
  let at = 0
  for (const part of parts) {
    all.set(part, at)
    at += part.length
  }
  return all
}
