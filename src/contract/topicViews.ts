import type { GroupState } from '../core/groupState.ts'

/** One group of a topic, with what is an exception of it alone; null follows the topic. */
export interface GroupView {
  code: string
  /** Code of its section; null where it is for all of them, or the course has none. */
  section: string | null
  taken: number
  state: GroupState
  own: {
    seats: number | null
    floor: number | null
    place: string | null
    link: string | null
    startsAt: string | null
    endsAt: string | null
  }
  held: { code: string; person: string | null; name: string | null; note: string }[]
}

export interface TopicView {
  code: string
  title: string
  brief: string
  place: string
  link: string
  startsAt: string | null
  endsAt: string | null
  /** The topic's own limit (0: no limit) and floor, or null where it follows the sheet's common one. */
  seats: number | null
  floor: number | null
  /** Whether it has one group for all sections; null where it follows the sheet. */
  mixed: boolean | null
  /** Its groups: one in each section, or one for all of them. */
  groups: GroupView[]
}
