/** Bytes in a mebibyte (IEC 80000-13). */
export const MIB = 1024 * 1024

/** Most characters in the name of a file. */
export const MOST_FILE_NAME = 120

/** Most files in one hand-in, and with one task. */
export const MOST_FILES = 20

/** Marks that turn the direction of text or join it (Unicode 15, section 23.2 and UAX 9), and control characters. */
const HIDDEN = /[\p{Cc}\p{Cf}\u2028\u2029]/gu
/** What no usual file system takes in a name. */
const FORBIDDEN = /["*:<>?|]/g

/**
 * A file's name as it is kept: the last part of a path, without marks that hide how it reads, shortened before its
 * ending where it is too long. Null when nothing is left.
 */
export function keptName(name: string): string | null {
  const last = name.split(/[/\\]/).at(-1) ?? ''
  const clean = last
    .normalize('NFC')
    .replace(HIDDEN, '')
    .replace(FORBIDDEN, '-')
    .replace(/\s+/g, ' ')
    .replace(/^[\s.]+|[\s.]+$/g, '')
  if (!/[\p{L}\p{N}]/u.test(clean)) return null
  const letters = [...clean]
  if (letters.length <= MOST_FILE_NAME) return clean
  const ending = [...(/\.[\p{L}\p{N}]{1,10}$/u.exec(clean)?.[0] ?? '')]
  return [...letters.slice(0, MOST_FILE_NAME - ending.length), ...ending].join('')
}

/** Names that do not repeat: the second “report.pdf” becomes “report (2).pdf”. Case makes no difference. */
export function distinctNames(names: readonly string[]): string[] {
  const used = new Set<string>()
  return names.map((name) => {
    const dot = name.lastIndexOf('.')
    const [stem, ending] = dot > 0 ? [name.slice(0, dot), name.slice(dot)] : [name, '']
    let distinct = name
    for (let n = 2; used.has(distinct.toLowerCase()); n++) distinct = `${stem} (${n})${ending}`
    used.add(distinct.toLowerCase())
    return distinct
  })
}

/** Names that one system keeps for devices, whatever their ending and case. */
const DEVICES = /^(con|prn|aux|nul|com\d|lpt\d)(?=\.|$)/i

/** Most octets of one part of a path in an archive: some systems take no more, or count folders with it. */
const MOST_OCTETS = 180

/**
 * A name of a file or folder that every usual system can unpack: no device's, and not too long in octets (UTF-8). For
 * one that is already as `keptName` keeps it.
 */
export function packedName(name: string): string {
  const dot = name.lastIndexOf('.')
  const ending = dot > 0 && name.length - dot <= 11 ? name.slice(dot) : ''
  let stem = name.slice(0, name.length - ending.length).replace(DEVICES, '$1-')
  const octets = (text: string) => new TextEncoder().encode(text).length
  while (octets(stem + ending) > MOST_OCTETS) stem = [...stem].slice(0, -1).join('')
  return `${stem.trimEnd()}${ending}`
}

/** A size in words: `640 bytes`, `12.4 KiB`, `3 MiB`. */
export function sayBytes(bytes: number): string {
  if (bytes < 1024) return `${bytes} ${bytes === 1 ? 'byte' : 'bytes'}`
  const [size, unit] =
    bytes < MIB
      ? [bytes / 1024, 'KiB']
      : bytes < 1024 * MIB
        ? [bytes / MIB, 'MiB']
        : [bytes / (1024 * MIB), 'GiB']
  return `${size.toFixed(size < 100 ? 1 : 0).replace(/\.0$/, '')} ${unit}`
}

/** How a file can be shown in a page: as a picture, page by page, as plain text, or not at all. */
export type ShownAs = 'picture' | 'pages' | 'text' | 'not'

/** How a browser shows a file of a media type. Drawings in SVG can carry scripts, so they are only downloaded. */
export function shownAs(type: string): ShownAs {
  if (['image/png', 'image/jpeg', 'image/gif', 'image/webp'].includes(type)) return 'picture'
  if (type === 'application/pdf') return 'pages'
  return type === 'text/plain' ? 'text' : 'not'
}
