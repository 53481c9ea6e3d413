import type { PlanContent, SettleView } from '../../../contract/plans.ts'
import { counted } from '../../../core/counted.ts'
import { saySizes } from '../../../core/supply.ts'
import { Ask } from '../../kit/Ask.tsx'
import { Check } from '../../kit/Check.tsx'
import { chosenWords } from '../record/rules.ts'
import type { GroupAfter } from './MoveList.tsx'

/** Says what goes out when groups that were made are published, who sees it, and what follows; asks once. */
export function HandOutAsk({
  view,
  content,
  groups,
  busy,
  tell,
  onTell,
  onNo,
  onYes,
}: {
  view: SettleView
  content: PlanContent
  groups: ReadonlyMap<string, GroupAfter>
  busy: boolean
  tell: boolean
  onTell: (tell: boolean) => void
  onNo: () => void
  onYes: () => void
}) {
  const sizes = [...groups.values()].map(({ stay, planned }) => stay + planned).filter((size) => size > 0)
  const seated = sizes.reduce((sum, size) => sum + size, 0)
  const { left } = content.after
  return (
    <Ask open title={`Publish ${view.title}?`} yes="Publish" busy={busy} onNo={onNo} onYes={onYes}>
      <dl className="grid grid-cols-[5.5rem_1fr] gap-x-3 gap-y-2">
        <dt>Groups</dt>
        <dd className="text-ink">{saySizes(sizes.toSorted((a, b) => b - a))}</dd>
        <dt>Seen</dt>
        <dd className="text-ink">
          at once by the {counted(view.basis.people.length, 'student')} for whom the sheet is; each sees their
          own group
        </dd>
        <dt>Chosen</dt>
        <dd className="text-ink">by nobody: students cannot take, move or give up a seat</dd>
        <dt>Convener</dt>
        <dd className="text-ink">{chosenWords('convener', view.rules)?.label}</dd>
        {left > 0 && (
          <>
            <dt>Left</dt>
            <dd className="text-ember">
              {left} {left === 1 ? 'student has' : 'students have'} no group
            </dd>
          </>
        )}
      </dl>
      <Check checked={tell} onValue={onTell}>
        Tell the {seated} by mail where they sit, with whom, and who answers for the group. The mail is held
        for a minute: an undo within it recalls it.
      </Check>
    </Ask>
  )
}
