import type { GroupState } from '../../core/groupState.ts'
import type { Instant } from '../../core/instant.ts'
import { newCode } from '../codes.ts'
import type { createKeeper } from '../db/kept.ts'

export interface Topic {
  id: number
  code: string
  sheet_id: number
  position: number
  title: string
  brief: string
  place: string
  link: string
  starts_at: Instant | null
  ends_at: Instant | null
  /** The topic's own limit and floor; null follows the sheet's. A limit of 0 is no limit. */
  seats: number | null
  floor: number | null
  /** Whether it has one group for all sections; null follows the sheet. */
  mixed: 0 | 1 | null
  removed_at: Instant | null
}

/** What of a group is an exception from its topic; null follows it. */
export interface GroupException {
  offered: 0 | 1
  own_seats: number | null
  own_floor: number | null
  own_place: string | null
  own_link: string | null
  own_starts_at: Instant | null
  own_ends_at: Instant | null
}

/** A group with what holds for it after its own exceptions, its topic and its sheet. */
export interface Group extends GroupException {
  id: number
  code: string
  topic_id: number
  sheet_id: number
  section_id: number | null
  seats: number
  floor: number
  place: string
  link: string
  starts_at: Instant | null
  ends_at: Instant | null
  convener_id: number | null
  removed_at: Instant | null
  state: GroupState
}

/** A seat kept free in a group, for a named person or a use. */
export interface HeldSeat {
  id: number
  code: string
  group_id: number
  enrolment_id: number | null
  note: string
}

export type TopicFields = Pick<
  Topic,
  'title' | 'brief' | 'place' | 'link' | 'starts_at' | 'ends_at' | 'seats' | 'floor' | 'mixed'
>

const TOPIC = `SELECT id, code, sheet_id, position, title, brief, place, link, starts_at, ends_at, seats, floor,
  mixed, removed_at FROM topic`
const GROUP = `SELECT g.id, g.code, g.topic_id, l.sheet_id, g.section_id, l.seats, l.floor, l.removed_at,
  ifnull(g.place, t.place) AS place, ifnull(g.link, t.link) AS link,
  ifnull(g.starts_at, t.starts_at) AS starts_at, iif(g.starts_at IS NULL, t.ends_at, g.ends_at) AS ends_at,
  CASE WHEN l.removed_at IS NOT NULL THEN 'removed' WHEN g.offered = 1 THEN 'offered' ELSE 'not-offered' END AS state,
  g.convener_id, g.offered, g.seats AS own_seats, g.floor AS own_floor, g.place AS own_place, g.link AS own_link,
  g.starts_at AS own_starts_at, g.ends_at AS own_ends_at
  FROM sheet_group g JOIN group_limit l ON l.group_id = g.id JOIN topic t ON t.id = g.topic_id`
const HELD = `SELECT h.id, h.code, h.group_id, h.enrolment_id, h.note FROM held_seat h`

