import { limitOf, type SentLimit } from '../../contract/fields.ts'
import type { Restored } from '../../contract/restored.ts'
import type { GroupChanges, NewTopic, TopicChanges } from '../../contract/topics.ts'
import { counted } from '../../core/counted.ts'
import { NO_LIMIT } from '../../core/limit.ts'
import { LIMITS } from '../../core/limits.ts'
import { fieldProblem, ProblemError, within } from '../http/problem.ts'
import { bringBack } from '../seats/bringBack.ts'
import { openFirst } from '../talk/shared.ts'
import { askFirst, differences, type Edit, fitSeated, note, settleLimits, slotOf, unseat } from './edit.ts'
import { holdIn } from './heldSeats.ts'
import { groupAsSent, refuseMeanwhile, topicAsSent } from './meanwhile.ts'
import { setApart } from './newGroups.ts'
import type { Group, GroupException, Topic, TopicFields } from './topicStore.ts'

/**
 * Adds topics at the end of the sheet, each with its groups, in which the subjects stand that all groups have.
 * @param list where the topics stand in the body, for what is said of one of them; left out where it is the body
 */
export function addTopics(edit: Edit, topics: readonly NewTopic[], list?: string): Topic[] {
  const { sheet, stores, now } = edit
  if (stores.sheets.topics(sheet.id).length + topics.length > LIMITS.topics) {
    throw new ProblemError(
      'topic-limit-reached',
      `A sheet holds ${LIMITS.topics} topics. Start a second sheet for more.`,
    )
  }
  const before = stores.sheets.groups(sheet.id)
  const added = topics.map((given, i) => {
    const mixed = sentMixed(given.mixed, null)
    const fields: TopicFields = {
      mixed,
      title: given.title,
      brief: given.brief ?? '',
      place: given.place ?? '',
      link: given.link ?? '',
      seats: limitOf(given.seats ?? null),
      floor: given.floor ?? null,
      ...within(partOf(list, i), () => slotOf(edit, given, { starts_at: null, ends_at: null })),
    }
    const topic = stores.sheets.addTopic(sheet.id, fields, placesOf(edit, mixed ?? sheet.mixed), now)
    note(edit, 'topic-added', { topic: topic.code, title: topic.title })
    return topic
  })
  setApart(
    edit,
    added.map((topic, i) => ({ topic, groups: topics[i]?.groups ?? [], part: partOf(list, i) })),
  )
  openInNew(edit, before)
  return added
}

const partOf = (list: string | undefined, i: number) => (list === undefined ? '' : `${list}[${i}]`)

/**
 * Adds a topic that has one group, in one section; those of the other sections can be offered later.
 * @throws ProblemError beside `only`, where the course has no such section
 */
export function addInSection(edit: Edit, given: NewTopic, code: string): void {
  const section = edit.stores.roster.sections(edit.course.id).find((one) => one.code === code)
  if (!section) throw fieldProblem('only', 'The course has no such section any more. Load the page anew.')
  const [topic] = addTopics(edit, [{ ...given, mixed: false }])
  for (const group of topic ? groupsOf(edit, topic) : [])
    if (group.section_id !== section.id) changeGroup(edit, group, { offered: false })
}

/** Opens in the groups that were not there before what they are to have. */
export function openInNew(
  { sheet, stores, now }: Pick<Edit, 'sheet' | 'stores' | 'now'>,
  before: readonly Group[],
): void {
  const known = new Set(before.map(({ id }) => id))
  const added = stores.sheets.groups(sheet.id).filter(({ id }) => !known.has(id))
  openFirst(sheet.id, before, added, now, stores)
}

/**
 * Changes a topic. Seated people stay: past a lowered limit the newest seats become extra seats, once confirmed.
 * @returns who sits there again, where that was asked for
 */
