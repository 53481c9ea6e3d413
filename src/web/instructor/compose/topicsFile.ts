import type { ComposeView } from '../../../contract/sheets.ts'
import type { NewTopic } from '../../../contract/topics.ts'
import type { GroupView, TopicView } from '../../../contract/topicViews.ts'
import type { TopicGroup, TopicLine } from '../../../core/formats/topicGroups.ts'
import {
  type WrittenGroup,
  type WrittenKept,
  type WrittenTopic,
  writeTopicsCsv,
} from '../../../core/formats/topicsCsv.ts'
import { takesPeople } from '../../../core/groupState.ts'
import { NO_LIMIT } from '../../../core/limit.ts'
import { sayLocal } from './cells.tsx'

// The topics of a sheet as a file, and those of a file as they are sent.

/** Whether a seat is kept for a person somewhere on a sheet. */
export function anybodyKept({ topics }: Pick<ComposeView, 'topics'>): boolean {
  return topics.some(({ groups }) => groups.some(({ held }) => held.some(({ person }) => person !== null)))
}

/**
 * The topics of a sheet as CSV, with what differs in single groups and the seats that are kept free. What is of the one
 * group of a topic is its topic’s.
 * @param addresses of whom seats are kept for
 */
export function topicsFile(
  { topics, sections, course: { zone } }: Pick<ComposeView, 'topics' | 'sections' | 'course'>,
  addresses: readonly { code: string; email: string }[],
): string {
  const emails = new Map(addresses.map(({ code, email }) => [code, email]))
  const names = new Map(sections.map(({ code, name }) => [code, name]))
  const kept = ({ held }: GroupView): WrittenKept[] =>
    held.map(({ person, name, note }) => {
      const email = emails.get(person ?? '')
      return email === undefined ? { note: name ?? note } : { name: name ?? '', email }
    })
  const written = (topic: TopicView): WrittenTopic => {
    const only = topic.groups.find(({ section }) => section === null)
    const dated = only?.own.startsAt ? only.own : topic
    return {
      ...topic,
      seats: limit(only?.own.seats ?? topic.seats),
      floor: only?.own.floor ?? topic.floor,
      place: only?.own.place ?? topic.place,
      link: only?.own.link ?? topic.link,
      startsAt: sayLocal(dated.startsAt, zone) || null,
      endsAt: sayLocal(dated.endsAt, zone) || null,
      offered: only ? takesPeople(only) : true,
      kept: only ? kept(only) : [],
      groups: topic.groups.flatMap((group): WrittenGroup[] => {
        const { section, own, held } = group
        const name = names.get(section ?? '')
        const alike = Object.values(own).every((value) => value === null)
        if (name === undefined || (alike && takesPeople(group) && held.length === 0)) return []
        return [
          {
            ...own,
            section: name,
            offered: takesPeople(group),
            seats: limit(own.seats),
            startsAt: sayLocal(own.startsAt, zone) || null,
            endsAt: sayLocal(own.endsAt, zone) || null,
            kept: kept(group),
          },
        ]
      }),
    }
  }
  return writeTopicsCsv(topics.map(written))
}

const limit = (seats: number | null) => (seats === NO_LIMIT ? ('none' as const) : seats)

/** A topic of a list as it is sent. */
export function sentTopic({ line: _, groups, ...topic }: TopicLine): NewTopic {
  return {
    ...topic,
    ...(groups.length > 0 && {
      groups: groups.map(({ line: _, kept, ...group }) => ({ ...group, held: kept })),
    }),
  }
}

/** What is told of a group of a list beside its topic: `3 seats, 2026-05-13 22:00 to 23:00, kept free for Ada`. */
export function groupWords(
  { offered, seats, floor, startsAt, endsAt, place, link, kept }: Omit<TopicGroup, 'line' | 'section'>,
  nameOf: (person: string) => string,
): string {
  if (!offered) return 'not offered'
  const words = [
    seats !== null && (seats === 'none' ? 'no limit' : seats === 1 ? '1 seat' : `${seats} seats`),
    floor !== null && `floor ${floor}`,
    slotWords(startsAt, endsAt),
    place,
    link,
    kept.length > 0 &&
      `kept free for ${kept.map((one) => ('person' in one ? nameOf(one.person) : one.note)).join(', ')}`,
  ]
  return words.filter(Boolean).join(', ') || 'offered'
}

/** A slot as it was read: `2026-05-13 22:00 to 2026-05-14 01:00`. */
export function slotWords(startsAt: string | null, endsAt: string | null): string {
  if (startsAt === null) return ''
  const from = startsAt.replace('T', ' ')
  if (endsAt === null) return from
  const sameDay = endsAt.slice(0, 10) === startsAt.slice(0, 10)
  return `${from} to ${sameDay ? endsAt.slice(11) : endsAt.replace('T', ' ')}`
}
