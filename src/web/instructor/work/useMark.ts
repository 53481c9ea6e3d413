import {
  type DeskPile,
  type DeskView,
  type MarkView,
  setMark,
  setSecondMark,
} from '../../../contract/marks.ts'
import { msOf } from '../../../core/instant.ts'
import { call } from '../../data/call.ts'
import type { DraftRules, Known } from '../../data/draft.ts'
import { useDraft, type Writing } from '../../data/useDraft.ts'
import { type MarkDraft, mergeMarks } from './mergeMarks.ts'

/** Milliseconds after the last change at which a mark is sent. */
const PAUSE = 700

const draftOf = (mark: MarkView | null | undefined): MarkDraft => ({
  placements: mark?.placements ?? {},
  points: mark?.points ?? null,
  feedback: mark?.feedback ?? '',
})

/** The mark of a pile in a view of the desk; one that is set apart begins as the group's. */
function knownIn(view: DeskView, owner: string, whose: string | null): Known<MarkDraft> {
  const pile = view.piles.find((one) => one.owner === owner)
  const at = msOf(view.now)
  if (whose === null) return { value: draftOf(pile?.mark), version: pile?.mark?.version ?? null, at }
  const apart = pile?.setApart[whose]
  return { value: draftOf(apart ?? pile?.mark), version: apart?.version ?? null, at }
}

/** The mark of a pile, or of a member set apart, as something that is written and keeps itself. */
export function useMark({
  view,
  pile,
  whose,
  second,
  put,
  refetch,
}: {
  view: DeskView
  pile: DeskPile
  /** The member set apart, or null for everybody. */
  whose: string | null
  /** Whether it is a second reading, which changes no mark. */
  second: boolean
  put: (view: DeskView) => void
  refetch: () => void
}): Writing<MarkDraft> {
  const { owner } = pile
  const rules: DraftRules<MarkDraft> = {
    pause: PAUSE,
    send: async (value, version) => {
      const params = { sheet: view.code, task: view.task.code }
      const route = second ? setSecondMark : setMark
      const next = await call(route, params, { owner, apart: whose, version: Number(version), ...value })
      put(next)
      return knownIn(next, owner, whose)
    },
    fetch: refetch,
    meanwhile: ['marked-meanwhile'],
    merge: mergeMarks,
  }
  return useDraft(
    `${second ? 'second' : 'mark'} ${view.task.code} ${owner} ${whose ?? ''}`,
    rules,
    knownIn(view, owner, whose),
  )
}
