import type { LeftReason } from '../core/plan/types.ts'

/** That free seats which Run shows are in groups that have handed in, so that nobody is left for want of room alone. */
export function boundWords(groups: number): string {
  const which = groups === 1 ? 'One group with a free seat has' : `${groups} groups with free seats have`
  return `${which} handed in, so no rule and no plan puts anybody there; seat them by hand on Run, or add a group.`
}

/** Why somebody is left, in a few words: the same on the page and in mail. */
export function leftWords(reason: LeftReason): string {
  switch (reason.code) {
    case 'by-hand':
      return 'left out by hand'
    case 'no-section':
      return 'is in no section; give them one on the roster'
    case 'no-group-in-section':
      return 'their section is offered no group'
    case 'no-room':
      return 'no seat is left'
    case 'cannot':
      return 'cannot have any of what is open to them'
    case 'keepings':
      return 'no seat that keeps people apart or together as wanted'
  }
}
