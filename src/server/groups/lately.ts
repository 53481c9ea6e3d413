import type { Happening } from '../../contract/groups.ts'
import type { Instant } from '../../core/instant.ts'
import type { LedgerEntry } from '../ledger/store.ts'
import type { Enrolment } from '../roster/store.ts'
import { namesFor } from '../seats/namesFor.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Group } from '../sheets/topicStore.ts'
import type { Stores } from '../stores.ts'

/** Happenings shown at once. */
const MOST = 12

/** What happened in a group lately, newest first, named as the reader may know it. */
export function lately(
  sheet: Sheet,
  group: Group,
  reader: Enrolment,
  now: Instant,
  stores: Stores,
): Happening[] {
  const { ledger, groups, talk, groupFiles, files } = stores
  const nameOf = namesFor(sheet, reader, now, stores)
  const extras = groups.extrasFor(group)
  const versions = extras.files ? groupFiles.versions(group.id) : []
  const kept = new Map(files.byIds(versions.map(({ file_id }) => file_id)).map((file) => [file.id, file]))
  const subjects = extras.talk ? talk.ofGroup(group.id) : []
  const titles = new Map(subjects.map(({ id, title }) => [id, title]))
  const all: Happening[] = [
    ...fromLedger(ledger.ofGroup(sheet.id, group.id, 3 * MOST), { sheet, group, reader, now }, stores),
    ...(extras.messages ? groups.messages(group.id) : []).map(
      ({ sent_at, by_id, subject }): Happening => ({
        at: sent_at,
        by: nameOf(by_id),
        kind: 'message',
        what: subject,
      }),
    ),
    ...subjects.map(
      ({ begun_at, by_id, title }): Happening => ({
        at: begun_at,
        by: nameOf(by_id),
        kind: 'subject',
        what: title,
      }),
    ),
    ...(extras.talk ? talk.newestReplies(group.id, MOST) : []).map(
      ({ posted_at, by_id, subject_id }): Happening => ({
        at: posted_at,
        by: nameOf(by_id),
        kind: 'post',
        what: titles.get(subject_id) ?? '',
      }),
    ),
    ...(extras.calendar ? stores.meetings.ofGroup(group.id) : []).map(
      ({ set_at, by_id, title }): Happening => ({
        at: set_at,
        by: nameOf(by_id),
        kind: 'meeting',
        what: title,
      }),
    ),
    ...versions.flatMap(({ version, file_id }): Happening[] => {
      const file = kept.get(file_id)
      if (!file) return []
      const kind = version > 1 ? 'file-version' : 'file'
      return [{ at: file.kept_at, by: nameOf(file.by_id), kind, what: file.name }]
    }),
    ...(extras.files ? groupFiles.ofGroup(group.id) : []).flatMap(
      ({ removed_at, removed_by, name }): Happening[] =>
        removed_at === null
          ? []
          : [{ at: removed_at, by: nameOf(removed_by ?? 0), kind: 'file-removed', what: name }],
    ),
  ]
  return all.toSorted((a, b) => (a.at < b.at ? 1 : a.at > b.at ? -1 : 0)).slice(0, MOST)
}

function fromLedger(
  entries: readonly LedgerEntry[],
  { sheet, group, reader, now }: { sheet: Sheet; group: Group; reader: Enrolment; now: Instant },
  { roster, ...stores }: Stores,
): Happening[] {
  const nameOf = namesFor(sheet, reader, now, { ...stores, roster })
  const actor = (id: number | null): string => {
    const enrolment = id === null ? undefined : roster.enrolmentIn(sheet.course_id, id)
    return enrolment ? nameOf(enrolment.id) : ''
  }
  // One hand-in is noted for each member; it is one happening.
  const seen = new Set<string>()
  return entries.flatMap((entry): Happening[] => {
    const { kind, at, actor_id, enrolment_id, from_group_id, to_group_id, detail } = entry
    const who = enrolment_id === null ? '' : nameOf(enrolment_id)
    if (to_group_id === group.id) return [{ at, by: who, kind: 'came', what: '' }]
    if (from_group_id === group.id) return [{ at, by: who, kind: 'went', what: '' }]
    const { title = '', what = '' } = JSON.parse(detail) as { title?: string; what?: string }
    if (kind === 'place-changed') return [{ at, by: actor(actor_id), kind: 'place', what }]
    if (kind !== 'work-handed-in' && kind !== 'work-taken-back') return []
    const same = `${kind} ${at} ${title}`
    if (seen.has(same)) return []
    seen.add(same)
    return [
      { at, by: actor(actor_id), kind: kind === 'work-handed-in' ? 'handed-in' : 'taken-back', what: title },
    ]
  })
}
