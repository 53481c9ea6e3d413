/** A meeting of a group, as its page shows it. */
export interface MeetingView {
  code: string
  title: string
  place: string
  link: string
  /** When it first takes place, and for how many minutes. */
  startsAt: string
  minutes: number
  /** How many weeks it takes place; 1 for once. */
  weeks: number
  /** When it still takes place, soonest first: `day` names one among the others. */
  ahead: { day: string; startsAt: string; endsAt: string }[]
  /** Days still to come on which it was called off. */
  skipped: string[]
  /** Who set it, by name. */
  by: string
}

/** When the members of a group could meet, in hours of the week. */
export interface CouldMeetView {
  /** The reader's own hours; null for staff, and while the reader has not said. */
  own: string | null
  /** How many have said when they can, and how many sit here. */
  said: number
  size: number
  /** How many can at each hour of the week. */
  counts: number[]
  /** For a meeting of one hour, and of two: the times that suit most, with who cannot as far as names are shown. */
  best: { hours: number; times: { hour: number; can: number; cannot: string[] }[] }[]
}

/** A group's calendar. */
export interface GroupCalendar {
  meetings: MeetingView[]
  couldMeet: CouldMeetView
}
