import type { LeftReason } from '../core/plan/types.ts'

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
