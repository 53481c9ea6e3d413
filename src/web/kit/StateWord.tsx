import type { SheetState } from '../../core/window.ts'

const WORDS: Record<SheetState, { word: string; look: string }> = {
  draft: { word: 'Draft', look: 'bg-sun-soft text-sun-ink' },
  scheduled: { word: 'Scheduled', look: 'bg-seat-soft text-seat' },
  open: { word: 'Open', look: 'bg-moss-soft text-moss' },
  closed: { word: 'Closed', look: 'bg-seat-soft text-seat' },
  archived: { word: 'Archived', look: 'border border-line-strong text-soft' },
}

/** The word for a sheet's state on its coloured ground. */
export function StateWord({ state }: { state: SheetState }) {
  const { word, look } = WORDS[state]
  return (
    <span className={`inline-block rounded px-2 py-px text-[0.8125rem] font-semibold ${look}`}>{word}</span>
  )
}
