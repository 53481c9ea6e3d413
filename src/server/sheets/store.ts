import type { Instant } from '../../core/instant.ts'
import type {
  AtClose,
  Changing,
  ConvenerMay,
  ConvenerRule,
  ForWhom,
  FullGroups,
  HouseRules,
  InvitationRule,
  LateFrom,
  LateFull,
  LateRule,
  NamesShown,
  Offers,
  OtherLines,
  Road,
  SwapRule,
  WishWorth,
} from '../../core/rules.ts'
import type { WishAim } from '../../core/wishes/types.ts'
import { newCode, newLinkCode, newLotNumber } from '../codes.ts'
import { createKeeper } from '../db/kept.ts'
import type { Db } from '../db/open.ts'
import { createTopicStore } from './topicStore.ts'

export interface Sheet {
  id: number
  code: string
  link: string
  course_id: number
  title: string
  instructions: string
  contact: string
  /** The common limit (0: no limit) and the common floor. */
  seats: number
  floor: number
  seats_each: number
  changing: Changing
  names: NamesShown
  offers: Offers
  full_groups: FullGroups
  other_lines: OtherLines
  convener: ConvenerRule
  invitations: InvitationRule
  convener_may: ConvenerMay
  at_close: AtClose
  late: LateRule
  late_from: LateFrom
  late_full: LateFull
  nudges_a_day: number
  lot_number: number
  visible_before: 0 | 1
  road: Road
  wishes_least: number
  wishes_most: number
  cannot_most: number
  mates_most: number
  wish_worth: WishWorth
  aim: WishAim
  swaps: SwapRule
  /** Whether topics have one group for all sections, where they say nothing else. */
  mixed: 0 | 1
  for_whom: ForWhom
  /** The list of people it is for, where it is for one. */
  list_id: number | null
  opens_at: Instant | null
  closes_at: Instant | null
  published_at: Instant | null
  archived_at: Instant | null
  deleted_at: Instant | null
}

/** What an instructor sets on a sheet. */
export type SheetFields = Pick<
  Sheet,
  | 'title'
  | 'instructions'
  | 'contact'
  | 'seats'
  | 'floor'
  | 'seats_each'
  | 'changing'
  | 'names'
  | 'offers'
  | 'full_groups'
  | 'other_lines'
  | 'convener'
  | 'invitations'
  | 'convener_may'
  | 'at_close'
  | 'late'
  | 'late_from'
  | 'late_full'
  | 'nudges_a_day'
  | 'visible_before'
  | 'road'
  | 'wishes_least'
  | 'wishes_most'
  | 'cannot_most'
  | 'mates_most'
  | 'wish_worth'
  | 'aim'
  | 'swaps'
  | 'mixed'
  | 'for_whom'
  | 'list_id'
  | 'opens_at'
  | 'closes_at'
>

export type SheetStore = ReturnType<typeof createSheetStore>

const SHEET = `SELECT id, code, link, course_id, title, instructions, contact, seats, floor, seats_each, changing, names,
  offers, full_groups, other_lines, convener, invitations, convener_may, at_close, late, late_from, late_full, nudges_a_day, lot_number, visible_before, road, mixed,
  wishes_least, wishes_most, cannot_most, mates_most, wish_worth, aim, swaps, for_whom, list_id, opens_at, closes_at, published_at, archived_at, deleted_at FROM sheet`

