import type { RunView } from '../../contract/seats.ts'
import type { Course } from '../courses/store.ts'
import type { Enrolment } from '../roster/store.ts'

/** In which groups of a course a member of staff may seat people. */
export function maySeat(enrolment: Enrolment, course: Course): RunView['maySeat'] {
  if (enrolment.role === 'instructor') return 'all'
  return enrolment.role === 'tutor' && course.tutors_may === 'seat' ? 'own' : 'none'
}
