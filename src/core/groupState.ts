/** How a group stands on its sheet: to be had, an exception that is not, or gone with its topic. */
export const GROUP_STATES = ['offered', 'not-offered', 'removed'] as const
export type GroupState = (typeof GROUP_STATES)[number]

/** What each state lets. A further state says it here, once. */
const LETS: Readonly<Record<GroupState, { seats: boolean; onSheet: boolean }>> = {
  offered: { seats: true, onSheet: true },
  'not-offered': { seats: false, onSheet: true },
  removed: { seats: false, onSheet: false },
}

/** Whether seats can be had in a group of this state. Whoever sits there already may stay all the same. */
export const takesPeople = ({ state }: { state: GroupState }): boolean => LETS[state].seats

/** Whether a group of this state is on its sheet, for those who write it. */
export const isOnSheet = ({ state }: { state: GroupState }): boolean => LETS[state].onSheet
