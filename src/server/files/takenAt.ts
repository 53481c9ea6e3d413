import { crc32 } from 'node:zlib'

/** What a block of tags begins with: its byte order, and the number that says what it is (TIFF 6.0, section 2). */
const BEGINNINGS = ['II*\0', 'MM\0*'].map((text) => Buffer.from(text, 'latin1'))
/** The tag that points to the block in which the place stands (Exif 2.32, section 4.6.3), and its type. */
const GPS_TAG = 0x8825
const LONG = 4
/** Bytes of each type of value (TIFF 6.0, section 2). */
const SIZES = [0, 1, 1, 2, 4, 8, 1, 1, 2, 4, 8, 4, 8]
/** Entries that a block can have at most; more is no such block. */
const MOST_ENTRIES = 1_000

/** Texts with tags (XMP, ISO 16684-1): between these. */
const [XMP_FROM, XMP_TO] = ['<x:xmpmeta', '</x:xmpmeta>']
/** A place in such a text, as an attribute or as an element, whoever wrote it. */
const PLACE = /[\w-]+:gps\w*\s*=\s*(?:"[^"]*"|'[^']*')|<([\w-]+:gps\w*)\b[^>]*>[\s\S]{0,400}?<\/\1\s*>/gi

/**
 * Takes out of a picture where it was taken, and leaves everything else as it was: the size, the way it is turned, the
 * camera. It does not matter of which kind it is (JPEG, PNG, WebP, TIFF, HEIC): the tags look the same in all of them.
 * @param bytes the file, changed in place
 * @returns whether anything was changed
 */
export function forgetPlace(bytes: Buffer): boolean {
  let changed = false
  for (const beginning of BEGINNINGS)
    for (let at = bytes.indexOf(beginning); at >= 0; at = bytes.indexOf(beginning, at + 1))
      changed = forgetInTags(bytes, at) || changed
  for (let at = bytes.indexOf(XMP_FROM); at >= 0; at = bytes.indexOf(XMP_FROM, at + 1)) {
    const end = bytes.indexOf(XMP_TO, at)
    changed = forgetInText(bytes, at, end < 0 ? bytes.length : end) || changed
  }
  if (changed) sumsAnew(bytes)
  return changed
}

/** Empties the block of the place in the tags that begin here; false where there is none, or these are no tags. */
function forgetInTags(bytes: Buffer, start: number): boolean {
  const little = bytes[start] === 0x49
  const short = (at: number) => (little ? bytes.readUInt16LE(at) : bytes.readUInt16BE(at))
  const long = (at: number) => (little ? bytes.readUInt32LE(at) : bytes.readUInt32BE(at))
  const within = (at: number, length: number) => at >= start && at + length <= bytes.length
  /** Where the entries of a block stand, 12 bytes each; none where it is no block. */
  const entriesAt = (offset: number): number[] => {
    const at = start + offset
    if (!within(at, 2)) return []
    const count = short(at)
    if (count === 0 || count > MOST_ENTRIES || !within(at + 2, count * 12)) return []
    return Array.from({ length: count }, (_, i) => at + 2 + i * 12)
  }
  if (!within(start, 8)) return false
  const pointer = entriesAt(long(start + 4)).find((at) => short(at) === GPS_TAG && short(at + 2) === LONG)
  if (pointer === undefined) return false
  const entries = entriesAt(long(pointer + 8))
  for (const at of entries) {
    const length = (SIZES[short(at + 2)] ?? 0) * long(at + 4)
    const value = start + long(at + 8)
    if (length > 4 && within(value, length)) bytes.fill(0, value, value + length)
    bytes.fill(0, at, at + 12)
  }
  const [first] = entries
  // A block without entries is one that says nothing.
  if (first !== undefined) bytes.fill(0, first - 2, first)
  return entries.length > 0
}

/** Puts blanks over every place in a text. */
function forgetInText(bytes: Buffer, from: number, to: number): boolean {
  const found = [...bytes.toString('latin1', from, to).matchAll(PLACE)]
  for (const { index, 0: place } of found) bytes.fill(0x20, from + index, from + index + place.length)
  return found.length > 0
}

const PNG = Buffer.from('\x89PNG\r\n\x1a\n', 'latin1')

/** Where the file is a PNG: the check sums of its chunks anew, without which readers would refuse them (PNG, section 5). */
function sumsAnew(bytes: Buffer): void {
  if (!bytes.subarray(0, PNG.length).equals(PNG)) return
  for (let at = PNG.length; at + 12 <= bytes.length; ) {
    const length = bytes.readUInt32BE(at)
    const end = at + 8 + length
    if (end + 4 > bytes.length) return
    const name = bytes.toString('latin1', at + 4, at + 8)
    if (name === 'eXIf' || name === 'iTXt') bytes.writeUInt32BE(crc32(bytes.subarray(at + 4, end)), end)
    at = end + 4
  }
}
