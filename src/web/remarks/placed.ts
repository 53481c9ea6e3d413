import type { RemarkView } from '../../contract/remarks.ts'
import type { HandInView } from '../../contract/tasks.ts'
import { byPlace, type RemarkPlace } from '../../core/remarks.ts'

/** A remark where it stands in the version that is shown, with its number there. */
export interface Placed {
  remark: RemarkView
  n: number
  /** The file, by code; null for what was written. */
  file: string | null
  place: RemarkPlace
}

/** A place that is being remarked on. */
export interface Making {
  file: string | null
  place: RemarkPlace
}

/**
 * The remarks on one version in the order in which they are read: on what was written, then on its files, in their order;
 * and those whose place is not in it.
 */
export function placedIn(
  remarks: readonly RemarkView[],
  handIn: Pick<HandInView, 'version' | 'files'>,
): { placed: Placed[]; elsewhere: RemarkView[] } {
  const order = new Map<string | null, number>([
    [null, -1],
    ...handIn.files.map(({ code }, i): [string, number] => [code, i]),
  ])
  const found = remarks.flatMap((remark) => {
    const here = remark.stands.find(({ version }) => version === handIn.version)
    return here && order.has(here.file) ? [{ remark, file: here.file, place: here.place }] : []
  })
  const placed = found
    .toSorted((a, b) => (order.get(a.file) ?? 0) - (order.get(b.file) ?? 0) || byPlace(a.place, b.place))
    .map((one, i) => ({ ...one, n: i + 1 }))
  const here = new Set(found.map(({ remark }) => remark.code))
  return { placed, elsewhere: remarks.filter(({ code }) => !here.has(code)) }
}

/** Where a place that is being remarked on comes among those that stand: how many of them are read before it. */
export function rankOf(
  { file, place }: Making,
  placed: readonly Placed[],
  handIn: Pick<HandInView, 'files'>,
): number {
  const orderOf = (code: string | null) => handIn.files.findIndex((one) => one.code === code)
  return placed.filter(
    (one) => orderOf(one.file) < orderOf(file) || (one.file === file && byPlace(one.place, place) <= 0),
  ).length
}
