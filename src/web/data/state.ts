import { useEffect, useState } from 'react'
import type { SheetHead } from '../../contract/sheets.ts'
import { msOf } from '../../core/instant.ts'
import { type SheetState, sayLength, sheetState } from '../../core/window.ts'
import { sayInstant } from '../../core/zone.ts'
import { serverNow } from './clock.ts'

type Windowed = Pick<SheetHead, 'state' | 'opensAt' | 'closesAt'>

/** A sheet's state at the given instant: the page changes by itself when the window opens or closes. */
export function stateAt({ state, opensAt, closesAt }: Windowed, now: string): SheetState {
  if (state === 'archived' || state === 'draft') return state
  return sheetState({ publishedAt: '', opensAt, closesAt, archivedAt: null }, now)
}

/** A sheet's state in words, after the word itself: `closes Wed 13 May, 17:00, in 2 days 4 h`. */
export function stateWords(sheet: Windowed, zone: string, now: string): string {
  const left = (instant: string) => `${sayInstant(instant, zone)}, in ${sayLength(msOf(instant) - msOf(now))}`
  switch (stateAt(sheet, now)) {
    case 'draft':
      return 'only instructors and tutors see it'
    case 'scheduled':
      return sheet.opensAt ? `opens ${left(sheet.opensAt)}` : ''
    case 'open':
      return sheet.closesAt ? `closes ${left(sheet.closesAt)}` : 'no closing time'
    case 'closed':
      return sheet.closesAt ? `since ${sayInstant(sheet.closesAt, zone)}` : ''
    case 'archived':
      return 'archived'
  }
}

/** A sheet's state by the server's clock; the page is drawn anew only when it turns. */
export function useSheetState(sheet: Windowed): SheetState {
  const [state, setState] = useState(() => stateAt(sheet, serverNow()))
  useEffect(() => {
    const look = () => setState(stateAt(sheet, serverNow()))
    look()
    const timer = setInterval(look, 500)
    return () => clearInterval(timer)
  }, [sheet])
  return state
}