export function changeTopic(edit: Edit, topic: Topic, changes: TopicChanges): Restored | undefined {
  const { sheet, stores, course } = edit
  refuseMeanwhile(topicAsSent(topic, course.zone), changes, changes.was)
  const next: TopicFields = {
    mixed: sentMixed(changes.mixed, topic.mixed),
    title: changes.title ?? topic.title,
    brief: changes.brief ?? topic.brief,
    place: changes.place ?? topic.place,
    link: changes.link ?? topic.link,
    seats: changes.seats === undefined ? topic.seats : limitOf(changes.seats),
    floor: changes.floor === undefined ? topic.floor : changes.floor,
    ...slotOf(edit, changes, topic),
  }
  const groups = groupsOf(edit, topic).filter(({ own_seats }) => own_seats === null)
  const limitAfter = (_: Group) => next.seats ?? sheet.seats
  fitSeated(edit, groups, limitAfter, changes.confirmed === true)
  stores.sheets.changeTopic(topic.id, next)
  settleLimits(edit, groups, limitAfter)
  note(edit, 'topic-changed', { topic: topic.code, ...differences(topic, next) })
  return spreadTopics(edit, [topic], next.mixed ?? sheet.mixed, changes)
}

/** The places in which a topic has groups: null for all sections together. */
export function placesOf({ stores, course }: Edit, mixed: 0 | 1): (number | null)[] {
  const sections = stores.roster.sections(course.id)
  return mixed === 1 || sections.length === 0 ? [null] : sections.map(({ id }) => id)
}

/** Whether a topic is mixed, as it is sent: undefined leaves it, null follows the sheet. */
function sentMixed(sent: boolean | null | undefined, before: 0 | 1 | null): 0 | 1 | null {
  if (sent === undefined) return before
  return sent === null ? null : sent ? 1 : 0
}

/**
 * Gives topics one group for everybody, or one in each section. Who sits in a group that goes away loses the seat, once
 * confirmed; a group that was there before comes back as it was.
 * @returns who sits there again, where that was asked for
 */
export function spreadTopics(
  edit: Edit,
  topics: readonly Topic[],
  mixed: 0 | 1,
  { confirmed, bringBack: again }: { confirmed?: boolean | undefined; bringBack?: boolean | undefined },
): Restored | undefined {
  const { sheet, stores, person, now } = edit
  const places = placesOf(edit, mixed)
  const gone = topics.flatMap((topic) =>
    groupsOf(edit, topic).filter(({ section_id }) => !places.includes(section_id)),
  )
  if (gone.length === 0) return undefined
  const seated = gone.flatMap(({ id }) => stores.seats.ofGroup(id)).map(({ enrolment_id }) => enrolment_id)
  const sits = counted(seated.length, 'person sits', 'people sit')
  askFirst(
    edit,
    confirmed === true,
    seated,
    `${sits} in groups that go away, and would have no group.${workWords(edit, gone)}`,
  )
  unseat(edit, gone, SPREAD)
  const before = stores.sheets.groups(sheet.id)
  const turned = topics.filter(({ id }) => gone.some(({ topic_id }) => topic_id === id))
  for (const { id } of turned) stores.sheets.spreadTopic(id, places, now)
  openInNew(edit, before)
  if (!again) return undefined
  const back = turned.flatMap((topic) => groupsOf(edit, topic))
  return bringBack({ sheet, actorId: person.id, now, stores }, back, SPREAD)
}

/** Why somebody lost a seat whose group went away because its topic is mixed, or is not any more. */
const SPREAD = 'topic-spread'

/**
 * Changes the exceptions of one group. Not offered any more, its people lose their seats, once confirmed; offered
 * again, they can be brought back.
 * @returns who sits there again, where that was asked for
 */
