import { limitOf } from '../../contract/fields.ts'
import type { NewSheet, SheetChanges } from '../../contract/sheets.ts'
import { counted } from '../../core/counted.ts'
import { EXTRAS } from '../../core/extras.ts'
import { msOf } from '../../core/instant.ts'
import { showsMoreNames } from '../../core/rules.ts'
import { sheetState, windowFault } from '../../core/window.ts'
import { sayInstant } from '../../core/zone.ts'
import { fieldProblem, ProblemError } from '../http/problem.ts'
import { leavePlace } from '../seats/places.ts'
import type { LinePlace } from '../seats/store.ts'
import { addTask } from '../tasks/edits.ts'
import { askFirst, differences, type Edit, fitSeated, instantOf, note, settleLimits } from './edit.ts'
import { refuseMeanwhile, sheetAsSent } from './meanwhile.ts'
import type { Sheet, SheetFields } from './store.ts'
import { addTopics, spreadTopics } from './topicEdits.ts'
import type { Group } from './topicStore.ts'
import { setWhom, whomFields } from './whom.ts'
import { windowOf } from './window.ts'

/** Changes a sheet's own fields: texts, common numbers, window, house rules. */
export function changeSheet(edit: Edit, changes: SheetChanges): void {
  const { sheet, stores, course } = edit
  refuseMeanwhile(sheetAsSent(sheet, course.zone), changes, changes.was)
  const next: SheetFields = {
    title: changes.title ?? sheet.title,
    instructions: changes.instructions ?? sheet.instructions,
    contact: changes.contact ?? sheet.contact,
    seats: changes.seats === undefined ? sheet.seats : limitOf(changes.seats),
    floor: changes.floor ?? sheet.floor,
    seats_each: changes.seatsEach ?? sheet.seats_each,
    changing: changes.changing ?? sheet.changing,
    names: changes.names ?? sheet.names,
    offers: changes.offers ?? sheet.offers,
    full_groups: changes.fullGroups ?? sheet.full_groups,
    other_lines: changes.otherLines ?? sheet.other_lines,
    convener: changes.convener ?? sheet.convener,
    invitations: changes.invitations ?? sheet.invitations,
    convener_may: changes.convenerMay ?? sheet.convener_may,
    at_close: changes.atClose ?? sheet.at_close,
    late: changes.late ?? sheet.late,
    late_from: changes.lateFrom ?? sheet.late_from,
    late_full: changes.lateFull ?? sheet.late_full,
    road: changes.road ?? sheet.road,
    wishes_least: changes.wishesLeast ?? sheet.wishes_least,
    wishes_most: changes.wishesMost ?? sheet.wishes_most,
    cannot_most: changes.cannotMost ?? sheet.cannot_most,
    mates_most: changes.matesMost ?? sheet.mates_most,
    wish_worth: changes.wishWorth ?? sheet.wish_worth,
    aim: changes.aim ?? sheet.aim,
    swaps: changes.swaps ?? sheet.swaps,
    mixed: changes.mixed === undefined ? sheet.mixed : changes.mixed ? 1 : 0,
    ...whomFields(edit, changes),
    nudges_a_day: changes.nudgesADay ?? sheet.nudges_a_day,
    visible_before:
      changes.visibleBefore === undefined ? sheet.visible_before : changes.visibleBefore ? 1 : 0,
    opens_at: instantOf(edit, 'opensAt', changes.opensAt, sheet.opens_at, changes.whichOpens),
    closes_at: instantOf(edit, 'closesAt', changes.closesAt, sheet.closes_at, changes.whichCloses),
  }
  if (next.road === 'made' && sheet.published_at !== null) endWindow(edit, next)
  checkWindow(edit, next, changes)
  checkWishes(next, changes)
  const confirmed = changes.confirmed === true
  askAboutRules(edit, next, confirmed)
  takeRoad(edit, next, confirmed)
  const sectionsBefore = sectionNames(edit)
  setWhom(edit, next, changes, confirmed)
  const followers = new Set(
    stores.sheets
      .topics(sheet.id)
      .filter(({ seats }) => seats === null)
      .map(({ id }) => id),
  )
  const groups = stores.sheets
    .groups(sheet.id)
    .filter(({ topic_id, own_seats }) => own_seats === null && followers.has(topic_id))
  const limitAfter = (_: Group) => next.seats
  fitSeated(edit, groups, limitAfter, confirmed)
  stores.sheets.change(sheet.id, next)
  settleLimits(edit, groups, limitAfter)
  const sections = sectionNames(edit)
  note(edit, 'sheet-changed', {
    ...differences(sheet, next),
    ...(sections !== sectionsBefore && { sections_for: [sectionsBefore, sections] }),
  })
  if (next.mixed !== sheet.mixed) {
    const follow = stores.sheets.topics(sheet.id).filter(({ mixed }) => mixed === null)
    spreadTopics(edit, follow, next.mixed, changes)
  }
  // A rule for the close that is set after it is meant for the next one.
  const closed = sheetState(windowOf({ ...sheet, ...next }), edit.now) === 'closed'
  if (closed && next.closes_at !== null && next.at_close !== sheet.at_close) {
    stores.plans.close(sheet.id, next.closes_at, edit.now, null)
  }
}

