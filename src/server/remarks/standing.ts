import { findPassage, type RemarkPlace } from '../../core/remarks.ts'
import type { Stores } from '../stores.ts'
import type { HandIn } from '../tasks/store.ts'
import type { Remark } from './store.ts'

/** Where a remark stands in one version: its file by id, or null for what was written. */
export interface Stands {
  version: number
  fileId: number | null
  place: RemarkPlace
}

/**
 * Where each remark stands among some versions: on the one on which it was made, and on those after it that kept its
 * passage, or the same file. Those that stand in none are left out.
 * @param all every version of the owner, for what was read when the remark was made
 * @param shown the versions that are looked at
 */
export function standingIn(
  remarks: readonly Remark[],
  all: readonly HandIn[],
  shown: readonly HandIn[],
  { files }: Pick<Stores, 'files'>,
): { remark: Remark; stands: Stands[] }[] {
  if (remarks.length === 0) return []
  const filesOf = (handIn: HandIn) => JSON.parse(handIn.files) as number[]
  const digests = new Map(
    files.byIds([...new Set(all.flatMap(filesOf))]).map(({ id, digest }) => [id, digest ?? `file ${id}`]),
  )
  const placeIn = (remark: Remark, made: HandIn, handIn: HandIn): Stands | null => {
    const place = JSON.parse(remark.place) as RemarkPlace
    const { version } = handIn
    if (remark.file_id !== null) {
      const same = digests.get(remark.file_id)
      const own = filesOf(handIn)
      const fileId = own.find((id) => id === remark.file_id) ?? own.find((id) => digests.get(id) === same)
      return fileId === undefined ? null : { version, fileId, place }
    }
    if (place.kind !== 'passage') return null
    const found = findPassage(made.text, place, handIn.text)
    return found && { version, fileId: null, place: found }
  }
  return remarks.flatMap((remark) => {
    const made = all.find(({ version }) => version === remark.version)
    if (!made) return []
    const stands = shown.flatMap((handIn) =>
      handIn.version < remark.version ? [] : (placeIn(remark, made, handIn) ?? []),
    )
    return stands.length > 0 ? [{ remark, stands }] : []
  })
}
