import type { PlanContent } from '../../../contract/plans.ts'
import { counted } from '../../../core/counted.ts'
import { Ask } from '../../kit/Ask.tsx'
import { Check } from '../../kit/Check.tsx'
import { changesIn, madeCount } from './content.ts'

/** Asks before a plan is applied, and whether those who get a seat are told. */
export function ApplyAsk({
  content,
  count,
  busy,
  tell,
  ranking = false,
  onTell,
  onNo,
  onYes,
}: {
  content: PlanContent
  /** How many seats change. */
  count: number
  busy: boolean
  /** Null where nobody sees the sheet yet, so that nobody is told. */
  tell: boolean | null
  /** Whether students can still change what they rank. */
  ranking?: boolean
  onTell: (tell: boolean) => void
  onNo: () => void
  onYes: () => void
}) {
  return (
    <Ask
      open
      title={`Apply ${count} ${count === 1 ? 'move' : 'moves'}?`}
      yes={`Apply ${count} ${count === 1 ? 'move' : 'moves'}`}
      busy={busy}
      onNo={onNo}
      onYes={onYes}
    >
      <p>{changesIn(content)}. All of it happens in one step, and can be undone.</p>
      {ranking && (
        <p className="text-sun-ink">
          The sheet has not closed: students are still ranking, and what they change afterwards counts for
          nothing.
        </p>
      )}
      {content.settings.made && <p>Added to the sheet for it: {counted(madeCount(content), 'topic')}.</p>}
      {tell === null ? (
        <p>
          Nobody is told yet: the sheet is a draft. When you publish it, you can tell everybody who sits on
          it.
        </p>
      ) : (
        <Check checked={tell} onValue={onTell}>
          Tell those who get a seat by mail: where, when, and with whom
        </Check>
      )}
    </Ask>
  )
}
