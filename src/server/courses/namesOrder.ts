import type { NameOrder } from '../../core/names.ts'
import type { Course } from './store.ts'

/** How names of a course are put in order. */
export function namesOrder({ name_language, name_particles }: Course): NameOrder {
  return { language: name_language, particles: name_particles }
}