export function changeGroup(edit: Edit, group: Group, changes: GroupChanges): Restored | undefined {
  const { sheet, stores, course, person, now } = edit
  refuseMeanwhile(groupAsSent(group, course.zone), changes, changes.was)
  const keep = <T>(given: T | undefined, before: T): T => (given === undefined ? before : given)
  const slot = slotOf(edit, changes, { starts_at: group.own_starts_at, ends_at: group.own_ends_at })
  const next: GroupException = {
    offered: changes.offered === undefined ? group.offered : changes.offered ? 1 : 0,
    own_seats: changes.seats === undefined ? group.own_seats : limitOf(changes.seats),
    own_floor: keep(changes.floor, group.own_floor),
    own_place: keep(changes.place, group.own_place),
    own_link: keep(changes.link, group.own_link),
    own_starts_at: slot.starts_at,
    own_ends_at: slot.ends_at,
  }
  const confirmed = changes.confirmed === true
  if (next.offered === 0 && group.offered === 1) {
    const seated = stores.seats.ofGroup(group.id).map(({ enrolment_id }) => enrolment_id)
    askFirst(
      edit,
      confirmed,
      seated,
      `${counted(seated.length, 'person sits', 'people sit')} there and would have no group.${workWords(edit, [group])}`,
    )
    unseat(edit, [group], 'group-not-offered')
  }
  const topic = stores.sheets.topics(sheet.id).find(({ id }) => id === group.topic_id)
  const limitAfter = (_: Group) => next.own_seats ?? topic?.seats ?? sheet.seats
  fitSeated(edit, [group], limitAfter, confirmed)
  stores.sheets.changeGroup(group.id, next)
  settleLimits(edit, [group], limitAfter)
  note(edit, 'group-changed', { group: group.code, ...differences<GroupException>(group, next) })
  if (changes.convener !== undefined) nameConvener(edit, group, changes.convener)
  if (!changes.bringBack || group.offered === 1 || next.offered === 0) return undefined
  return bringBack({ sheet, actorId: person.id, now, stores }, [group], 'group-not-offered')
}

/** Changes the limits of several groups at once, asking once for all of them. */
export function changeLimits(
  edit: Edit,
  changes: readonly { group: Group; seats: SentLimit | null; was?: SentLimit | null | undefined }[],
  confirmed: boolean,
): void {
  const { sheet, stores } = edit
  const topics = new Map(stores.sheets.topics(sheet.id).map((topic) => [topic.id, topic]))
  const own = new Map(changes.map(({ group, seats }) => [group.id, limitOf(seats)]))
  const groups = changes.map(({ group }) => group)
  for (const { group, seats, was } of changes) {
    if (was !== undefined) refuseMeanwhile(groupAsSent(group, edit.course.zone), { seats }, { seats: was })
  }
  const limitAfter = ({ id, topic_id }: Group) => own.get(id) ?? topics.get(topic_id)?.seats ?? sheet.seats
  fitSeated(edit, groups, limitAfter, confirmed)
  for (const group of groups)
    stores.sheets.changeGroup(group.id, { ...group, own_seats: own.get(group.id) ?? null })
  settleLimits(edit, groups, limitAfter)
  note(edit, 'group-changed', {
    limits: groups.map(({ id, code, seats }) => [code, seats, own.get(id) ?? null]),
  })
}

/**
 * Puts groups into the care of further people, and takes them out of that of others; whoever else looks after them goes
 * on. Whoever left, or is paused, can be taken out and not put in.
 */
export function assignTutors(
  edit: Edit,
  changes: readonly { group: Group; add: readonly string[]; remove: readonly string[] }[],
): void {
  const { stores, course, sheet } = edit
  const known = new Map(stores.roster.everybody(course.id).map((one) => [one.code, one]))
  for (const [i, { group, add, remove }] of changes.entries()) {
    const care = new Set(
      stores.sheets
        .tutors(sheet.id)
        .flatMap(({ group_id, enrolment_id }) => (group_id === group.id ? enrolment_id : [])),
    )
    for (const code of remove) care.delete(known.get(code)?.id ?? 0)
    for (const [j, code] of add.entries()) {
      const person = known.get(code)
      if (!person || person.role === 'student' || person.status !== 'active')
        throw fieldProblem(
          `changes[${i}].add[${j}]`,
          `${person?.name ?? 'That person'} is no active tutor or instructor of the course any more.`,
        )
      care.add(person.id)
    }
    stores.sheets.setTutors(group.id, [...care])
  }
  note(edit, 'tutors-assigned', {
    changes: changes.map(({ group, add, remove }) => ({ group: group.code, add, remove })),
  })
}

