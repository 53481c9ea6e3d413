import type { StudentSheet } from '../../../contract/seats.ts'
import type { OwnSwaps } from '../../../contract/swaps.ts'
import type { OwnList, OwnWishes } from '../../../contract/wishes.ts'
import { msOf } from '../../../core/instant.ts'
import type { DraftRules, Known } from '../../data/draft.ts'
import { useDraft, type Writing } from '../../data/useDraft.ts'

/** What a student ranks, as it is changed on the page. */
export interface Order {
  ranks: string[][]
  cannot: { topic: string; reason: string }[]
  mates: { people: string[]; first: boolean }
}

/** Milliseconds after the last change at which it is sent. */
const PAUSE = 500

const knownOf = ({ ranks, cannot, mates, version, now }: OwnList): Known<Order> => ({
  value: { ranks, cannot, mates },
  version,
  at: msOf(now),
})

/** A student’s order of topics, which keeps itself. */
export function useOrder(
  view: Pick<StudentSheet, 'code'>,
  wishes: OwnWishes,
  {
    save,
    refetch,
  }: {
    save: (order: Order, over: number) => Promise<OwnList>
    refetch: () => void
  },
): Writing<Order> {
  const rules: DraftRules<Order> = {
    pause: PAUSE,
    send: async ({ ranks, cannot, mates }, version) => {
      // A topic that cannot be is kept once it is said why; the order goes without it.
      const said = cannot.filter(({ reason }) => reason.trim() !== '')
      const known = knownOf(await save({ ranks, cannot: said, mates }, Number(version ?? 0)))
      return { ...known, value: { ...known.value, cannot } }
    },
    fetch: refetch,
    meanwhile: ['changed-meanwhile'],
  }
  return useDraft(`wishes ${view.code}`, rules, knownOf(wishes))
}

const swapKnown = ({ ranks, version, now }: OwnSwaps): Known<string[][]> => ({
  value: ranks,
  version,
  at: msOf(now),
})

/** Topics that a student would rather have than their seat, by rank, which keep themselves. */
export function useSwapWish(
  view: Pick<StudentSheet, 'code'>,
  swaps: OwnSwaps,
  {
    save,
    refetch,
  }: {
    save: (ranks: string[][], over: number) => Promise<OwnSwaps>
    refetch: () => void
  },
): Writing<string[][]> {
  const rules: DraftRules<string[][]> = {
    pause: PAUSE,
    send: async (ranks, version) => swapKnown(await save(ranks, Number(version ?? 0))),
    fetch: refetch,
    meanwhile: ['changed-meanwhile'],
  }
  return useDraft(`swaps ${view.code} ${swaps.seat}`, rules, swapKnown(swaps))
}
