import { Button } from '../../kit/Button.tsx'

/** Stands where a plan is being made. */
export function Planning({
  progress,
  fault,
  stop,
}: {
  progress: number | null
  fault: string | null
  stop: () => void
}) {
  if (fault)
    return (
      <p role="alert" className="p-6 text-ember">
        {fault}
      </p>
    )
  return (
    <div className="flex flex-col items-center gap-3 p-10 text-soft">
      <p>Making the plan…</p>
      <progress
        className="w-64 accent-seat"
        value={progress ?? 0}
        max={1}
        aria-label="Share of the plan that is made"
      />
      <Button size="small" onClick={stop}>
        Stop
      </Button>
    </div>
  )
}