function nameConvener(edit: Edit, group: Group, code: string | null): void {
  const { stores, course } = edit
  const person = code === null ? null : stores.roster.everybody(course.id).find((one) => one.code === code)
  const sits = person && stores.seats.ofGroup(group.id).some(({ enrolment_id }) => enrolment_id === person.id)
  if (person === undefined || (person && !sits)) {
    throw fieldProblem('convener', 'Only somebody who sits in the group can answer for it.')
  }
  stores.sheets.nameConvener(group.id, person?.id ?? null)
  note(edit, 'convener-named', { group: group.code, person: code })
}

/** Takes a topic off the sheet; people seated there lose their seats, once confirmed. */
export function removeTopic(edit: Edit, topic: Topic, confirmed: boolean): void {
  const groups = groupsOf(edit, topic)
  const seated = groups
    .flatMap(({ id }) => edit.stores.seats.ofGroup(id))
    .map(({ enrolment_id }) => enrolment_id)
  const words = `${counted(seated.length, 'person sits', 'people sit')} at ${topic.title} and would have no group.${workWords(edit, groups)}`
  askFirst(edit, confirmed, seated, words)
  unseat(edit, groups, 'topic-removed')
  edit.stores.sheets.removeTopic(topic.id, edit.now)
  note(edit, 'topic-removed', { topic: topic.code, title: topic.title })
}

/** What becomes of work that groups have handed in; empty where none have. */
function workWords({ stores }: Edit, groups: readonly Group[]): string {
  return groups.some(({ id }) => stores.tasks.isBound(id))
    ? ' Work was handed in there: it stays, with its marks, with those it was handed in for.'
    : ''
}

/** Puts a removed topic back, with its people as far as they can return. */
export function restoreTopic(edit: Edit, topic: Topic): Restored {
  if (topic.removed_at === null) return { seated: 0, out: [] }
  const { sheet, stores, person, now } = edit
  stores.sheets.restoreTopic(topic.id)
  note(edit, 'topic-restored', { topic: topic.code, title: topic.title })
  return bringBack({ sheet, actorId: person.id, now, stores }, groupsOf(edit, topic), 'topic-removed')
}

/** Puts the topics into the order of the codes given; those not named keep their order, after them. */
export function orderTopics(edit: Edit, codes: readonly string[]): void {
  const topics = edit.stores.sheets.topics(edit.sheet.id)
  const named = [...new Set(codes)].map((code) => topics.find((topic) => topic.code === code))
  const unknown = named.indexOf(undefined)
  if (unknown >= 0)
    throw fieldProblem(`topics[${unknown}]`, 'The sheet has no such topic any more. Load the page anew.')
  const first = named.filter((topic) => topic !== undefined)
  const rest = topics.filter((topic) => !first.includes(topic))
  edit.stores.sheets.orderTopics([...first, ...rest].map(({ id }) => id))
  note(edit, 'topics-reordered', {})
}

/** Keeps a seat of a group free, for a person or a use. */
export function holdSeat(edit: Edit, group: Group, person: string | null, words: string): void {
  const { sheet, stores } = edit
  const held = stores.sheets.heldIn(group.id)
  holdIn(edit, { person, words }, stores.audience.students(sheet), {
    group,
    held: held.map(({ enrolment_id }) => enrolment_id),
    free: group.seats === NO_LIMIT || stores.seats.takenIn(group.id) + held.length < group.seats,
  })
}

/** Lets anybody have a seat that was kept free. */
export function freeSeat(edit: Edit, group: Group, code: string): void {
  const held = edit.stores.sheets.heldIn(group.id).find((one) => one.code === code)
  if (!held) return
  edit.stores.sheets.freeSeat(held.id)
  note(edit, 'seat-freed', { group: group.code })
}

function groupsOf({ sheet, stores }: Edit, topic: Topic): Group[] {
  return stores.sheets.groups(sheet.id).filter(({ topic_id }) => topic_id === topic.id)
}
