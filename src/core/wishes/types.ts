// Seats by wishes: who wants which topics, and what is aimed at.

/** What a seating by wishes aims at, once as few as possible are left without a seat. */
export type WishAim =
  /** As many first wishes as can be, then as many second ones, and so on (rank-maximal). */
  | 'most-first'
  /** As few as can be without any of their wishes, then as few with their last, and so on (leximin from the bottom). */
  | 'nobody-far-down'
  /** The least sum of ranks; none of one's wishes counts one more than the longest list. */
  | 'least-total'
  /** One after the other by lot, each the best that is left (serial dictatorship). */
  | 'in-turn'

/** Somebody who is to have a seat. */
export interface Wisher {
  key: string
  /** By what the lot knows them, so that a draw can be repeated without names; left out, their key. */
  lot?: string
  /** Null where the course has no sections. */
  section: string | null
  /** Topics by rank, the most wanted first; those that are wanted equally stand together. Empty: no wishes. */
  ranks: readonly (readonly string[])[]
  /** Topics that they can have by no means. */
  cannot: readonly string[]
  /** Groups, by key, in which they may not sit for other reasons. */
  never?: readonly string[]
  /** The group in which they sit already, and which they may leave. */
  home?: string | null
}

/** A group with the seats in it that may be given out. */
export interface WishGroup {
  key: string
  topic: string
  /** Its section; null for a group of all sections. */
  section: string | null
  /** Seats that are free; Infinity without a limit. */
  seats: number
  /** How many of them have to be taken, before anything else counts. */
  must?: number
}

export interface WishInput {
  wishers: readonly Wisher[]
  groups: readonly WishGroup[]
  /** Whether one sits in a group of one's own section, or in any of the course. */
  offers: 'section' | 'course'
  aim: WishAim
  /** Whether as few as can be lose the seat that they have before wishes count, or after; left out, before. */
  moved?: 'before' | 'after'
  /** Decides among what is equally good; the same number gives the same seats. */
  lotNumber: number
  /** Whether the order that the lot draws of people is gone through from its end, as in every second round. */
  reversed?: boolean
}

/** Where somebody sits, and which wish that is. */
export interface WishSeat {
  person: string
  /** Null for whoever is left without a seat. */
  group: string | null
  /** 1 for the first wish; null where it is none of theirs. */
  rank: number | null
}

/** What a seating comes to. */
export interface WishFigures {
  /** People without a seat, and those of them who had wishes. */
  left: number
  leftWithWishes: number
  /** How many got their first wish, their second, … */
  byRank: number[]
  /** How many with wishes have a seat that is none of them. */
  none: number
  /** How many without wishes have a seat. */
  seatedWithout: number
}

export interface WishOutcome {
  seats: WishSeat[]
  figures: WishFigures
}
