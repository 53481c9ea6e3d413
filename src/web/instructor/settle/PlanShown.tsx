import { useState } from 'react'
import type { PlanContent, SettleView } from '../../../contract/plans.ts'
import { boundWords } from '../../../contract/planWords.ts'
import type { Concern } from '../../../contract/problems.ts'
import type { PlanInput } from '../../../core/plan/types.ts'
import { Button } from '../../kit/Button.tsx'
import { AimTable } from './AimTable.tsx'
import { Compared, type Opened } from './Compared.tsx'
import { Conflicts } from './Conflicts.tsx'
import { Figures } from './Figures.tsx'
import { MixWords } from './FreshCard.tsx'
import { HowDrawn } from './HowDrawn.tsx'
import type { Choices } from './input.ts'
import { Misfits } from './Misfits.tsx'
import { type GroupAfter, MoveList } from './MoveList.tsx'
import type { PlanNaming } from './naming.ts'
import { PlannedField } from './PlannedField.tsx'
import { Proof } from './Proof.tsx'
import type { AimsTold } from './useAims.ts'
import type { Planner } from './usePlanner.ts'
import { WishChartsAsk } from './WishChartsAsk.tsx'

/** A plan as it is looked at: what it comes to, how sure that is, what speaks against it, and each of its moves. */
export function PlanShown({
  view,
  content,
  title,
  opened,
  onOpen,
  beside,
  onBeside,
  input,
  choices,
  change,
  pin,
  planner,
  aims,
  naming,
  groups,
  misfits,
  put,
  newKey,
}: {
  view: SettleView
  content: PlanContent
  title: string
  /** A kept or proposed plan that is looked at; null for the one that follows from the choices. */
  opened: Opened | null
  onOpen: (plan: Opened | null) => void
  /** The plan that it is compared with. */
  beside: Opened | null
  onBeside: (plan: Opened | null) => void
  input: PlanInput | null
  choices: Choices
  change: (more: Partial<Choices>) => void
  pin: (person: string, group: string | null | undefined) => void
  planner: Planner
  aims: AimsTold
  naming: PlanNaming
  groups: Map<string, GroupAfter>
  misfits: readonly Concern[]
  put: (view: SettleView) => void
  newKey: () => string
}) {
  const [asField, setAsField] = useState(false)
  const [drawn, setDrawn] = useState(false)
  const byWishes = choices.method === 'wishes'
  return (
    <>
      <div className="flex flex-col gap-3 border-b border-line px-5 py-3">
        {byWishes && (
          <AimTable
            aim={content.settings.wishes?.aim ?? choices.byWishes.aim}
            aims={aims}
            {...(!opened && {
              onAim: (aim) => change({ byWishes: { ...choices.byWishes, aim } }),
            })}
          />
        )}
        {opened && (
          <p className="flex flex-wrap items-center gap-2 rounded-field bg-seat-soft px-3 py-1.5">
            {opened.proposed
              ? `${opened.title}: nothing is changed until it is applied.`
              : `You look at the plan “${opened.title}” as it was kept.`}
            <Button size="small" onClick={() => onOpen(null)}>
              Plan anew
            </Button>
          </p>
        )}
        <Figures
          content={content}
          groupTitles={content.dissolved.map((group) => naming.group(group, true))}
        />
        <Proof
          gap={content.gap}
          searching={!opened && planner.searching}
          progress={planner.progress}
          stop={planner.stop}
        />
        {content.mix && (
          <MixWords mix={content.mix} fresh={content.mix.before.again > 0 || choices.fresh.length > 0} />
        )}
        <Conflicts view={view} content={content} naming={naming} put={put} />
        {view.boundWithRoom > 0 && content.left.some(({ reason }) => reason.code === 'no-room') && (
          <p className="rounded-field bg-sun-soft px-3 py-2 text-sun-ink">{boundWords(view.boundWithRoom)}</p>
        )}
        <Misfits misfits={misfits} />
        <div className="flex flex-wrap items-center gap-2">
          <Button size="small" aria-pressed={asField} onClick={() => setAsField(!asField)}>
            {asField ? 'As a list of moves' : 'As the seat field'}
          </Button>
          {byWishes && <WishChartsAsk view={view} content={content} />}
          {!opened && input && content.settings.method !== 'surname' && !byWishes && !content.mix && (
            <Button size="small" onClick={() => setDrawn(true)}>
              How was this drawn?
            </Button>
          )}
          {beside ? (
            <Button size="small" onClick={() => onBeside(null)}>
              Close comparison
            </Button>
          ) : (
            <Button size="small" onClick={() => onBeside({ key: '', title, content })}>
              Compare with another plan
            </Button>
          )}
        </div>
        {beside && (
          <Compared
            view={view}
            here={content}
            beside={beside}
            naming={naming}
            onTake={() => {
              onOpen({ ...beside, key: newKey() })
              onBeside({ key: '', title, content })
            }}
          />
        )}
      </div>
      {asField ? (
        <PlannedField view={view} groups={groups} naming={naming} />
      ) : (
        <MoveList
          view={view}
          content={content}
          groups={groups}
          naming={naming}
          pins={choices.pins}
          {...(!opened && { onPin: pin })}
          {...(!opened && byWishes && input && { input })}
        />
      )}
      {drawn && input && (
        <HowDrawn
          view={view}
          input={input}
          content={content}
          naming={naming}
          onClose={() => setDrawn(false)}
        />
      )}
    </>
  )
}