/** For which sections the sheet is, by name; empty where it is not for some. */
function sectionNames({ sheet, course, stores }: Edit): string {
  const names = stores.roster.sectionNames(course.id)
  return stores.sheets
    .sectionsFor(sheet.id)
    .map((id) => names.get(id) ?? '')
    .join(', ')
}

/** How many topics are ranked at least cannot be more than how many at most; beside the field that was changed. */
function checkWishes({ wishes_least, wishes_most }: SheetFields, changes: SheetChanges): void {
  if (wishes_least <= wishes_most) return
  const field = changes.wishesMost === undefined ? 'wishesLeast' : 'wishesMost'
  const message = `A list would need ${wishes_least} topics and could have ${wishes_most}. Change the other number first.`
  throw fieldProblem(field, message)
}

function checkWindow({ sheet, course }: Edit, next: SheetFields, changes: SheetChanges): void {
  if (next.opens_at !== null && next.closes_at !== null && windowFault(next.opens_at, next.closes_at)) {
    const field = changes.closesAt === undefined ? 'opensAt' : 'closesAt'
    const [opens, closes] = [sayInstant(next.opens_at, course.zone), sayInstant(next.closes_at, course.zone)]
    const message = `It would open ${opens} and close ${closes}. The closing time has to come after the opening time.`
    throw fieldProblem(field, message, 'window-closes-before-opening')
  }
  if (sheet.published_at !== null && next.closes_at === null) {
    throw fieldProblem('closesAt', 'The sheet is out, so it needs a closing time.')
  }
}

/** Asks before a rule changes in a way that people who already sit there would notice. */
function askAboutRules(edit: Edit, next: SheetFields, confirmed: boolean): void {
  const { sheet, stores } = edit
  const seats = stores.seats.ofSheet(sheet.id)
  const everybody = seats.map(({ enrolment_id }) => enrolment_id)
  if (showsMoreNames(sheet.names, next.names)) {
    askFirst(
      edit,
      confirmed,
      everybody,
      'The names of those who sit there already would be shown to more people.',
    )
  }
  if (next.changing !== sheet.changing && next.changing !== 'until-close') {
    askFirst(edit, confirmed, everybody, 'Those who sit there already could no longer move by themselves.')
  }
  if (next.seats_each < sheet.seats_each) {
    const held = new Map<number, number>()
    for (const id of everybody) held.set(id, (held.get(id) ?? 0) + 1)
    const more = [...held].filter(([, n]) => n > next.seats_each).map(([id]) => id)
    const words = `${counted(more.length, 'student holds', 'students hold')} more seats than that. They keep them, and can take no further one.`
    askFirst(edit, confirmed, more, words)
  }
  if (sheet.full_groups === 'line' && next.full_groups === 'full') {
    const places = stores.seats.lines(sheet.id)
    const waiting = places.map(({ enrolment_id }) => enrolment_id)
    askFirst(edit, confirmed, waiting, 'Some wait in line for a seat. They lose their places.')
    endLines(edit, places)
  }
  if (sheet.offers === 'course' && next.offers === 'section') {
    const groups = new Map(stores.sheets.groups(sheet.id).map(({ id, section_id }) => [id, section_id]))
    const across = everybody.filter((id, i) => {
      const section = groups.get(seats[i]?.group_id ?? 0) ?? null
      return section !== null && stores.roster.enrolment(id)?.section_id !== section
    })
    askFirst(
      edit,
      confirmed,
      across,
      'Some sit in a group of another section. They keep their seats; nobody else can follow.',
    )
  }
}

function endLines({ sheet, person, now, stores }: Edit, places: readonly LinePlace[]): void {
  for (const { group_id, enrolment_id } of places) {
    const at = { sheetId: sheet.id, groupId: group_id, enrolmentId: enrolment_id, actorId: person.id }
    leavePlace(at, 'lines-ended', now, stores)
  }
}

/** Groups that are made are there once they are published: the window ends with that, and no rule waits for its end. */
function endWindow({ sheet, stores, now }: Edit, next: SheetFields): void {
  if (next.closes_at !== null && next.closes_at <= now) return
  next.closes_at = now
  if (next.opens_at !== null && next.opens_at >= now) next.opens_at = null
  stores.plans.close(sheet.id, now, now, null)
}

