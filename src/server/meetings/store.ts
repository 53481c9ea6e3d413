import type { Instant } from '../../core/instant.ts'
import { newCode } from '../codes.ts'
import type { Db } from '../db/open.ts'

export interface Meeting {
  id: number
  code: string
  group_id: number
  title: string
  place: string
  link: string
  starts_at: Instant
  minutes: number
  /** How many weeks it takes place; 1 for once. */
  weeks: number
  /** JSON of the days on which it does not, in the course's zone. */
  skipped: string
  by_id: number
  set_at: Instant
  removed_at: Instant | null
}

export type MeetingFields = Pick<
  Meeting,
  'title' | 'place' | 'link' | 'starts_at' | 'minutes' | 'weeks' | 'skipped'
>
export type MeetingStore = ReturnType<typeof createMeetingStore>

const MEETING = `SELECT id, code, group_id, title, place, link, starts_at, minutes, weeks, skipped, by_id, set_at, removed_at
  FROM meeting`

/** Meetings of groups, and when their members could meet. */
export function createMeetingStore(db: Db) {
  const ofGroup = db.prepare<[number], Meeting>(
    `${MEETING} WHERE group_id = ? AND removed_at IS NULL ORDER BY starts_at, id`,
  )
  const byCode = db.prepare<[number, string], Meeting>(`${MEETING} WHERE group_id = ? AND code = ?`)
  const add = db.prepare(
    `INSERT INTO meeting (code, group_id, title, place, link, starts_at, minutes, weeks, skipped, by_id, set_at)
     VALUES (@code, @groupId, @title, @place, @link, @starts_at, @minutes, @weeks, @skipped, @byId, @now)`,
  )
  const change = db.prepare(
    `UPDATE meeting SET title = @title, place = @place, link = @link, starts_at = @starts_at, minutes = @minutes,
       weeks = @weeks, skipped = @skipped WHERE id = @id`,
  )
  const setRemoved = db.prepare<[Instant | null, number]>('UPDATE meeting SET removed_at = ? WHERE id = ?')
  const could = db.prepare<[number], { enrolment_id: number; hours: string }>(
    'SELECT enrolment_id, hours FROM could_meet WHERE group_id = ?',
  )
  const setCould = db.prepare<[number, number, string]>(
    'INSERT OR REPLACE INTO could_meet (group_id, enrolment_id, hours) VALUES (?, ?, ?)',
  )
  return {
    /** The meetings of a group that were not called off, in the order of their first time. */
    ofGroup: (groupId: number) => ofGroup.all(groupId),
    /** A meeting of a group by its code, called off or not. */
    byCode: (groupId: number, code: string) => byCode.get(groupId, code),
    add(groupId: number, byId: number, fields: MeetingFields, now: Instant): void {
      add.run({ ...fields, code: newCode(), groupId, byId, now })
    },
    change: (id: number, fields: MeetingFields) => change.run({ ...fields, id }),
    /** Calls a meeting off, or brings it back with null. */
    setRemoved: (id: number, at: Instant | null) => setRemoved.run(at, id),
    /** The hours of the week in which each can who has said so, by enrolment. */
    could: (groupId: number) =>
      new Map(could.all(groupId).map(({ enrolment_id, hours }) => [enrolment_id, hours])),
    setCould: (groupId: number, enrolmentId: number, hours: string) =>
      setCould.run(groupId, enrolmentId, hours),
  }
}
