import { createReadStream } from 'node:fs'

/** Whether a file is text in UTF-8 (RFC 3629) without a NUL. Read in pieces, so that memory does not grow with it. */
export async function isUtf8(path: string): Promise<boolean> {
  const decoder = new TextDecoder('utf-8', { fatal: true })
  try {
    for await (const chunk of createReadStream(path)) {
      if ((chunk as Buffer).includes(0)) return false
      decoder.decode(chunk as Buffer, { stream: true })
    }
    decoder.decode()
    return true
  } catch (error) {
    if (error instanceof TypeError) return false
    throw error
  }
}
