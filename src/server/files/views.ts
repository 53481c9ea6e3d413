import type { FileView } from '../../contract/files.ts'
import type { Stores } from '../stores.ts'

/** Files as a page lists them, in the order they were brought. */
export function fileViews(
  ids: readonly number[],
  nameOf: (enrolmentId: number) => string,
  { files }: Pick<Stores, 'files'>,
): FileView[] {
  return files.byIds(ids).map(({ code, name, size, type, by_id, kept_at }) => ({
    code,
    name,
    size,
    type,
    by: nameOf(by_id),
    at: kept_at,
  }))
}