/** Asks before seats are given in another way; whoever waits for a seat does so no longer, lists of wishes stay. */
function takeRoad(edit: Edit, next: SheetFields, confirmed: boolean): void {
  const { sheet, stores } = edit
  if (next.road === sheet.road) return
  const seated = stores.seats.ofSheet(sheet.id).map(({ enrolment_id }) => enrolment_id)
  if (sheet.road === 'wished') {
    const ranked = stores.wishes.ofSheet(sheet.id).map(({ enrolment_id }) => enrolment_id)
    const words =
      'Who has ranked topics did it for nothing as long as seats are not given by wishes. The lists stay.'
    askFirst(edit, confirmed, ranked, words)
  }
  if (next.road === 'wished') {
    const places = stores.seats.lines(sheet.id)
    const waiting = places.map(({ enrolment_id }) => enrolment_id)
    const words =
      'Nobody takes, moves or gives up a seat by themselves any more: they rank topics, and seats are given after the close. Who has a seat keeps it; nobody waits in line.'
    askFirst(edit, confirmed, [...seated, ...waiting], words)
    endLines(edit, places)
    return
  }
  if (next.road === 'chosen') {
    const words = 'They keep their seats, and could change them by the rules once there is a window.'
    askFirst(edit, confirmed, seated, words)
    return
  }
  const places = stores.seats.lines(sheet.id)
  const waiting = places.map(({ enrolment_id }) => enrolment_id)
  askFirst(
    edit,
    confirmed,
    [...seated, ...waiting],
    'Students would choose no more. Who has a seat keeps it; nobody takes, moves or gives one up, and nobody waits in line.',
  )
  endLines(edit, places)
}

/**
 * Makes the sheet visible. It opens at its opening time, or at once when none is set; made groups are there at once.
 * @returns false where it was out already
 */
export function publish(edit: Edit): boolean {
  const { sheet, stores, now } = edit
  if (sheet.published_at !== null) return false
  const missing: string[] = []
  const empty = stores.sheets.topics(sheet.id).length === 0
  if (sheet.road === 'made') {
    if (empty)
      throw new ProblemError('sheet-not-ready', 'Make the groups first, in Settle: there are none yet.')
    const next = { ...sheet }
    endWindow(edit, next)
    stores.sheets.change(sheet.id, next)
    stores.sheets.publish(sheet.id, now)
    note(edit, 'sheet-published', {})
    return true
  }
  if (empty) missing.push('Add a topic: there is nothing to choose yet.')
  if (sheet.closes_at === null) missing.push('Say when it closes.')
  else if (msOf(sheet.closes_at) <= msOf(now))
    missing.push('The closing time has passed. Choose a later one.')
  if (missing.length > 0) throw new ProblemError('sheet-not-ready', missing.join(' '))
  if (sheet.opens_at === null) stores.sheets.change(sheet.id, { ...sheet, opens_at: now })
  stores.sheets.publish(sheet.id, now)
  note(edit, 'sheet-published', {})
  return true
}

/** Takes a published sheet back to a draft, once confirmed where somebody sits on it. Groups that are made have no window. */
export function withdraw(edit: Edit, confirmed: boolean): void {
  const { sheet, stores } = edit
  if (sheet.published_at === null) return
  const seated = stores.seats.ofSheet(sheet.id).map(({ enrolment_id }) => enrolment_id)
  const words = 'They keep their seats, and do not see the sheet until it is published again.'
  askFirst(edit, confirmed, seated, words)
  if (sheet.road === 'made') stores.sheets.change(sheet.id, { ...sheet, closes_at: null })
  stores.sheets.withdraw(sheet.id)
  note(edit, 'sheet-withdrawn', {})
}

/** Puts the sheet away, or takes it out again. */
export function archive(edit: Edit, archived: boolean): void {
  if ((edit.sheet.archived_at !== null) === archived) return
  edit.stores.sheets.archive(edit.sheet.id, archived ? edit.now : null)
  note(edit, archived ? 'sheet-archived' : 'sheet-unarchived', {})
}

/** Deletes the sheet for everybody, or brings it back. */
export function setDeleted(edit: Edit, deleted: boolean): void {
  if ((edit.sheet.deleted_at !== null) === deleted) return
  edit.stores.sheets.setDeleted(edit.sheet.id, deleted ? edit.now : null)
  note(edit, deleted ? 'sheet-deleted' : 'sheet-restored', {})
}

/** Gives a new sheet what it begins with besides its title. */
export function begin(
  edit: Edit,
  { title: _, topics, extras, firstSubject, firstTask, ...chosen }: NewSheet,
): Sheet {
  const { sheet, course, person, stores } = edit
  if (Object.values(chosen).some((value) => value !== undefined)) changeSheet(edit, chosen)
  const current = stores.sheets.byId(sheet.id) ?? sheet
  const writer = stores.roster.enrolmentIn(course.id, person.id)
  if (firstSubject && writer)
    stores.sheets.setFirstSubject(sheet.id, JSON.stringify({ ...firstSubject, byId: writer.id }))
  if (firstTask) addTask({ ...edit, sheet: current }, { ...firstTask, out: true })
  if (topics?.length)
    addTopics(
      { ...edit, sheet: current },
      topics.map((title) => ({ title })),
    )
  if (extras) {
    const before = stores.groups.extras(sheet.id)
    const on = Object.fromEntries(EXTRAS.map((extra) => [extra, extras.includes(extra)]))
    stores.groups.setExtras(sheet.id, { ...before, ...on })
  }
  return current
}
