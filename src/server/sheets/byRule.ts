import type { Instant } from '../../core/instant.ts'
import { LIMITS } from '../../core/limits.ts'
import type { Course } from '../courses/store.ts'
import type { Stores } from '../stores.ts'
import type { Sheet } from './store.ts'
import { openInNew } from './topicEdits.ts'

/**
 * Adds a topic by a house rule, with one group in a place, and gives both by their codes; null where the sheet holds no
 * more topics. The caller holds the transaction.
 */
export function addByRule(
  sheet: Sheet,
  course: Course,
  title: string,
  place: number | null,
  now: Instant,
  stores: Stores,
): { topic: string; group: string } | null {
  const { sheets, roster, ledger } = stores
  if (sheets.topics(sheet.id).length >= LIMITS.topics) return null
  const before = sheets.groups(sheet.id)
  const fields = {
    title,
    brief: '',
    place: '',
    link: '',
    seats: null,
    floor: null,
    starts_at: null,
    ends_at: null,
  }
  const places = place === null ? [null] : roster.sections(course.id).map(({ id }) => id)
  const mixed = place === null ? 1 : 0
  const topic = sheets.addTopic(
    sheet.id,
    { ...fields, mixed: mixed === sheet.mixed ? null : mixed },
    places,
    now,
  )
  const own = sheets.groups(sheet.id).filter(({ topic_id }) => topic_id === topic.id)
  for (const group of own)
    if (group.section_id !== place) sheets.changeGroup(group.id, { ...group, offered: 0 })
  const detail = { topic: topic.code, title }
  ledger.note({ sheetId: sheet.id, at: now, actorId: null, kind: 'topic-added', detail })
  openInNew({ sheet, stores, now }, before)
  const group = own.find(({ section_id }) => section_id === place)
  return group ? { topic: topic.code, group: group.code } : null
}
