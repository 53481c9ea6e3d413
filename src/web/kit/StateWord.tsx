import type { Road } from '../../core/rules.ts'
import type { SheetState } from '../../core/window.ts'

const WORDS: Record<SheetState, { word: string; look: string }> = {
  draft: { word: 'Draft', look: 'bg-sun-soft text-sun-ink' },
  scheduled: { word: 'Scheduled', look: 'bg-seat-soft text-seat' },
  open: { word: 'Open', look: 'bg-moss-soft text-moss' },
  closed: { word: 'Closed', look: 'bg-seat-soft text-seat' },
  archived: { word: 'Archived', look: 'border border-line-strong text-soft' },
}

const PUBLISHED = { word: 'Published', look: 'bg-moss-soft text-moss' }

/** The word for a sheet's state on its coloured ground. Groups that are made are published, and have no window to close. */
export function StateWord({ state, road = 'chosen' }: { state: SheetState; road?: Road }) {
  const { word, look } = road === 'made' && state === 'closed' ? PUBLISHED : WORDS[state]
  return (
    <span className={`inline-block rounded px-2 py-px text-[0.8125rem] font-semibold ${look}`}>{word}</span>
  )
}
