import type { DifferingFields } from '../../../contract/tasks.ts'
import type { DatedBy, LateHandIn } from '../../../core/task.ts'
import { localTimeOf } from '../../../core/zone.ts'
import { sentTime } from '../../kit/TimeField.tsx'

/** What may differ in a task, as its fields hold it. Times are wall-clock times of the course’s zone, or empty. */
export interface TermsDraft {
  instructions: string
  handsIn: boolean
  takesText: boolean
  takesLinks: boolean
  takesFiles: boolean
  /** The most words, as they were typed; empty for no most. */
  words: string
  from: string
  due: string
  datedBy: DatedBy
  late: LateHandIn
  until: string
}

/** As the fields begin: those of a task, or of one that is not set yet. */
export function termsOf(task: DifferingFields | null, zone: string): TermsDraft {
  const local = (instant: string | null | undefined) => (instant ? localTimeOf(instant, zone) : '')
  return {
    instructions: task?.instructions ?? '',
    handsIn: task?.handsIn ?? true,
    takesText: task?.takesText ?? true,
    takesLinks: task?.takesLinks ?? true,
    takesFiles: task?.takesFiles ?? false,
    words: task?.mostWords ? String(task.mostWords) : '',
    from: local(task?.availableFrom),
    due: local(task?.dueAt),
    datedBy: task?.datedBy ?? 'task',
    late: task?.late ?? 'no',
    until: local(task?.lateUntil),
  }
}

/** What is sent of the dates. */
export function datesBody({ from, due, datedBy, late, until, handsIn }: TermsDraft) {
  const dated = datedBy === 'task'
  // Nothing is late where nothing is handed in, and with each group’s own date there is no common end.
  const lateness = !handsIn || (!dated && late === 'until') ? 'no' : late
  return {
    availableFrom: sentTime(from),
    dueAt: dated ? sentTime(due) : null,
    datedBy,
    late: lateness,
    lateUntil: lateness === 'until' ? sentTime(until) : null,
  }
}

/** What is sent of the form: whether something is handed in, what, and how much. */
export function formBody({ handsIn, takesText, takesLinks, takesFiles, words }: TermsDraft) {
  const most = words.trim()
  return {
    handsIn,
    takesText,
    takesLinks,
    takesFiles,
    mostWords: most === '' || !takesText ? null : Number(most),
  }
}
