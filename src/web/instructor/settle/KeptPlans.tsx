import { dropPlan, type KeptPlan, keepPlan, type SettleView, undoPlan } from '../../../contract/plans.ts'
import { sayInstant } from '../../../core/zone.ts'
import { call } from '../../data/call.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Button } from '../../kit/Button.tsx'
import { Card } from '../../kit/Card.tsx'

/** Plans that were kept, drafted at a close, or applied; the newest first. */
export function KeptPlans({
  view,
  put,
  refetch,
  onOpen,
}: {
  view: SettleView
  put: (view: SettleView) => void
  refetch: () => void
  onOpen: (plan: KeptPlan) => void
}) {
  const act = useAct()
  if (view.plans.length === 0) return null
  const drop = ({ code, title, content }: KeptPlan) =>
    act.do({
      work: () => call(dropPlan, { sheet: view.code, plan: code }),
      undo: () =>
        call(keepPlan, { sheet: view.code }, { key: `plan-${crypto.randomUUID()}`, title, content }),
      put,
      said: `“${title}” is deleted.`,
    })
  const undo = (plan: KeptPlan) =>
    act.do({
      work: () => call(undoPlan, { sheet: view.code, plan: plan.code }),
      put: refetch,
      refetch,
      said: ({ undone, kept }) =>
        `${undone} undone.${kept.length > 0 ? ` ${kept.length} had moved on and stay: ${kept.slice(0, 4).join(', ')}.` : ''}`,
    })
  return (
    <Card title="Plans">
      <ul>
        {view.plans.map((plan) => (
          <li key={plan.code} className="border-b tear py-1.5 last:border-0">
            <p className="font-semibold">{plan.title}</p>
            <p className="text-sm text-soft">{standingOf(plan, view)}</p>
            {view.mayEdit && (
              <p className="mt-1 flex gap-1.5">
                {plan.appliedAt === null ? (
                  <>
                    <Button size="small" onClick={() => onOpen(plan)}>
                      Open plan
                    </Button>
                    <Button size="small" look="quiet" onClick={() => void drop(plan)}>
                      Delete plan
                    </Button>
                  </>
                ) : (
                  plan.undoneAt === null && (
                    <Button size="small" onClick={() => void undo(plan)}>
                      Undo plan
                    </Button>
                  )
                )}
              </p>
            )}
          </li>
        ))}
      </ul>
    </Card>
  )
}

function standingOf(
  { madeBy, madeAt, appliedAt, undoneAt, changedSince, content }: KeptPlan,
  view: SettleView,
): string {
  const { zone } = view.course
  const by = madeBy === null ? 'by the house rule' : `by ${madeBy}`
  const moves = `${content.moves.length} ${content.moves.length === 1 ? 'move' : 'moves'}`
  const since =
    changedSince === 0
      ? 'nothing changed since'
      : `${changedSince} ${changedSince === 1 ? 'seat' : 'seats'} changed since`
  if (undoneAt !== null) return `${moves}, undone ${sayInstant(undoneAt, zone)}`
  if (appliedAt !== null) return `${moves}, applied ${sayInstant(appliedAt, zone)} ${by}; ${since}`
  return `${moves}, kept ${sayInstant(madeAt, zone)} ${by}; ${since}`
}
