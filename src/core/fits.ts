import { seatsLeft } from './limit.ts'
import type { Offers } from './rules.ts'
import { overlaps, type Slot } from './times.ts'

/** A group as one asks whether somebody may sit there. Sections are compared by any key. */
export interface FitGroup<Key> extends Slot {
  /** The section it belongs to; null for the whole course. */
  section: Key | null
  offered: boolean
  /** The limit; NO_LIMIT for none. */
  seats: number
  /** Seats taken there by others, extra ones among them. */
  taken: number
  /** Seats kept free there for others, or for a use: `keptFrom` counts them. */
  kept: number
}

/** What speaks against a seat for somebody. */
export type Misfit = 'not-offered' | 'other-section' | 'time-clash' | 'full'

/**
 * The one idea of what fits: claims, seating by hand, plans and their applying all ask it.
 * @param section the section of the person, or null without one
 * @param held the dates of other seats that the person keeps
 * @returns everything that speaks against it, in a fixed order; none where the seat can be had
 */
export function misfitsOf<Key>(
  group: FitGroup<Key>,
  section: Key | null,
  offers: Offers,
  held: readonly Slot[],
): Misfit[] {
  const misfits: Misfit[] = []
  if (!group.offered) misfits.push('not-offered')
  if (isElsewhere(group.section, section, offers)) misfits.push('other-section')
  if (held.some((slot) => overlaps(slot, group))) misfits.push('time-clash')
  if (seatsLeft(group.seats, group.taken, group.kept) === 0) misfits.push('full')
  return misfits
}

/** Whether a group is offered to another section than this one. */
export function isElsewhere<Key>(group: Key | null, section: Key | null, offers: Offers): boolean {
  return offers === 'section' && group !== null && group !== section
}

/**
 * How many of a group's held seats are kept from somebody: all that are not held for that person. A seat stays held
 * for its person wherever they sit, until they take it or staff release it.
 * @param heldFor for whom each is held; null for a use
 */
export function keptFrom<Key>(heldFor: readonly (Key | null)[], who: Key): number {
  return heldFor.filter((key) => key !== who).length
}