/** Topics, the groups that follow from topics and sections, and the seats held in them. */
export function createTopicStore({ db, keep }: ReturnType<typeof createKeeper>) {
  const topicsOf = db.prepare<[number], Topic>(
    `${TOPIC} WHERE sheet_id = ? AND removed_at IS NULL ORDER BY position, id`,
  )
  const topicByCode = db.prepare<[number, string], Topic>(`${TOPIC} WHERE sheet_id = ? AND code = ?`)
  const lastPosition = db
    .prepare<[number], number>('SELECT ifnull(max(position), 0) FROM topic WHERE sheet_id = ?')
    .pluck()
  const addTopic = db.prepare(
    `INSERT INTO topic (code, sheet_id, position, created_at, title, brief, place, link, starts_at, ends_at, seats, floor, mixed)
     VALUES (@code, @sheetId, @position, @now, @title, @brief, @place, @link, @starts_at, @ends_at, @seats, @floor, @mixed)`,
  )
  const changeTopic = db.prepare(
    `UPDATE topic SET title = @title, brief = @brief, place = @place, link = @link, starts_at = @starts_at,
       ends_at = @ends_at, seats = @seats, floor = @floor, mixed = @mixed WHERE id = @id`,
  )
  const placeTopic = db.prepare<[number, number]>('UPDATE topic SET position = ? WHERE id = ?')
  const setRemoved = db.prepare<[Instant | null, number]>('UPDATE topic SET removed_at = ? WHERE id = ?')
  const groupsOf = db.prepare<[number], Group>(
    `${GROUP} WHERE l.sheet_id = ? AND l.removed_at IS NULL ORDER BY g.id`,
  )
  const everyGroup = db.prepare<[number], Group>(`${GROUP} WHERE l.sheet_id = ? ORDER BY g.id`)
  const everyTopic = db.prepare<[number], Topic>(`${TOPIC} WHERE sheet_id = ? ORDER BY position, id`)
  const groupByCode = db.prepare<[string], Group>(`${GROUP} WHERE g.code = ?`)
  const groupById = db.prepare<[number], Group>(`${GROUP} WHERE g.id = ?`)
  const topicById = db.prepare<[number], Topic>(`${TOPIC} WHERE id = ?`)
  const addGroup = db.prepare<[string, number, number | null]>(
    'INSERT INTO sheet_group (code, topic_id, section_id) VALUES (?, ?, ?)',
  )
  const placesOf = db.prepare<[number], { id: number; section_id: number | null }>(
    'SELECT id, section_id FROM sheet_group WHERE topic_id = ?',
  )
  const setGroupRemoved = db.prepare<[{ at: Instant | null; id: number }]>(
    'UPDATE sheet_group SET removed_at = iif(@at IS NULL, NULL, ifnull(removed_at, @at)) WHERE id = @id',
  )
  const changeGroup = db.prepare(
    `UPDATE sheet_group SET offered = @offered, seats = @own_seats, floor = @own_floor, place = @own_place,
       link = @own_link, starts_at = @own_starts_at, ends_at = @own_ends_at WHERE id = @id`,
  )
  const nameConvener = db.prepare<[number | null, number]>(
    'UPDATE sheet_group SET convener_id = ? WHERE id = ?',
  )
  const groupCodes = db.prepare<[number], { id: number; code: string }>(
    'SELECT g.id, g.code FROM sheet_group g JOIN topic t ON t.id = g.topic_id WHERE t.sheet_id = ?',
  )
  const heldOnSheet = db.prepare<[number], HeldSeat>(
    `${HELD} JOIN sheet_group g ON g.id = h.group_id JOIN topic t ON t.id = g.topic_id WHERE t.sheet_id = ? ORDER BY h.id`,
  )
  const heldIn = db.prepare<[number], HeldSeat>(`${HELD} WHERE h.group_id = ? ORDER BY h.id`)
  const holdSeat = db.prepare<[string, number, number | null, string, Instant]>(
    'INSERT INTO held_seat (code, group_id, enrolment_id, note, created_at) VALUES (?, ?, ?, ?, ?)',
  )
  const freeSeat = db.prepare<[number]>('DELETE FROM held_seat WHERE id = ?')
  const takeUpHeld = db.prepare<[number, number]>(
    'DELETE FROM held_seat WHERE group_id = ? AND enrolment_id = ?',
  )

  const tutorsOf = db.prepare<[number], { group_id: number; enrolment_id: number }>(
    `SELECT gt.group_id, gt.enrolment_id FROM group_tutor gt JOIN sheet_group g ON g.id = gt.group_id
     JOIN topic t ON t.id = g.topic_id WHERE t.sheet_id = ? ORDER BY gt.enrolment_id`,
  )
  const dropTutors = db.prepare<[number]>('DELETE FROM group_tutor WHERE group_id = ?')
  const addTutor = db.prepare<[number, number]>(
    'INSERT INTO group_tutor (group_id, enrolment_id) VALUES (?, ?)',
  )

  return {
    /** The sheet's topics in their order, removed ones left out. */
    topics: keep((sheetId: number) => topicsOf.all(sheetId)),
    /** A topic of the sheet by its code, removed or not. */
    topic: (sheetId: number, code: string) => topicByCode.get(sheetId, code),
    /** Adds a topic at the end, with a group in each of these places: sections, or null for all of them together. */
    addTopic(sheetId: number, fields: TopicFields, places: readonly (number | null)[], now: Instant): Topic {
      const code = newCode()
      const position = (lastPosition.get(sheetId) ?? 0) + 1
      const { lastInsertRowid } = addTopic.run({ ...fields, code, sheetId, position, now })
      for (const section of places) addGroup.run(newCode(), Number(lastInsertRowid), section)
      return topicByCode.get(sheetId, code) as Topic
    },
    changeTopic(id: number, fields: TopicFields): void {
      changeTopic.run({ ...fields, id })
    },
    /** Puts topics in the order given, from position 1. */
    orderTopics(ids: readonly number[]): void {
      ids.forEach((id, index) => {
        placeTopic.run(index + 1, id)
      })
    },
    /** Gives a topic a group in exactly these places. Groups that it had there before come back as they were. */
    spreadTopic(id: number, places: readonly (number | null)[], now: Instant): void {
      const there = placesOf.all(id)
      for (const group of there)
        setGroupRemoved.run({ at: places.includes(group.section_id) ? null : now, id: group.id })
      for (const place of places)
        if (!there.some(({ section_id }) => section_id === place)) addGroup.run(newCode(), id, place)
    },
    removeTopic: (id: number, now: Instant) => setRemoved.run(now, id),
    restoreTopic: (id: number) => setRemoved.run(null, id),
    /** The sheet's groups with what holds for them, those of removed topics left out. */
    groups: keep((sheetId: number) => groupsOf.all(sheetId)),
    /** Every group and topic the sheet ever had, removed ones included. */
    everyGroup: (sheetId: number) => everyGroup.all(sheetId),
    everyTopic: (sheetId: number) => everyTopic.all(sheetId),
    group: keep((code: string) => groupByCode.get(code)),
    groupById: keep((id: number) => groupById.get(id)),
    topicById: keep((id: number) => topicById.get(id)),
    changeGroup(id: number, exception: GroupException): void {
      changeGroup.run({ ...exception, id })
    },
    nameConvener: (groupId: number, enrolmentId: number | null) => nameConvener.run(enrolmentId, groupId),
    /** Every group the sheet ever had, removed topics included: id to code. */
    groupCodes: keep(
      (sheetId: number): ReadonlyMap<number, string> =>
        new Map(groupCodes.all(sheetId).map(({ id, code }) => [id, code])),
    ),
    /** Who looks after which group of a sheet. */
    tutors: (sheetId: number) => tutorsOf.all(sheetId),
    /** Puts a group into the care of exactly these. */
    setTutors(groupId: number, enrolmentIds: readonly number[]): void {
      dropTutors.run(groupId)
      for (const id of enrolmentIds) addTutor.run(groupId, id)
    },
    heldOnSheet: keep((sheetId: number) => heldOnSheet.all(sheetId)),
    heldIn: keep((groupId: number) => heldIn.all(groupId)),
    holdSeat: (groupId: number, enrolmentId: number | null, note: string, now: Instant) =>
      holdSeat.run(newCode(), groupId, enrolmentId, note, now),
    freeSeat: (id: number) => freeSeat.run(id),
    /** Ends what was held for somebody in a group, because the seat is taken by them. */
    takeUpHeld: (groupId: number, enrolmentId: number) => takeUpHeld.run(groupId, enrolmentId),
  }
}
