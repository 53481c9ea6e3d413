import type { DifferenceView, TaskView } from '../../../contract/tasks.ts'
import { sayInstant } from '../../../core/zone.ts'
import { datesBody, formBody, type TermsDraft, termsOf } from './termsDraft.ts'

/** A difference as its fields hold it while it is written: which parts differ, and what they are then. */
export interface DifferenceDraft extends TermsDraft {
  note: string
  groups: readonly string[]
  lists: readonly string[]
  students: readonly string[]
  dates: boolean
  text: boolean
  form: boolean
}

const DATES = ['availableFrom', 'dueAt', 'datedBy', 'late', 'lateUntil'] as const
const FORM = ['handsIn', 'takesText', 'takesLinks', 'takesFiles', 'mostWords'] as const

/** A difference as it is before it is changed; what does not differ stands as in the task. */
export function differenceDraftOf(
  task: TaskView,
  difference: DifferenceView | null,
  zone: string,
): DifferenceDraft {
  const fields = difference?.fields ?? {}
  return {
    ...termsOf({ ...task, ...fields }, zone),
    note: difference?.note ?? '',
    groups: difference?.groups ?? [],
    lists: difference?.lists ?? [],
    students: difference?.students ?? [],
    dates: DATES.some((key) => key in fields),
    text: 'instructions' in fields,
    form: FORM.some((key) => key in fields),
  }
}

/** What is sent of it: the parts that differ, each as a whole. */
export function differenceBodyOf(draft: DifferenceDraft) {
  const { note, groups, lists, students, dates, text, form, instructions } = draft
  return {
    note,
    groups: [...groups],
    lists: [...lists],
    students: [...students],
    fields: {
      ...(dates && datesBody(draft)),
      ...(text && { instructions }),
      ...(form && formBody(draft)),
    },
  }
}

/** What differs, in words: “due 12 Nov, 23:59; another text”. */
export function differsWords({ fields }: Pick<DifferenceView, 'fields'>, zone: string): string {
  const { dueAt, datedBy, handsIn, mostWords } = fields
  const dates =
    datedBy === 'group'
      ? ['due on each group’s own date']
      : DATES.some((key) => key in fields)
        ? [
            dueAt
              ? `${handsIn === false ? 'takes place' : 'due'} ${sayInstant(dueAt, zone)}`
              : 'without a due time',
          ]
        : []
  const form = FORM.some((key) => key in fields)
    ? [
        handsIn === false
          ? 'nothing is handed in'
          : `handed in as ${formWords(fields)}${mostWords ? `, ${mostWords} words at most` : ''}`,
      ]
    : []
  return [...dates, ...('instructions' in fields ? ['another text'] : []), ...form].join('; ')
}

function formWords({ takesText, takesLinks, takesFiles }: DifferenceView['fields']): string {
  const parts = [takesText && 'text', takesLinks && 'links', takesFiles && 'files'].filter(Boolean)
  return parts.length > 0 ? parts.join(' or ') : 'before'
}
