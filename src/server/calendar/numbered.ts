import type { Instant } from '../../core/instant.ts'
import type { CalendarEntry, NumberedEntry } from './file.ts'
import type { CalendarStore, KeptEntry } from './store.ts'

const contentOf = ({ title, words, place, link, startsAt, endsAt }: CalendarEntry) =>
  JSON.stringify({ title, words, place, link, startsAt, endsAt })

/**
 * Numbers entries as they go out to somebody: each counts up when it is another than the last time (RFC 5545, 3.8.7.4),
 * and keeps when that was seen.
 * @param saved whether they are saved as a file of their own, which is to be taken out of a calendar some day
 */
export function numbered(
  personId: number,
  entries: readonly CalendarEntry[],
  now: Instant,
  calendar: CalendarStore,
  saved?: 'saved',
): NumberedEntry[] {
  const known = new Map(calendar.entriesOf(personId).map((one) => [one.entry, one]))
  const changed: KeptEntry[] = []
  const all = entries.map((entry): NumberedEntry => {
    const before = known.get(entry.id)
    const content = contentOf(entry)
    const same = before?.content === content
    const next: KeptEntry = {
      person_id: personId,
      entry: entry.id,
      content,
      sequence: before ? before.sequence + (same ? 0 : 1) : 0,
      changed_at: same ? before.changed_at : now,
      saved_at: saved ? now : (before?.saved_at ?? null),
    }
    if (!same || saved) changed.push(next)
    return { ...entry, sequence: next.sequence, changedAt: next.changed_at }
  })
  calendar.keepEntries(changed)
  return all
}

/**
 * An entry that somebody saved, to be taken out of their calendar; undefined where none of that name was saved. From now
 * on it counts as taken out.
 */
export function takenOut(
  personId: number,
  entry: string,
  now: Instant,
  calendar: CalendarStore,
): NumberedEntry | undefined {
  const kept = calendar.entriesOf(personId).find((one) => one.entry === entry && one.saved_at !== null)
  if (!kept) return undefined
  // Had again, it counts on past the one that took it out.
  const next = { ...kept, content: '', sequence: kept.sequence + 1, changed_at: now, saved_at: null }
  calendar.keepEntries([next])
  return { ...entryOf(kept), sequence: next.sequence, changedAt: now }
}

/** What somebody saved as a file and is now another, or not theirs any more. */
export function outdated(
  personId: number,
  current: readonly CalendarEntry[],
  calendar: CalendarStore,
): (CalendarEntry & { gone: boolean })[] {
  const now = new Map(current.map((entry) => [entry.id, entry]))
  return calendar.entriesOf(personId).flatMap((kept) => {
    if (kept.saved_at === null) return []
    const entry = now.get(kept.entry)
    // What a feed read since is not what the file has.
    const same = kept.changed_at <= kept.saved_at && entry && contentOf(entry) === kept.content
    return same ? [] : [{ ...(entry ?? entryOf(kept)), gone: entry === undefined }]
  })
}

const entryOf = ({ entry, content }: KeptEntry): CalendarEntry => ({
  id: entry,
  ...(JSON.parse(content) as Omit<CalendarEntry, 'id'>),
})
