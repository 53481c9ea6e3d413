import type { DeskPile, DeskView } from '../../../contract/marks.ts'
import { remarks } from '../../../contract/remarks.ts'
import { pointsOfRemarks } from '../../../core/remarks.ts'
import { useKeptAnswer } from '../../data/useKeptAnswer.ts'

/** What the points of the remarks come to for one criterion, or for plain points: taken over on a press, never by itself. */
export function ComesTo({
  view,
  pile,
  criterion,
  most,
  given,
  may,
  onPlace,
}: {
  view: DeskView
  pile: DeskPile
  /** By id; null for plain points. */
  criterion: string | null
  most: number
  /** What stands now; undefined for nothing. */
  given: number | undefined
  may: boolean
  onPlace: (points: number) => void
}) {
  const { data } = useKeptAnswer(remarks, { sheet: view.code, task: view.task.code, owner: pile.owner })
  const newest = pile.handIns.find(({ takenBackAt }) => takenBackAt === null)?.version
  // What was said of something that is not in the work any more earns and costs nothing.
  const counted = (data?.remarks ?? []).filter((one) => one.stands.some(({ version }) => version === newest))
  const points = counted.flatMap((one) =>
    one.criterion === criterion && one.points !== null ? [one.points] : [],
  )
  const sum = pointsOfRemarks(points, most)
  if (sum === null) return null
  const said = points.length === 1 ? 'One remark' : `${points.length} remarks`
  return (
    <p className="figures text-sm leading-tight text-soft">
      {said}: {sum} of {most}{' '}
      {may && sum !== given && (
        <button
          type="button"
          className="text-seat underline underline-offset-2 pointer-coarse:min-h-11 pointer-coarse:px-2"
          onClick={() => onPlace(sum)}
        >
          give {sum}
        </button>
      )}
    </p>
  )
}
