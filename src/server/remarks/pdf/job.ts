import type { RemarkView } from '../../../contract/remarks.ts'
import { aboutOf, byPlace, type RemarkPlace } from '../../../core/remarks.ts'
import { sayInstant } from '../../../core/zone.ts'
import type { Course } from '../../courses/store.ts'
import type { Disk } from '../../files/disk.ts'
import type { Sheet } from '../../sheets/store.ts'
import type { Stores } from '../../stores.ts'
import { criteriaOf } from '../../tasks/owners.ts'
import type { HandIn, Owner, Task } from '../../tasks/store.ts'

/** A remark as it is printed: with its number, which stands in the work too. */
export interface PrintedRemark {
  n: number
  place: RemarkPlace
  /** The criterion with points; empty for none. */
  about: string
  words: string
  answers: string[]
}

/** One part of a work: what was written, or a file of it. */
export interface PrintedPart {
  /** The file’s name; null for what was written. */
  name: string | null
  /** Media type; `text/plain` for what was written. */
  type: string
  /** Where its bytes lie; null for what was written. */
  path: string | null
  text: string
  remarks: PrintedRemark[]
}

/** Everything that goes into a PDF of a work with its remarks. */
export interface PdfJob {
  title: string
  /** Whose work it is. */
  owner: string
  /** Said under the title, line by line. */
  under: string[]
  parts: PrintedPart[]
}

/** What is printed of one version of a work: its text, its files, and the remarks that stand in it, numbered in order. */
export function jobFor(
  {
    task,
    owner,
    handIn,
    views,
    sheet,
    course,
  }: { task: Task; owner: Owner; handIn: HandIn; views: readonly RemarkView[]; sheet: Sheet; course: Course },
  nameOf: (enrolmentId: number) => string,
  disk: Pick<Disk, 'pathOf'>,
  { files, sheets, roster }: Stores,
): PdfJob {
  const criteria = criteriaOf(task)
  const group = owner.group_id === null ? undefined : sheets.groupById(owner.group_id)
  const whose = group
    ? (sheets.topicById(group.topic_id)?.title ?? '')
    : (roster.enrolment(owner.student_id ?? 0)?.name ?? '')
  let n = 0
  const remarksOn = (file: string | null): PrintedRemark[] =>
    views
      .flatMap((view) => {
        const stands = view.stands.find((one) => one.version === handIn.version && one.file === file)
        return stands ? [{ view, place: stands.place }] : []
      })
      .toSorted((a, b) => byPlace(a.place, b.place))
      .map(({ view, place }) => {
        n += 1
        return {
          n,
          place,
          about: aboutOf(view, criteria),
          words: view.words,
          answers: view.answers.map(({ by, words }) => `${by}: ${words}`),
        }
      })
  const written = remarksOn(null)
  const links = JSON.parse(handIn.links) as string[]
  return {
    title: task.title,
    owner: whose,
    under: [
      `${course.course_code} · ${sheet.title} · ${whose}`,
      `Version ${handIn.version}, handed in by ${nameOf(handIn.by_id)}, ${sayInstant(handIn.handed_at, course.zone)}`,
      ...links,
    ],
    parts: [
      ...(handIn.text === ''
        ? []
        : [{ name: null, type: 'text/plain', path: null, text: handIn.text, remarks: written }]),
      ...files.byIds(JSON.parse(handIn.files) as number[]).map((file) => ({
        name: file.name,
        type: file.type,
        path: disk.pathOf(file.stored),
        text: '',
        remarks: remarksOn(file.code),
      })),
    ],
  }
}
