/** A limit that stands for "no limit", in data and on the wire. */
export const NO_LIMIT = 0

/**
 * Seats that somebody could still take in a group.
 * @param seats the limit; NO_LIMIT for none
 * @param taken seats taken, extra ones among them
 * @param held seats kept free for others
 * @returns Infinity where there is no limit
 */
export function seatsLeft(seats: number, taken: number, held = 0): number {
  return seats === NO_LIMIT ? Number.POSITIVE_INFINITY : Math.max(0, seats - taken - held)
}

/** Whether a group has people, but fewer than can work. One in which nobody sits is empty, not too small. */
export function isUnderFloor(taken: number, floor: number): boolean {
  return taken > 0 && taken < floor
}

/** How many sit past the limit. */
export function pastLimit(seats: number, taken: number): number {
  return seats === NO_LIMIT ? 0 : Math.max(0, taken - seats)
}
