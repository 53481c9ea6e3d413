import type { OwnerWork, WorkView } from '../../../contract/tasks.ts'
import { dayStarts } from '../../../core/zone.ts'

/** How much was handed in up to a moment: in all, and of each section by its code. */
export interface Moment {
  at: string
  all: number
  sections: Record<string, number>
}

type Task = WorkView['tasks'][number]

/** The section of whoever does a work: of its group, or of the student. */
export function sectionOf(
  view: Pick<WorkView, 'groups' | 'people'>,
  { owner, kind }: OwnerWork,
): string | null {
  return kind === 'group'
    ? (view.groups.find(({ code }) => code === owner)?.section ?? null)
    : (view.people.find(({ code }) => code === owner)?.section ?? null)
}

/**
 * How a task’s work came in: one moment for each day from when students were shown it, one for each hand-in besides,
 * each with all that was in by then. Ends now, or with the last hand-in.
 */
export function overTime(
  view: Pick<WorkView, 'groups' | 'people' | 'sections' | 'now' | 'course'>,
  task: Task,
): Moment[] {
  const handed = task.work
    .flatMap((work) =>
      work.handedAt === null ? [] : [{ at: work.handedAt, section: sectionOf(view, work) }],
    )
    .toSorted((a, b) => a.at.localeCompare(b.at))
  const begins = [task.availableFrom, task.outAt, handed[0]?.at].flatMap((at) => at ?? []).toSorted()[0]
  if (begins === undefined) return []
  const days = dayStarts(begins, view.now, view.course.zone).filter((day) => day > begins)
  const moments = [...new Set([begins, ...days, ...handed.map(({ at }) => at), view.now])].filter(
    (at) => at >= begins && (at <= view.now || handed.some((one) => one.at === at)),
  )
  return moments.toSorted().map((at) => {
    const inBy = handed.filter((one) => one.at <= at)
    return {
      at,
      all: inBy.length,
      sections: Object.fromEntries(
        view.sections.map(({ code }) => [code, inBy.filter(({ section }) => section === code).length]),
      ),
    }
  })
}

/** The same for each day, as a table: what was in by its end. */
export function byDay(
  moments: readonly Moment[],
  dayOf: (at: string) => string,
): (Moment & { day: string })[] {
  const days = new Map<string, Moment & { day: string }>()
  for (const moment of moments) days.set(dayOf(moment.at), { ...moment, day: dayOf(moment.at) })
  return [...days.values()]
}

/** Works that nobody has begun: nothing written, brought or handed in. Of what takes place there are none. */
export function notBegun({ work, handsIn }: Pick<Task, 'work' | 'handsIn'>): OwnerWork[] {
  return handsIn
    ? work.filter(({ begun, state }) => !begun && (state === 'not-due' || state === 'missing'))
    : []
}
