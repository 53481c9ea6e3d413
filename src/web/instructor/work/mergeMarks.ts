/** A mark as it is written at the desk. */
export interface MarkDraft {
  placements: Record<string, number>
  points: number | null
  feedback: string
}

/**
 * Two markers' changes of one mark laid over each other: each line and text that only one of them changed is theirs.
 * Null where both wrote the same part differently: then somebody has to say which.
 */
export function mergeMarks(base: MarkDraft, mine: MarkDraft, theirs: MarkDraft): MarkDraft | null {
  const placements: Record<string, number> = {}
  const ids = new Set([base, mine, theirs].flatMap((draft) => Object.keys(draft.placements)))
  for (const id of ids) {
    const part = either(base.placements[id], mine.placements[id], theirs.placements[id])
    if (part === CLASH) return null
    if (part !== undefined) placements[id] = part
  }
  const points = either(base.points, mine.points, theirs.points)
  const feedback = either(base.feedback, mine.feedback, theirs.feedback)
  if (points === CLASH || feedback === CLASH) return null
  return { placements, points, feedback }
}

const CLASH = Symbol('both changed it')

function either<Part>(base: Part, mine: Part, theirs: Part): Part | typeof CLASH {
  if (mine === base || mine === theirs) return theirs
  return theirs === base ? mine : CLASH
}
