import { Link } from 'react-router'
import type { SheetStub } from '../../../contract/courses.ts'
import { justOpened, type SheetState } from '../../../core/window.ts'
import { stateAt, stateWords } from '../../data/state.ts'
import { PipRow } from '../../kit/Pip.tsx'
import { StateWord } from '../../kit/StateWord.tsx'

/** A sheet on the courses page: its groups in small pips, and past the tear-off edge the one figure that matters now. */
export function Stub({ sheet, zone, now }: { sheet: SheetStub; zone: string; now: string }) {
  const { road, students } = sheet
  const state = stateAt(sheet, now)
  const { figure, words, tone } = figureNow(sheet, state, students, now)
  const topics = sheet.topics === 1 ? '1 topic' : `${sheet.topics} topics`
  const words2 =
    state === 'draft' && sheet.closesAt === null
      ? `${topics}, ${road === 'made' ? 'made by you' : 'no window yet'}`
      : stateWords(sheet, zone, now)
  return (
    <Link
      to={`/sheets/${sheet.code}/${state === 'draft' || state === 'scheduled' ? (road === 'made' ? 'settle' : 'compose') : 'run'}`}
      className="grid grid-cols-[minmax(0,1fr)_12rem] rounded-card border border-line bg-surface hover:border-open max-sm:grid-cols-1"
    >
      <div className="flex min-w-0 flex-col gap-2.5 px-4 py-3">
        <p className="flex flex-wrap items-center gap-x-2.5 gap-y-1">
          <strong className="font-display text-[1.0625rem] font-bold">{sheet.title}</strong>
          <StateWord state={state} road={road} />
          <span className="figures text-soft">{words2}</span>
        </p>
        <span className="flex flex-wrap gap-x-1.5 gap-y-1">
          {sheet.groups.map(({ seats, taken }, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: groups keep their order
            <PipRow key={i} taken={taken} seats={seats} size="tiny" />
          ))}
          {sheet.groups.length === 0 && <span className="text-faint">no topics yet</span>}
        </span>
      </div>
      <p className="flex flex-col justify-center border-l tear px-4 py-2 max-sm:border-t max-sm:border-l-0">
        <span className={`figures font-display text-2xl leading-tight font-bold ${tone}`}>{figure}</span>
        <span className="text-soft">{words}</span>
      </p>
    </Link>
  )
}

/** The one figure of a sheet that matters in its state, with what it counts. */
export function figureNow(
  sheet: Pick<SheetStub, 'short' | 'spare' | 'noGroup' | 'notRanked' | 'opensAt' | 'closesAt'>,
  state: SheetState,
  students: number,
  now: string,
): { figure: string; words: string; tone: string } {
  if (state === 'archived') return { figure: String(students - sheet.noGroup), words: 'had a seat', tone: '' }
  if (students === 0) return { figure: '0', words: 'students on the roster', tone: 'text-ember' }
  if (state === 'draft' || state === 'scheduled') {
    if (sheet.short > 0)
      return {
        figure: String(sheet.short),
        words: sheet.short === 1 ? 'seat short' : 'seats short',
        tone: 'text-ember',
      }
    if (sheet.spare === null) return { figure: 'No limit', words: 'of seats', tone: 'text-moss' }
    return {
      figure: `+${sheet.spare}`,
      words: sheet.spare === 1 ? 'seat to spare' : 'seats to spare',
      tone: 'text-moss',
    }
  }
  if (state === 'open' && sheet.notRanked !== null)
    return sheet.notRanked === 0
      ? { figure: String(students), words: 'all have ranked', tone: '' }
      : {
          figure: String(sheet.notRanked),
          words: 'ranked nothing yet',
          tone: justOpened(sheet, now) ? '' : 'text-ember',
        }
  if (sheet.noGroup > 0)
    return {
      figure: String(sheet.noGroup),
      words: 'no group yet',
      tone: state === 'open' && justOpened(sheet, now) ? '' : 'text-ember',
    }
  return { figure: String(students), words: 'everyone has a seat', tone: '' }
}
