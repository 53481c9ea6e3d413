/** One group of a topic, with what is an exception of it alone; null follows the topic. */
export interface GroupView {
  code: string
  /** Code of its section; null in a course without sections. */
  section: string | null
  taken: number
  offered: boolean
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
  /** Its groups, one per section. */
  groups: GroupView[]
}
