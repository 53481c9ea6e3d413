import type { RemarksView, RemarkView, Standing } from '../../contract/remarks.ts'
import type { RemarkPlace } from '../../core/remarks.ts'
import type { Course } from '../courses/store.ts'
import { fileViews } from '../files/views.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import type { Work } from '../tasks/owners.ts'
import type { HandIn, Owner, Task } from '../tasks/store.ts'
import { mayMark } from '../tasks/views.ts'
import { type Stands, standingIn } from './standing.ts'
import type { Remark } from './store.ts'

/** Phrases of remarks that are offered again. */
const MOST_PHRASES = 200

/**
 * Remarks on an owner's work as a page shows them.
 * @param shown the versions that are looked at; what stands in none of them is left out for students alone
 */
export function remarkViews(
  { task, owner, all, shown }: { task: Task; owner: Owner; all: readonly HandIn[]; shown: readonly HandIn[] },
  reader: Enrolment,
  nameOf: (enrolmentId: number) => string,
  stores: Stores,
): RemarkView[] {
  const { remarks, files, roster } = stores
  const given = remarks.ofOwner(task.id, owner)
  const answers = remarks.answersOf(task.id, owner)
  const student = reader.role === 'student'
  const known = new Map(
    files
      .byIds([
        ...all.flatMap((one) => JSON.parse(one.files) as number[]),
        ...given.flatMap((one) => one.file_id ?? []),
      ])
      .map((file) => [file.id, file]),
  )
  const codeOf = (id: number | null) => (id === null ? null : (known.get(id)?.code ?? null))
  const standing = ({ version, fileId, place }: Stands): Standing => ({
    version,
    file: codeOf(fileId),
    place,
  })
  const madeAt = (one: Remark): Stands => ({
    version: one.version,
    fileId: one.file_id,
    place: JSON.parse(one.place) as RemarkPlace,
  })
  const placed = new Map(
    standingIn(given, all, shown, stores).map(({ remark, stands }) => [remark.id, stands]),
  )
  return given.flatMap((one): RemarkView[] => {
    const stands = placed.get(one.id) ?? []
    const [first] = stands
    if (student && !first) return []
    // Students are told of nothing but the versions that are theirs.
    const made = student && first ? first : madeAt(one)
    return [
      {
        code: one.code,
        made: standing(made),
        fileName: made.fileId === null ? null : (known.get(made.fileId)?.name ?? null),
        stands: stands.map(standing),
        words: one.words,
        criterion: one.criterion,
        points: one.points,
        edition: one.edition,
        by: student ? '' : (roster.enrolment(one.by_id)?.name ?? ''),
        answers: answers
          .filter(({ remark_id }) => remark_id === one.id)
          .map(({ by_id, words, answered_at }) => ({
            by: nameOf(by_id),
            words,
            answeredAt: answered_at,
            yours: by_id === reader.id,
          })),
      },
    ]
  })
}

/** What markers have beside one work. */
export function remarksView(
  work: Work,
  sheet: Sheet,
  course: Course,
  reader: Enrolment,
  stores: Stores,
): RemarksView {
  const { remarks, roster } = stores
  const { task, owner, handIns } = work
  const nameOf = (id: number) => roster.enrolment(id)?.name ?? ''
  return {
    remarks: remarkViews({ task, owner, all: handIns, shown: handIns }, reader, nameOf, stores),
    files: fileViews(remarks.files(task.id, owner), nameOf, stores),
    phrases: remarks.phrases(task.id, MOST_PHRASES),
    mayRemark: sheet.archived_at === null && mayMark(reader, course) !== 'none',
    released: work.mark?.released_at != null,
  }
}
