import { dirname } from 'node:path'

/** What SQLite says of a file, by its code (https://www.sqlite.org/rescode.html), in a sentence. */
const SAID: Readonly<Record<string, string>> = {
  SQLITE_NOTADB: 'is no database. Name another file, or put back a copy',
  SQLITE_CORRUPT: 'is damaged. Put back a copy',
  SQLITE_READONLY: 'may not be written: the file, its folder or the disk it is on is read-only',
  SQLITE_READONLY_DIRECTORY: 'lies in a folder that may not be written',
  SQLITE_CANTOPEN: 'cannot be opened: its folder is missing, or whoever runs the server may not use it',
  SQLITE_FULL: 'lies on a disk that is full',
  SQLITE_BUSY: 'is held by another program just now. Try again in a moment',
}

/**
 * Does something with a database file.
 * @throws Error in a sentence that names the setting, the file and what is wrong with it
 */
export function inWords<Result>(file: string, open: () => Result): Result {
  try {
    return open()
  } catch (error) {
    const { code, message } = error as { code?: string; message: string }
    if (message.startsWith('HAPLON_')) throw error
    if (message === 'Cannot open database because the directory does not exist')
      throw new Error(`HAPLON_DB names ${file}, which cannot be opened: there is no folder ${dirname(file)}.`)
    const said = code && (SAID[code] ?? SAID[code.split('_').slice(0, 2).join('_')])
    throw new Error(`HAPLON_DB names ${file}, which ${said || `cannot be opened: ${message}`}.`)
  }
}
