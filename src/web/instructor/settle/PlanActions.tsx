import { Button } from '../../kit/Button.tsx'

/** What can be done with a plan, at the head of the page: discard, save, apply, and publish groups that are made. */
export function PlanActions({
  count,
  ready,
  busy,
  touched,
  handsOut,
  publishes,
  onDiscard,
  onKeep,
  onApply,
  onHandOut,
}: {
  /** Seats that the plan changes. */
  count: number
  /** Whether there is a plan. */
  ready: boolean
  busy: boolean
  /** Whether anything was chosen that can be discarded. */
  touched: boolean
  /** Whether made groups are still to go out; and whether there is somebody in them who would. */
  handsOut: boolean
  publishes: boolean
  onDiscard: () => void
  onKeep: () => void
  onApply: () => void
  onHandOut: () => void
}) {
  return (
    <div className="mb-2 flex flex-wrap items-center gap-2">
      {touched && <Button onClick={onDiscard}>Discard</Button>}
      <Button disabled={!ready || count === 0} busy={busy} onClick={onKeep}>
        Save plan
      </Button>
      <Button
        look={handsOut ? 'plain' : 'main'}
        disabled={!ready || count === 0}
        busy={busy}
        onClick={onApply}
      >
        {count === 0 ? 'Nothing to apply' : `Apply ${count} ${count === 1 ? 'move' : 'moves'}`}
      </Button>
      {handsOut && (
        <Button look="main" disabled={!ready || !publishes} busy={busy} onClick={onHandOut}>
          Publish the groups…
        </Button>
      )}
    </div>
  )
}
