import { ordinal } from '../core/ordinal.ts'
import type { WishAim } from '../core/wishes/types.ts'

/** What a seating by wishes can aim at, in words. The first is what a sheet begins with. */
export const AIMS: readonly { aim: WishAim; label: string; notice: string; short: string }[] = [
  {
    aim: 'most-first',
    label: 'as many first wishes as can be',
    notice: 'Then as many second ones, and so on. A few may come far down for it.',
    short: 'then as many second, and so on',
  },
  {
    aim: 'nobody-far-down',
    label: 'nobody far down',
    notice: 'The worst-off come as high as can be, then the next; it may cost some first wishes.',
    short: 'the worst-off as high as can be, then the next',
  },
  {
    aim: 'least-total',
    label: 'the least in all',
    notice: 'The sum of all ranks is as small as can be.',
    short: 'the smallest sum of ranks',
  },
  {
    aim: 'in-turn',
    label: 'in turn by lot',
    notice:
      'Each takes the best that is left, in the order of the lot. With one seat each, and where no floor or rule for people is in the way, nobody gains by ranking otherwise than they mean.',
    short: 'each takes the best that is left, in the order of the lot',
  },
]

export const aimLabel = (aim: WishAim): string => AIMS.find((one) => one.aim === aim)?.label ?? aim

const ORDINALS = [
  'first',
  'second',
  'third',
  'fourth',
  'fifth',
  'sixth',
  'seventh',
  'eighth',
  'ninth',
  'tenth',
]

/** A rank in words: first, second, …; 11th from there on. */
export function rankWords(rank: number): string {
  return ORDINALS[rank - 1] ?? ordinal(rank)
}

/** What stands before a wish: “your third wish”, “none of your wishes”. */
export const wishWords = (rank: number | null): string =>
  rank === null ? 'none of your wishes' : `your ${rankWords(rank)} wish`
