import { type InferType, object } from 'yup'
import { LIMITS } from '../core/limits.ts'
import { codes, text, title } from './fields.ts'
import { plainRoute, route } from './route.ts'

/** People of a course under a title: whom a sheet is for, as often as it is wanted. */
export interface ListView {
  code: string
  title: string
  /** Read by staff alone. */
  note: string
  /** Those of them who are active students now, in the order of the roster. */
  people: { code: string; name: string; section: string | null }[]
  /** Those who are on it and are paused or have left. */
  away: { code: string; name: string }[]
  /** Titles of sheets that are for it. */
  sheets: string[]
}

export interface ListsView {
  lists: ListView[]
}

const fields = {
  title: title('The name of the list'),
  note: text('A note', 500),
  people: codes(LIMITS.rosterLines, 'A list holds as many people as a roster.'),
}
export const newListBody = object({
  title: fields.title.required('The name of the list is missing.'),
  note: fields.note.default(''),
  people: fields.people.required().min(1, 'Nobody is on the list. Add somebody.'),
})
/** Fields left out stay as they are. */
export const listChanges = object(fields)
export type ListChanges = InferType<typeof listChanges>

export const lists = plainRoute<ListsView>()('GET', '/api/courses/:course/lists', 'staff')
export const addList = route<ListsView & { added: string }>()(
  'POST',
  '/api/courses/:course/lists',
  'instructor',
  newListBody,
)
export const changeList = route<ListsView>()(
  'PATCH',
  '/api/courses/:course/lists/:list',
  'instructor',
  listChanges,
)
/** Takes a list away that no sheet is for. */
export const removeList = plainRoute<ListsView>()('DELETE', '/api/courses/:course/lists/:list', 'instructor')
/** Brings a list back that was taken away. */
export const restoreList = plainRoute<ListsView>()(
  'POST',
  '/api/courses/:course/lists/:list/restore',
  'instructor',
)
