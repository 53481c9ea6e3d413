import type { NameOrder } from '../names.ts'
import type { Offers } from '../rules.ts'
import type { Slot } from '../times.ts'
import type { Priority } from '../wishes/rules.ts'
import type { WishAim, WishFigures } from '../wishes/types.ts'
import type { Gap } from './cost.ts'

/** How those who are left get their seats. */
export type PlanMethod = 'evenly' | 'lot' | 'surname' | 'wishes'
export const PLAN_METHODS = ['evenly', 'lot', 'surname', 'wishes'] as const satisfies readonly PlanMethod[]

/** Which seats, taken already, a plan may change: none; those of the people named; all, keeping what it can; all, drawn anew. */
export type Release = 'none' | 'all' | 'afresh' | readonly string[]

/** An active student. Keys of people, groups and sections are only compared. */
export interface PlanPerson {
  key: string
  name: string
  /** The name as the class list has it, surname first; left out where the words of the name tell. */
  listed?: string
  section: string | null
}

export interface PlanGroup {
  key: string
  /** The section it belongs to; null in a course without sections. */
  section: string | null
  /** The limit; NO_LIMIT for none. */
  seats: number
  /** Seats kept free for a use, and seats of people who do not count (paused, departed). */
  blocked: number
  floor: number
  /** True when a plan leaves it alone: nobody comes, nobody leaves. */
  closed?: boolean
  /** When it meets; left out where it has no date. */
  slot?: Slot
}

/** People who must not, or must, sit in one group. */
export interface Keeping {
  key: string
  kind: 'apart' | 'together'
  people: readonly string[]
}

/** How well people are mixed. */
export interface MixFigures {
  /** Pairs in one group who sat in one group before. */
  again: number
  /** For each attribute: how many people would have to change groups for it to be spread as it can be. */
  spread: { name: string; off: number }[]
}

/** How people were mixed before exchanges and after; proven when no exchange could make it better. */
export interface MixReport {
  before: MixFigures
  after: MixFigures
  proven: boolean
}

/** What people are mixed by, as far as possible: with whom they sat before, then attributes, the weightiest first. */
export interface Mixing {
  /** Pairs who sat in one group before, and how often. */
  met: readonly { a: string; b: string; times: number }[]
  attributes: readonly {
    name: string
    /** Whether each group has a mix of its values, or is alike in it. */
    how: 'mix' | 'alike'
    /** The value of each person; nobody's is the empty one. */
    of: ReadonlyMap<string, string>
  }[]
}

/** What people wish for, with topics by their keys. */
export interface Wished {
  /** The topic of each group. */
  topics: Readonly<Record<string, string>>
  /** By what the lot knows each person, so that a draw can be repeated without names. */
  codes: Readonly<Record<string, string>>
  /** The lists of those who have one: topics by rank, and those that they cannot have. */
  lists: readonly { person: string; ranks: readonly (readonly string[])[]; cannot: readonly string[] }[]
  /** People who have all named each other, and whether being together comes before their topics; left out, none. */
  mates?: readonly { people: readonly string[]; first: boolean }[]
}

/** How a plan by wishes is made: what it aims at, and what counts before what. */
export interface ByWishes {
  aim: WishAim
  order: Priority[]
  /** Which seat of each person it gives, where one may hold several: those with fewer are seated once more. Left out, the first. */
  round?: number
}

/** What a plan by wishes comes to, over everybody. */
export interface WishReport extends ByWishes {
  figures: WishFigures
  /** Mates who sit together since they all wished it. */
  together: string[][]
}

