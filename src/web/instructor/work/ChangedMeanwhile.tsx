import { Button } from '../../kit/Button.tsx'

/** A field that somebody else changed while it was written here: both are there, and one is chosen. */
export function ChangedMeanwhile({
  words,
  theirs,
  onMine,
  onTheirs,
}: {
  /** What the field is called. */
  words: string
  theirs: unknown
  onMine: () => void
  onTheirs: () => void
}) {
  return (
    <div role="alert" className="flex flex-col gap-1.5 rounded-field bg-sun-soft px-3 py-2 text-sm">
      <p className="font-semibold text-sun-ink">Somebody else changed {words} meanwhile.</p>
      {typeof theirs === 'string' && theirs !== '' && <p>Theirs: “{theirs}”. Yours stands above.</p>}
      <div className="flex flex-wrap gap-2">
        <Button size="small" onClick={onMine}>
          Save mine
        </Button>
        <Button size="small" onClick={onTheirs}>
          Use theirs
        </Button>
      </div>
    </div>
  )
}
