import { useEffect, useRef, useState } from 'react'
import { toast } from 'sonner'
import { type DeskPile, type DeskView, type MarkView, setMark } from '../../../contract/marks.ts'
import { mostPoints, phrasesLike, totalOf } from '../../../core/marks.ts'
import { sayTime } from '../../../core/zone.ts'
import { call, type Fault, faultOf } from '../../data/call.ts'
import { useSoon } from '../../data/useSoon.ts'
import { Button, Key } from '../../kit/Button.tsx'
import { BOX } from '../../kit/Field.tsx'
import { typing } from '../keys.ts'
import { CriterionLine, type Placed } from './CriterionLine.tsx'

/** Milliseconds after the last change at which a mark is kept. */
const PAUSE = 700

interface Draft {
  placements: Record<string, number>
  points: number | null
  feedback: string
}

const draftOf = (mark: MarkView | null | undefined): Draft => ({
  placements: mark?.placements ?? {},
  points: mark?.points ?? null,
  feedback: mark?.feedback ?? '',
})

/** Marks of one pile: the group's by comparing, members set apart where needed, and what is said. Kept by itself. */
export function MarkPanel({
  view,
  pile,
  put,
  refetch,
  onGo,
  onNext,
}: {
  view: DeskView
  pile: DeskPile
  put: (view: DeskView) => void
  refetch: () => void
  onGo: (owner: string) => void
  onNext: () => void
}) {
  const [whose, setWhose] = useState<string | null>(null)
  const mark = whose === null ? pile.mark : (pile.setApart[whose] ?? null)
  const [draft, setDraft] = useState(() => draftOf(mark))
  const [fault, setFault] = useState<Fault | null>(null)
  const [said, setSaid] = useState('')
  const touched = useRef(false)
  const { task } = view
  const may = pile.mayMark
  // What another marker changes shows here as long as one has not begun oneself.
  const theirs = `${whose} ${mark?.version ?? 0}`
  const newest = useRef(mark)
  newest.current = mark
  // biome-ignore lint/correctness/useExhaustiveDependencies: another mark, or another version of it, begins anew
  useEffect(() => {
    if (!touched.current) setDraft(draftOf(newest.current))
  }, [theirs])

  const save = async (clear = false) => {
    if (!touched.current && !clear) return
    touched.current = false
    try {
      const body = {
        owner: pile.owner,
        apart: whose,
        version: newest.current?.version ?? 0,
        ...draft,
        ...(clear && { clear }),
      }
      const next = await call(setMark, { sheet: view.code, task: task.code }, body)
      put(next)
      setFault(null)
      setSaid(`Saved ${sayTime(next.now, view.course.zone)}`)
    } catch (error) {
      const problem = faultOf(error)
      setFault(problem)
      setSaid('')
      refetch()
    }
  }
  const soon = useSoon(() => void save())
  const change = (more: Partial<Draft>) => {
    touched.current = true
    setSaid('')
    setDraft((before) => ({ ...before, ...more }))
    soon(PAUSE)
  }
  const switchTo = async (person: string | null) => {
    await save()
    touched.current = false
    setWhose(person)
  }
  const next = async () => {
    await save()
    onNext()
  }
  const go = useRef(next)
  go.current = next
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== 'Enter' || typing(event) || (event.target as HTMLElement).tagName === 'BUTTON') return
      event.preventDefault()
      void go.current()
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [])

  const most = mostPoints(task)
  const total = totalOf(task, draft)
  const others = view.piles.filter((one) => one.owner !== pile.owner && one.mark)
  const placedOn = (id: string): Placed[] =>
    others.flatMap(({ owner, title, section, mark }) => {
      const points = mark?.placements[id]
      return points === undefined
        ? []
        : [{ owner, title: [title, section].filter(Boolean).join(', '), points }]
    })
  const phrases = phrasesLike(
    draft.feedback,
    others.flatMap(({ mark }) => mark?.feedback ?? []),
  )
  return (
    <section
      aria-label="Marks"
      className="grid shrink-0 grid-cols-[minmax(0,2.2fr)_minmax(18rem,1fr)] border-t border-line bg-surface max-lg:grid-cols-1"
    >
      <div className="px-5 py-2">
        <p className="flex flex-wrap justify-between gap-2 text-sm text-soft">
          {task.criteria.length > 0
            ? 'Place this group on each line. Small pips are the groups you placed before.'
            : 'Plain points.'}
          {task.criteria.length > 0 && (
            <span>
              <Key>0–9</Key> place <Key>← →</Key> half a point
            </span>
          )}
        </p>
        {task.criteria.map((criterion) => (
          <CriterionLine
            key={criterion.id}
            criterion={criterion}
            value={draft.placements[criterion.id]}
            placed={placedOn(criterion.id)}
            disabled={!may}
            onPlace={(points) => change({ placements: { ...draft.placements, [criterion.id]: points } })}
            onGo={onGo}
          />
        ))}
        {task.criteria.length === 0 && (
          <label className="mt-2 flex items-center gap-2">
            Points
            <input
              type="number"
              min={0}
              max={task.points}
              step={0.5}
              readOnly={!may}
              value={draft.points ?? ''}
              onChange={({ target }) => change({ points: target.value === '' ? null : Number(target.value) })}
              className={`${BOX} min-h-9 w-24`}
            />
            of {task.points}
          </label>
        )}
      </div>
      <div className="flex flex-col gap-2 border-l tear px-5 py-3 max-lg:border-t max-lg:border-l-0">
        <p className="flex items-baseline justify-between gap-3">
          <span className="font-semibold">
            {whose === null
              ? pile.kind === 'group'
                ? 'For the group'
                : 'For the student'
              : `For ${pile.people.find(({ code }) => code === whose)?.name} alone`}
          </span>
          <span className="figures font-display text-[1.625rem] leading-none font-bold">
            {total ?? '–'} <span className="text-base font-normal text-soft">of {most}</span>
          </span>
        </p>
        <textarea
          aria-label="Feedback"
          rows={3}
          readOnly={!may}
          value={draft.feedback}
          placeholder="What they should know"
          onChange={({ target }) => change({ feedback: target.value })}
          className={BOX}
        />
        {phrases.length > 0 && (
          <ul className="flex flex-col gap-1">
            {phrases.map((phrase) => (
              <li key={phrase}>
                <button
                  type="button"
                  className="rounded bg-seat-soft px-2 text-left text-sm text-seat hover:underline"
                  onClick={() => {
                    const begun = draft.feedback.split(/(?<=[.!?])\s+/)
                    change({ feedback: [...begun.slice(0, -1), phrase].join(' ') })
                  }}
                >
                  {phrase}
                </button>
              </li>
            ))}
          </ul>
        )}
        {pile.kind === 'group' && pile.people.length > 0 && (
          <ul aria-label="Members" className="flex flex-wrap gap-x-4 gap-y-1 text-sm">
            {pile.people.map(({ code, name }) => {
              const apart = pile.setApart[code]
              const own = apart && totalOf(task, apart)
              return (
                <li key={code} className="flex items-center gap-1.5">
                  {name.split(/\s+/)[0]}{' '}
                  {apart ? (
                    <>
                      <strong className="figures">{own ?? '–'}</strong>
                      <span className="rounded bg-sun-soft px-1.5 font-semibold text-sun-ink">set apart</span>
                    </>
                  ) : (
                    <span className="text-soft">as the group</span>
                  )}
                  {may && whose !== code && (
                    <button
                      type="button"
                      className="text-seat underline underline-offset-2"
                      aria-label={`${apart ? 'Change the mark of' : 'Set apart'} ${name}`}
                      onClick={() => void switchTo(code)}
                    >
                      {apart ? 'change' : 'set apart'}
                    </button>
                  )}
                </li>
              )
            })}
          </ul>
        )}
        {whose !== null && (
          <p className="flex gap-3 text-sm">
            <button
              type="button"
              className="text-seat underline underline-offset-2"
              onClick={() => void switchTo(null)}
            >
              Back to the group
            </button>
            {pile.setApart[whose] && (
              <button
                type="button"
                className="text-seat underline underline-offset-2"
                onClick={() =>
                  void save(true).then(() => {
                    setWhose(null)
                    toast('As the group again.')
                  })
                }
              >
                As the group again
              </button>
            )}
          </p>
        )}
        {fault && (
          <p role="alert" className="text-sm text-ember">
            {fault.message}
          </p>
        )}
        <div className="mt-auto flex items-center justify-between gap-3">
          <output className="text-sm text-moss">
            {said ||
              (mark
                ? `Marked by ${mark.changedBy}${mark.releasedAt ? ', out' : ', hidden from students'}`
                : '')}
          </output>
          <Button look="main" onClick={() => void next()}>
            Next to mark <Key>Enter</Key>
          </Button>
        </div>
        {!may && <p className="text-sm text-soft">You can read it; others mark this group.</p>}
      </div>
    </section>
  )
}
