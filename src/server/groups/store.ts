import { FIRST_EXTRAS, type GroupExtras, type OwnExtras } from '../../core/extras.ts'
import type { Instant } from '../../core/instant.ts'
import { newCode } from '../codes.ts'
import { createKeeper } from '../db/kept.ts'
import type { Db } from '../db/open.ts'

/** What is a group's own: meeting link, name and emblem; each empty where there is none. */
export interface Place {
  meeting: string
  name: string
  emblem: string
}

export interface Message {
  id: number
  code: string
  group_id: number
  by_id: number
  subject: string
  text: string
  sent_at: Instant
  reached: number
}

interface ExtrasRow {
  messages: 0 | 1
  talk: 0 | 1
  files: 0 | 1
  meeting: 0 | 1
  name: 0 | 1
  calendar: 0 | 1
  starts: GroupExtras['starts']
  meeting_by: GroupExtras['meetingBy']
  file_bytes: number
  group_bytes: number
}

export type GroupStore = ReturnType<typeof createGroupStore>

/** What groups get, what is their own, and the messages that went to them. */
export function createGroupStore(database: Db) {
  const { db, keep } = createKeeper(database)
  const extras = db.prepare<[number], ExtrasRow>(
    `SELECT messages, talk, files, meeting, name, calendar, starts, meeting_by, file_bytes, group_bytes FROM group_extras
     WHERE sheet_id = ?`,
  )
  const setExtras = db.prepare(
    `INSERT OR REPLACE INTO group_extras (sheet_id, messages, talk, files, meeting, name, calendar, starts, meeting_by, file_bytes,
       group_bytes)
     VALUES (@sheetId, @messages, @talk, @files, @meeting, @name, @calendar, @starts, @meetingBy, @fileBytes, @groupBytes)`,
  )
  const own = db.prepare<[number], string>('SELECT fields FROM group_own_extras WHERE group_id = ?').pluck()
  const setOwn = db.prepare<[number, string]>(
    'INSERT OR REPLACE INTO group_own_extras (group_id, fields) VALUES (?, ?)',
  )
  const dropOwn = db.prepare<[number]>('DELETE FROM group_own_extras WHERE group_id = ?')
  const place = db.prepare<[number], Place>(
    'SELECT meeting, name, emblem FROM group_place WHERE group_id = ?',
  )
  const placesOf = db.prepare<[string], Place & { group_id: number }>(
    'SELECT group_id, meeting, name, emblem FROM group_place WHERE group_id IN (SELECT value FROM json_each(?))',
  )
  const messagesOf = db.prepare<[string], { group_id: number; messages: number }>(
    `SELECT group_id, count(*) AS messages FROM group_message
     WHERE group_id IN (SELECT value FROM json_each(?)) GROUP BY group_id`,
  )
  const setPlace = db.prepare<[number, string, string, string]>(
    'INSERT OR REPLACE INTO group_place (group_id, meeting, name, emblem) VALUES (?, ?, ?, ?)',
  )
  const messages = db.prepare<[number], Message>(
    `SELECT id, code, group_id, by_id, subject, text, sent_at, reached FROM group_message WHERE group_id = ?
     ORDER BY id DESC`,
  )
  const addMessage = db.prepare<[string, number, number, string, string, Instant, number]>(
    'INSERT INTO group_message (code, group_id, by_id, subject, text, sent_at, reached) VALUES (?, ?, ?, ?, ?, ?, ?)',
  )
  const sentSince = db
    .prepare<[number, Instant], number>('SELECT count(*) FROM group_message WHERE by_id = ? AND sent_at > ?')
    .pluck()
  const ofSheet = keep((sheetId: number): GroupExtras => {
    const row = extras.get(sheetId)
    if (!row) return FIRST_EXTRAS
    return {
      messages: row.messages === 1,
      talk: row.talk === 1,
      files: row.files === 1,
      meeting: row.meeting === 1,
      name: row.name === 1,
      calendar: row.calendar === 1,
      starts: row.starts,
      meetingBy: row.meeting_by,
      fileBytes: row.file_bytes,
      groupBytes: row.group_bytes,
    }
  })
  const ownOf = keep((groupId: number): OwnExtras | null => {
    const fields = own.get(groupId)
    return fields === undefined ? null : (JSON.parse(fields) as OwnExtras)
  })
  return {
    /** What the groups of a sheet get. */
    extras: ofSheet,
    /** What one group gets: as all of its sheet, but for what was chosen for it alone. */
    extrasFor: ({ id, sheet_id }: { id: number; sheet_id: number }): GroupExtras => ({
      ...ofSheet(sheet_id),
      ...ownOf(id),
    }),
    /** What was chosen for one group alone; null for nothing. */
    ownExtras: ownOf,
    setOwnExtras(groupId: number, fields: OwnExtras): void {
      if (Object.keys(fields).length === 0) dropOwn.run(groupId)
      else setOwn.run(groupId, JSON.stringify(fields))
    },
    setExtras(
      sheetId: number,
      { messages, talk, files, meeting, name, calendar, ...rest }: GroupExtras,
    ): void {
      const flags = { messages, talk, files, meeting, name, calendar }
      const numbers = Object.fromEntries(Object.entries(flags).map(([key, on]) => [key, on ? 1 : 0]))
      setExtras.run({ ...rest, ...numbers, sheetId })
    },
    place: (groupId: number): Place => place.get(groupId) ?? { meeting: '', name: '', emblem: '' },
    /** What is their own, of those groups that have anything, by the group's id. */
    placesOf: (groupIds: readonly number[]) =>
      new Map(placesOf.all(JSON.stringify(groupIds)).map((own) => [own.group_id, own])),
    /** How many messages went to each group; groups with none are left out. */
    messagesOf: (groupIds: readonly number[]) =>
      new Map(messagesOf.all(JSON.stringify(groupIds)).map(({ group_id, messages }) => [group_id, messages])),
    setPlace: (groupId: number, { meeting, name, emblem }: Place) =>
      setPlace.run(groupId, meeting, name, emblem),
    /** Messages to a group, newest first. */
    messages: (groupId: number) => messages.all(groupId),
    addMessage(
      groupId: number,
      { by_id, subject, text, reached }: Pick<Message, 'by_id' | 'subject' | 'text' | 'reached'>,
      now: Instant,
    ): void {
      addMessage.run(newCode(), groupId, by_id, subject, text, now, reached)
    },
    /** How many messages somebody has sent since an instant. */
    sentSince: (byId: number, since: Instant) => sentSince.get(byId, since) ?? 0,
  }
}
