import type { Instant } from '../../core/instant.ts'
import { newCode } from '../codes.ts'
import type { Db } from '../db/open.ts'

/** A file of a group; its versions are kept files. */
export interface GroupFile {
  id: number
  code: string
  group_id: number
  name: string
  removed_at: Instant | null
  removed_by: number | null
}

export interface GroupFileVersion {
  group_file_id: number
  version: number
  file_id: number
}

export type GroupFileStore = ReturnType<typeof createGroupFileStore>

const GROUP_FILE = 'SELECT id, code, group_id, name, removed_at, removed_by FROM group_file'

/** The files of groups, with their versions. */
export function createGroupFileStore(db: Db) {
  const ofGroup = db.prepare<[number], GroupFile>(`${GROUP_FILE} WHERE group_id = ? ORDER BY id`)
  const byCode = db.prepare<[number, string], GroupFile>(`${GROUP_FILE} WHERE group_id = ? AND code = ?`)
  const named = db.prepare<[number, string], GroupFile>(
    `${GROUP_FILE} WHERE group_id = ? AND lower(name) = lower(?) AND removed_at IS NULL`,
  )
  const add = db.prepare<[string, number, string]>(
    'INSERT INTO group_file (code, group_id, name) VALUES (?, ?, ?)',
  )
  const versionsOf = db.prepare<[number], GroupFileVersion>(
    `SELECT v.group_file_id, v.version, v.file_id FROM group_file_version v JOIN group_file f ON f.id = v.group_file_id
     WHERE f.group_id = ? ORDER BY v.group_file_id, v.version`,
  )
  const addVersion = db.prepare<[number, number, number]>(
    `INSERT INTO group_file_version (group_file_id, version, file_id)
     SELECT ?, ifnull(max(version), 0) + 1, ? FROM group_file_version WHERE group_file_id = ?`,
  )
  const setRemoved = db.prepare<[Instant | null, number | null, number]>(
    'UPDATE group_file SET removed_at = ?, removed_by = ? WHERE id = ?',
  )
  const groupWith = db.prepare<[number], { group_id: number; removed_at: Instant | null }>(
    `SELECT f.group_id, f.removed_at FROM group_file f JOIN group_file_version v ON v.group_file_id = f.id
     WHERE v.file_id = ?`,
  )
  const counts = db.prepare<[string], { group_id: number; files: number }>(
    `SELECT group_id, count(*) AS files FROM group_file
     WHERE group_id IN (SELECT value FROM json_each(?)) AND removed_at IS NULL GROUP BY group_id`,
  )
  const goneBefore = db.prepare<[Instant], GroupFile>(`${GROUP_FILE} WHERE removed_at < ?`)
  const dropVersions = db.prepare<[number]>('DELETE FROM group_file_version WHERE group_file_id = ?')
  const drop = db.prepare<[number]>('DELETE FROM group_file WHERE id = ?')
  return {
    /** Every file of a group, those taken away included. */
    ofGroup: (groupId: number) => ofGroup.all(groupId),
    byCode: (groupId: number, code: string) => byCode.get(groupId, code),
    /** The file of that name that is there, if any. */
    named: (groupId: number, name: string) => named.get(groupId, name),
    /** Versions of all files of a group, oldest first. */
    versions: (groupId: number) => versionsOf.all(groupId),
    /** Adds a kept file to a group: a further version where one of its name is there. */
    add(groupId: number, name: string, fileId: number): void {
      const known = named.get(groupId, name)
      const id = known?.id ?? Number(add.run(newCode(), groupId, name).lastInsertRowid)
      addVersion.run(id, fileId, id)
    },
    /** Takes a file away, or brings it back. */
    setRemoved: (id: number, at: Instant | null, by: number | null) => setRemoved.run(at, by, id),
    /** The group that a kept file belongs to, with when it was taken away. */
    groupWith: (fileId: number) => groupWith.get(fileId),
    /** How many files groups have. */
    counts: (groupIds: readonly number[]) =>
      new Map(counts.all(JSON.stringify(groupIds)).map(({ group_id, files }) => [group_id, files])),
    /** Files that were taken away before an instant. */
    goneBefore: (instant: Instant) => goneBefore.all(instant),
    /** Forgets a file with its versions. */
    drop(id: number): void {
      dropVersions.run(id)
      drop.run(id)
    },
  }
}