/** Everything a plan follows from. */
export interface PlanInput {
  people: readonly PlanPerson[]
  groups: readonly PlanGroup[]
  /** Seats of these people, first taken first. */
  seats: readonly { person: string; group: string }[]
  /** Seats kept free for one person each. */
  heldFor: readonly { person: string; group: string }[]
  offers: Offers
  keepings: readonly Keeping[]
  method: PlanMethod
  lotNumber: number
  /** Whether groups are brought to their floor before sizes are evened out. */
  floorsFirst: boolean
  /** Whether a group that cannot reach its floor may be emptied, and its people seated elsewhere. */
  mayDissolve: boolean
  release: Release
  /** Set by hand: this person here, or nowhere. */
  pins: readonly { person: string; group: string | null }[]
  /** What people are mixed by, besides; left out, by nothing. */
  mixing?: Mixing
  /** What people wish for, where the sheet gives seats by wishes. */
  wished?: Wished
  /** With the method `wishes`: how. */
  byWishes?: ByWishes
  /** How names are put in order by surname; left out, as in English with particles passed over. */
  names?: NameOrder
}

/**
 * Why somebody is seated where they are. Each holds: without it, they would sit elsewhere, or a figure of the plan
 * would be worse.
 */
export type MoveReason =
  | { code: 'by-hand' }
  | { code: 'held' }
  | { code: 'dissolved' }
  | { code: 'together'; with: readonly string[] }
  | { code: 'apart'; from: readonly string[] }
  | { code: 'floor' }
  | { code: 'only-room' }
  | { code: 'even' }
  /** Drawn among so many free seats; null where there is no limit. */
  | { code: 'lot'; among?: number | null }
  | { code: 'surname' }
  /** Gives up a seat so that others can keep together or apart. */
  | { code: 'make-room'; for: readonly string[] }
  /** A rule for people may be behind it; the search was ended before that was checked. */
  | { code: 'unchecked' }
  /** Exchanged with somebody, so that fewer meet again, or an attribute is better spread. */
  | { code: 'mixed' }
  /** No seat was free, so one more was added in the smallest group. */
  | { code: 'extra' }
  /** By wishes: which wish it is; null where it is none of theirs, or they had none (`wished`). */
  | { code: 'wish'; rank: number | null; wished: boolean }

/** A seat that a plan proposes; `from` is the seat given up for it. */
export interface PlanMove {
  person: string
  from: string | null
  to: string
  reason: MoveReason
}

/** Why somebody stays without a seat. */
export type LeftReason =
  | { code: 'by-hand' }
  | { code: 'no-section' }
  | { code: 'no-group-in-section' }
  | { code: 'no-room' }
  /** They said that they cannot have any of what is open to them. */
  | { code: 'cannot' }
  | { code: 'keepings'; keepings: readonly string[] }

export interface PlanLeft {
  person: string
  /** The seat that is lost, where somebody had one. */
  from: string | null
  reason: LeftReason
}

/**
 * A rule for people that cannot hold, with why: it is not minded at all. But `no-room` says of a rule that it holds,
 * and that somebody stays without a group for it.
 */
export interface PlanConflict {
  keeping: string
  code: 'both' | 'sections' | 'seated-apart' | 'seated-together' | 'too-large' | 'pinned' | 'no-room'
  people: readonly string[]
  /** Those who would be seated if this rule were released; only for `no-room`. */
  seats?: readonly string[]
}

/** How a course stands before or after a plan. */
export interface PlanFigures {
  /** Active students without a seat; in a further round of a plan by wishes, with fewer than it gives. */
  left: number
  /** Groups with people, but fewer than their floor. */
  under: number
  /** The smallest and the largest size among groups with people; null where nobody sits. */
  sizes: { least: number; most: number } | null
  /** Groups in which nobody sits. */
  empty: number
}

export interface Plan {
  moves: PlanMove[]
  left: PlanLeft[]
  conflicts: PlanConflict[]
  /** Groups that are emptied. */
  dissolved: string[]
  before: PlanFigures
  after: PlanFigures
  /** People who lose the seat they have, for another or for none. */
  moved: number
  /** True when it is certain that no plan is better; false when the search was given up before. */
  proven: boolean
  /** By how much at most a better plan could be better; null where this one is proven best. */
  gap: Gap | null
  /** False where keepings left no other way than to shuffle one answer, so that chances are nearly even, not exactly. */
  evenChances: boolean
  /** How people were exchanged to mix them; null where that was not asked for. */
  mix: MixReport | null
  /** What it comes to by wishes; null where seats are given otherwise. */
  wishes: WishReport | null
}
