import type { GroupFileView } from '../../contract/files.ts'
import { DAY, type Instant, shift } from '../../core/instant.ts'
import { extraOn } from '../groups/extras.ts'
import { reaches, reachGroup } from '../groups/reach.ts'
import type { Stores } from '../stores.ts'
import type { MayRead } from './routes.ts'
import type { AimRules, Uploading } from './uploads.ts'

/** Days for which a file that was taken away can be brought back. */
export const RESTORE_DAYS = 30
/** Most files that one group has at once. */
const MOST_GROUP_FILES = 500

/** Bytes that the files of a group have together, all versions counted, those taken away left out. */
export function groupBytes(
  groupId: number,
  { groupFiles, files }: Pick<Stores, 'groupFiles' | 'files'>,
): number {
  const there = new Set(
    groupFiles
      .ofGroup(groupId)
      .filter(({ removed_at }) => removed_at === null)
      .map(({ id }) => id),
  )
  const versions = groupFiles.versions(groupId).filter(({ group_file_id }) => there.has(group_file_id))
  return files.byIds(versions.map(({ file_id }) => file_id)).reduce((sum, { size }) => sum + size, 0)
}

/** Files brought to a group's page by its members and staff. */
export function groupAim(stores: Stores): AimRules<{ kind: 'group'; group: number }> {
  const { sheets, groupFiles, groups } = stores
  return {
    room({ group }, { sheet, enrolment }) {
      const { group: reached } = reachGroup(sheet, enrolment, sheets.groupById(group)?.code ?? '', stores)
      extraOn(reached, 'files', stores)
      const { fileBytes, groupBytes: most } = groups.extras(sheet.id)
      return { fileBytes, left: most - groupBytes(group, stores), files: MOST_GROUP_FILES }
    },
    isVersion: ({ group }, name) => groupFiles.named(group, name) !== undefined,
    take({ group }, file, _, telling) {
      groupFiles.add(group, file.name, file.id)
      telling.page(group)
    },
  }
}

/** Whether a file of a group is read: by those who reach the group, while groups have files. */
export function readsGroupFile(stores: Stores): MayRead {
  const { groupFiles, groups, sheets } = stores
  return (file, { sheet, enrolment }: Uploading) => {
    const place = groupFiles.groupWith(file.id)
    if (!place) return undefined
    const group = sheets.groupById(place.group_id)
    if (!group || place.removed_at !== null || !groups.extrasFor(group).files) return false
    return reaches(sheet, enrolment, group, stores) !== null
  }
}

/** The files of a group, those taken away last; versions newest first. */
export function groupFileViews(
  groupId: number,
  nameOf: (enrolmentId: number) => string,
  { groupFiles, files }: Pick<Stores, 'groupFiles' | 'files'>,
): GroupFileView[] {
  const versions = groupFiles.versions(groupId)
  const kept = new Map(files.byIds(versions.map(({ file_id }) => file_id)).map((file) => [file.id, file]))
  return groupFiles
    .ofGroup(groupId)
    .map(({ id, code, name, removed_at }) => ({
      code,
      name,
      removedAt: removed_at,
      versions: versions
        .filter(({ group_file_id }) => group_file_id === id)
        .toReversed()
        .flatMap(({ version, file_id }) => {
          const file = kept.get(file_id)
          if (!file) return []
          const { code, name, size, type, by_id, kept_at } = file
          return [{ code, name, size, type, by: nameOf(by_id), at: kept_at, version }]
        }),
    }))
    .toSorted(
      (a, b) =>
        Number(a.removedAt !== null) - Number(b.removedAt !== null) ||
        (b.versions[0]?.at ?? '').localeCompare(a.versions[0]?.at ?? ''),
    )
}

/** Forgets files that were taken away so long ago that nobody brings them back. */
export function forgetRemoved(
  { groupFiles, files }: Pick<Stores, 'groupFiles' | 'files'>,
  now: Instant,
): void {
  for (const { id, group_id } of groupFiles.goneBefore(shift(now, -RESTORE_DAYS * DAY))) {
    const own = groupFiles.versions(group_id).filter(({ group_file_id }) => group_file_id === id)
    groupFiles.drop(id)
    for (const { file_id } of own) files.drop(file_id)
  }
}
