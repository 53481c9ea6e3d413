import type { Instant } from '../../core/instant.ts'
import { newCode, newLinkCode } from '../codes.ts'
import type { Db } from '../db/open.ts'

export interface Sheet {
  id: number
  code: string
  link: string
  course_id: number
  title: string
  instructions: string
  contact: string
  seats: number
  floor: number
  seats_each: number
  opens_at: Instant | null
  closes_at: Instant | null
  published_at: Instant | null
  archived_at: Instant | null
}

export interface Topic {
  id: number
  code: string
  sheet_id: number
  position: number
  title: string
  brief: string
  place: string
  seats: number | null
  floor: number | null
  removed_at: Instant | null
}

/** A group with the limit and the floor that hold for it. */
export interface Group {
  id: number
  code: string
  topic_id: number
  sheet_id: number
  section_id: number | null
  seats: number
  floor: number
  removed_at: Instant | null
}

export type SheetFields = Pick<
  Sheet,
  'title' | 'instructions' | 'contact' | 'seats' | 'floor' | 'opens_at' | 'closes_at'
>
export type TopicFields = Pick<Topic, 'title' | 'brief' | 'place' | 'seats' | 'floor'>

export type SheetStore = ReturnType<typeof createSheetStore>

const SHEET = `SELECT id, code, link, course_id, title, instructions, contact, seats, floor, seats_each, opens_at,
  closes_at, published_at, archived_at FROM sheet`
const TOPIC = 'SELECT id, code, sheet_id, position, title, brief, place, seats, floor, removed_at FROM topic'
const GROUP = `SELECT g.id, g.code, g.topic_id, l.sheet_id, g.section_id, l.seats, l.floor, l.removed_at
  FROM sheet_group g JOIN group_limit l ON l.group_id = g.id`

/** Sheets, their topics, and the groups that follow from topics and sections. */
export function createSheetStore(db: Db) {
  const byId = db.prepare<[number], Sheet>(`${SHEET} WHERE id = ?`)
  const byCode = db.prepare<[string], Sheet>(`${SHEET} WHERE code = ?`)
  const byLink = db.prepare<[string], Sheet>(`${SHEET} WHERE link = ?`)
  const ofCourse = db.prepare<[number], Sheet>(`${SHEET} WHERE course_id = ? ORDER BY id DESC`)
  const add = db.prepare<[string, string, number, string, string, number, number, Instant]>(
    `INSERT INTO sheet (code, link, course_id, title, contact, seats, floor, created_at)
     VALUES (?, ?, ?, ?, ?, ?, ?, ?)`,
  )
  const change = db.prepare<[string, string, string, number, number, Instant | null, Instant | null, number]>(
    `UPDATE sheet SET title = ?, instructions = ?, contact = ?, seats = ?, floor = ?, opens_at = ?, closes_at = ?
     WHERE id = ?`,
  )
  const publish = db.prepare<[Instant, number]>('UPDATE sheet SET published_at = ? WHERE id = ?')
  const topicsOf = db.prepare<[number], Topic>(
    `${TOPIC} WHERE sheet_id = ? AND removed_at IS NULL ORDER BY position, id`,
  )
  const topicByCode = db.prepare<[number, string], Topic>(`${TOPIC} WHERE sheet_id = ? AND code = ?`)
  const lastPosition = db
    .prepare<[number], number>('SELECT ifnull(max(position), 0) FROM topic WHERE sheet_id = ?')
    .pluck()
  const addTopic = db.prepare<
    [string, number, number, string, string, string, number | null, number | null, Instant]
  >(
    `INSERT INTO topic (code, sheet_id, position, title, brief, place, seats, floor, created_at)
     VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`,
  )
  const changeTopic = db.prepare<[string, string, string, number | null, number | null, number]>(
    'UPDATE topic SET title = ?, brief = ?, place = ?, seats = ?, floor = ? WHERE id = ?',
  )
  const placeTopic = db.prepare<[number, number]>('UPDATE topic SET position = ? WHERE id = ?')
  const setRemoved = db.prepare<[Instant | null, number]>('UPDATE topic SET removed_at = ? WHERE id = ?')
  const groupsOf = db.prepare<[number], Group>(
    `${GROUP} WHERE l.sheet_id = ? AND l.removed_at IS NULL ORDER BY g.id`,
  )
  const groupByCode = db.prepare<[string], Group>(`${GROUP} WHERE g.code = ?`)
  const addGroup = db.prepare<[string, number, number | null]>(
    'INSERT INTO sheet_group (code, topic_id, section_id) VALUES (?, ?, ?)',
  )
  const groupCodes = db.prepare<[number], { id: number; code: string }>(
    'SELECT g.id, g.code FROM sheet_group g JOIN topic t ON t.id = g.topic_id WHERE t.sheet_id = ?',
  )

  return {
    byId: (id: number) => byId.get(id),
    byCode: (code: string) => byCode.get(code),
    byLink: (link: string) => byLink.get(link),
    ofCourse: (courseId: number) => ofCourse.all(courseId),
    add(courseId: number, fields: Pick<Sheet, 'title' | 'contact' | 'seats' | 'floor'>, now: Instant): Sheet {
      const { title, contact, seats, floor } = fields
      const { lastInsertRowid } = add.run(
        newCode(),
        newLinkCode(),
        courseId,
        title,
        contact,
        seats,
        floor,
        now,
      )
      return byId.get(Number(lastInsertRowid)) as Sheet
    },
    change(id: number, f: SheetFields): void {
      change.run(f.title, f.instructions, f.contact, f.seats, f.floor, f.opens_at, f.closes_at, id)
    },
    publish: (id: number, now: Instant) => publish.run(now, id),
    /** The sheet's topics in their order, removed ones left out. */
    topics: (sheetId: number) => topicsOf.all(sheetId),
    /** A topic of the sheet by its code, removed or not. */
    topic: (sheetId: number, code: string) => topicByCode.get(sheetId, code),
    /** Adds a topic at the end, with a group in each of the sections (or one, in a course without). */
    addTopic(sheetId: number, f: TopicFields, sections: readonly { id: number }[], now: Instant): Topic {
      const code = newCode()
      const position = (lastPosition.get(sheetId) ?? 0) + 1
      const added = addTopic.run(code, sheetId, position, f.title, f.brief, f.place, f.seats, f.floor, now)
      const places = sections.length > 0 ? sections.map(({ id }) => id) : [null]
      for (const section of places) addGroup.run(newCode(), Number(added.lastInsertRowid), section)
      return topicByCode.get(sheetId, code) as Topic
    },
    changeTopic(id: number, f: TopicFields): void {
      changeTopic.run(f.title, f.brief, f.place, f.seats, f.floor, id)
    },
    /** Puts topics in the order given, from position 1. */
    orderTopics(ids: readonly number[]): void {
      ids.forEach((id, index) => {
        placeTopic.run(index + 1, id)
      })
    },
    removeTopic: (id: number, now: Instant) => setRemoved.run(now, id),
    restoreTopic: (id: number) => setRemoved.run(null, id),
    /** The sheet's groups with their limits, those of removed topics left out. */
    groups: (sheetId: number) => groupsOf.all(sheetId),
    group: (code: string) => groupByCode.get(code),
    /** Every group the sheet ever had, removed topics included: id to code. */
    groupCodes: (sheetId: number) => new Map(groupCodes.all(sheetId).map(({ id, code }) => [id, code])),
  }
}