/** Sheets with their topics and groups. */
export function createSheetStore(database: Db) {
  const keeper = createKeeper(database)
  const { db, keep } = keeper
  const byId = db.prepare<[number], Sheet>(`${SHEET} WHERE id = ?`)
  const byCode = db.prepare<[string], Sheet>(`${SHEET} WHERE code = ? AND deleted_at IS NULL`)
  const deleted = db.prepare<[string], Sheet>(`${SHEET} WHERE code = ? AND deleted_at IS NOT NULL`)
  const byLink = db.prepare<[string], Sheet>(`${SHEET} WHERE link = ? AND deleted_at IS NULL`)
  const ofCourse = db.prepare<[number], Sheet>(
    `${SHEET} WHERE course_id = ? AND deleted_at IS NULL ORDER BY id DESC`,
  )
  // The conditions are those of the index, so that it is used.
  const closed = db.prepare<[Instant], Sheet>(
    `${SHEET} WHERE closes_at <= ? AND closes_at IS NOT NULL AND published_at IS NOT NULL AND archived_at IS NULL
       AND deleted_at IS NULL AND (at_close <> 'leave' OR late <> 'leave') ORDER BY id`,
  )
  const withSwaps = db.prepare<[], number>("SELECT id FROM sheet WHERE swaps = 'offered'").pluck()
  const openToLate = db.prepare<[Instant, Instant], Sheet>(
    `${SHEET} WHERE opens_at <= ? AND opens_at IS NOT NULL AND published_at IS NOT NULL AND archived_at IS NULL
       AND deleted_at IS NULL AND late = 'seat' AND late_from = 'opening' AND (closes_at IS NULL OR closes_at > ?)
     ORDER BY id`,
  )
  const add = db.prepare<[string, string, number, string, string, number, number, number, Instant]>(
    `INSERT INTO sheet (code, link, course_id, title, contact, seats, floor, lot_number, created_at)
     VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`,
  )
  const change = db.prepare(
    `UPDATE sheet SET title = @title, instructions = @instructions, contact = @contact, seats = @seats, floor = @floor,
       seats_each = @seats_each, changing = @changing, names = @names, offers = @offers, full_groups = @full_groups, other_lines = @other_lines,
       convener = @convener, invitations = @invitations, convener_may = @convener_may, at_close = @at_close, late = @late, late_from = @late_from, late_full = @late_full, nudges_a_day = @nudges_a_day,
       visible_before = @visible_before, road = @road, mixed = @mixed,
       wishes_least = @wishes_least, wishes_most = @wishes_most, cannot_most = @cannot_most, mates_most = @mates_most, wish_worth = @wish_worth, aim = @aim, swaps = @swaps, for_whom = @for_whom, list_id = @list_id, opens_at = @opens_at, closes_at = @closes_at WHERE id = @id`,
  )
  const sectionsOf = db
    .prepare<[number], number>('SELECT section_id FROM sheet_section WHERE sheet_id = ? ORDER BY section_id')
    .pluck()
  const dropSections = db.prepare<[number]>('DELETE FROM sheet_section WHERE sheet_id = ?')
  const addSection = db.prepare<[number, number]>(
    'INSERT INTO sheet_section (sheet_id, section_id) VALUES (?, ?)',
  )
  const publish = db.prepare<[Instant | null, number]>('UPDATE sheet SET published_at = ? WHERE id = ?')
  const firstSubject = db
    .prepare<[number], string | null>('SELECT first_subject FROM sheet WHERE id = ?')
    .pluck()
  const setFirstSubject = db.prepare<[string, number]>('UPDATE sheet SET first_subject = ? WHERE id = ?')
  const archive = db.prepare<[Instant | null, number]>('UPDATE sheet SET archived_at = ? WHERE id = ?')
  const setDeleted = db.prepare<[Instant | null, number]>('UPDATE sheet SET deleted_at = ? WHERE id = ?')

  return {
    ...createTopicStore(keeper),
    byId: keep((id: number) => byId.get(id)),
    /** A sheet by its code; one that is deleted is not found. */
    byCode: keep((code: string) => byCode.get(code)),
    deleted: (code: string) => deleted.get(code),
    byLink: (link: string) => byLink.get(link),
    /** The course's sheets, newest first, deleted ones left out. */
    ofCourse: (courseId: number) => ofCourse.all(courseId),
    /** Sheets that have closed and have a house rule for that, or for late enrolments. */
    closedWithRules: (now: Instant) => closed.all(now),
    /** Sheets that are open, and seat whoever joins the course. */
    openToLate: (now: Instant) => openToLate.all(now, now),
    /** Ids of sheets whose seats can be swapped. */
    withSwaps: () => withSwaps.all(),
    add(courseId: number, fields: Pick<Sheet, 'title' | 'contact' | 'seats' | 'floor'>, now: Instant): Sheet {
      const { title, contact, seats, floor } = fields
      const codes = [newCode(), newLinkCode()] as const
      const { lastInsertRowid } = add.run(
        ...codes,
        courseId,
        title,
        contact,
        seats,
        floor,
        newLotNumber(),
        now,
      )
      return byId.get(Number(lastInsertRowid)) as Sheet
    },
    change(id: number, fields: SheetFields): void {
      change.run({ ...fields, id })
    },
    /** The sections a sheet is for, where it is for some alone. */
    sectionsFor: keep((id: number) => sectionsOf.all(id)),
    setSectionsFor(id: number, sections: readonly number[]): void {
      dropSections.run(id)
      for (const section of sections) addSection.run(id, section)
    },
    /** Takes a sheet back to a draft. */
    withdraw: (id: number) => publish.run(null, id),
    publish: (id: number, now: Instant) => publish.run(now, id),
    /** Puts a sheet away, or takes it out again with null. */
    /** The subject that the first groups get, as JSON; null for none. */
    firstSubject: (id: number) => firstSubject.get(id) ?? null,
    setFirstSubject: (id: number, subject: string) => setFirstSubject.run(subject, id),
    archive: (id: number, at: Instant | null) => archive.run(at, id),
    /** Deletes a sheet for everybody, or brings it back with null. Its rows stay. */
    setDeleted: (id: number, at: Instant | null) => setDeleted.run(at, id),
  }
}

/** A sheet's house rules in the core's words. */
export function rulesOf(sheet: Sheet): HouseRules {
  const {
    seats_each,
    changing,
    names,
    offers,
    full_groups,
    other_lines,
    convener,
    invitations,
    convener_may,
    at_close,
    late,
    late_from,
    late_full,
    road,
    wishes_least,
    wishes_most,
    cannot_most,
    mates_most,
    wish_worth,
    aim,
    swaps,
  } = sheet
  return {
    road,
    seatsEach: seats_each,
    changing,
    names,
    offers,
    fullGroups: full_groups,
    otherLines: other_lines,
    convener,
    invitations,
    convenerMay: convener_may,
    atClose: at_close,
    late,
    lateFrom: late_from,
    lateFull: late_full,
    wishesLeast: wishes_least,
    wishesMost: wishes_most,
    cannotMost: cannot_most,
    matesMost: mates_most,
    wishWorth: wish_worth,
    aim,
    swaps,
  }
}
