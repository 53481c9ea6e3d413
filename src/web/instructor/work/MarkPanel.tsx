import { useEffect, useRef, useState } from 'react'
import { type DeskPile, type DeskView, setMark } from '../../../contract/marks.ts'
import { mostPoints, phrasesLike, totalOf } from '../../../core/marks.ts'
import { call } from '../../data/call.ts'
import { draftWords } from '../../data/draft.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Button, Key } from '../../kit/Button.tsx'
import { BOX } from '../../kit/Field.tsx'
import { typing } from '../../kit/keys.ts'
import { toast } from '../../kit/toast.ts'
import { ComesTo } from './ComesTo.tsx'
import { CriterionLine, type Placed } from './CriterionLine.tsx'
import { MarkedMeanwhile } from './MarkedMeanwhile.tsx'
import type { MarkDraft } from './mergeMarks.ts'
import { useMark } from './useMark.ts'

/** Marks of one pile: the group's by comparing, members set apart where needed, and what is said. Kept by itself. */
export function MarkPanel({
  view,
  pile,
  put,
  refetch,
  second = false,
  isForDesk,
  onGo,
  onNext,
}: {
  view: DeskView
  pile: DeskPile
  put: (view: DeskView) => void
  refetch: () => void
  /** Whether it is a second reading: of the whole alone, and without effect on the mark. */
  second?: boolean
  /** Whether a key was pressed on the desk itself, for the work that is in front. */
  isForDesk: (event: KeyboardEvent) => boolean
  onGo: (owner: string) => void
  onNext: () => void
}) {
  const [whose, setWhose] = useState<string | null>(null)
  const mark = whose === null ? pile.mark : (pile.setApart[whose] ?? null)
  const act = useAct()
  const { fault } = act
  const { task } = view
  const { value: draft, ...writing } = useMark({ view, pile, whose, second, put, refetch })
  // Whoever is writing goes on, although the course lets tutors mark no more: it is said that it is not saved.
  const may = pile.mayMark || writing.state !== 'kept'
  const change = (more: Partial<MarkDraft>) => {
    act.clear()
    writing.write({ ...draft, ...more })
  }
  const switchTo = (person: string | null) => {
    // What was placed goes out by itself, whoever is looked at next.
    void writing.flush()
    setWhose(person)
  }
  const clear = async () => {
    if (whose === null) return
    writing.drop()
    const body = { owner: pile.owner, apart: whose, version: mark?.version ?? 0, ...draft, clear: true }
    const done = await act.do({
      work: () => call(setMark, { sheet: view.code, task: task.code }, body),
      put,
      refetch,
      said: 'As the group again.',
      beside: true,
    })
    if (!done.fault) setWhose(null)
  }
  const open = task.criteria.filter(({ id }) => draft.placements[id] === undefined)
  const next = () => {
    void writing.flush()
    const begun = Object.keys(draft.placements).length > 0 || draft.feedback !== ''
    if (may && open.length > 0 && task.criteria.length > 0) {
      const lines = open.length === 1 ? `“${open[0]?.title}” is` : `${open.length} lines are`
      toast(`${pile.title} is ${begun ? 'not marked whole' : 'not marked'}: ${lines} open.`)
    }
    onNext()
  }
  const keys = useRef({ next, place: (_: number) => {} })
  keys.current = {
    next,
    // Without a line in hand, a digit places on the first line that is open.
    place: (digit) => {
      const line = open[0]
      if (may && line && digit <= line.points)
        change({ placements: { ...draft.placements, [line.id]: digit } })
    },
  }
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!isForDesk(event)) return
      if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey || typing(event)) return
      if (/^\d$/.test(event.key)) {
        event.preventDefault()
        keys.current.place(Number(event.key))
      }
      if (event.key !== 'Enter' || (event.target as HTMLElement).tagName === 'BUTTON') return
      event.preventDefault()
      keys.current.next()
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [isForDesk])

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
  const place = (id: string, points: number) => change({ placements: { ...draft.placements, [id]: points } })
  // A second reading knows nothing of what the first marker said in the work; a member set apart has no work of their own.
  const comesTo = (criterion: string | null, most: number, given: number | undefined) =>
    !second &&
    whose === null && (
      <ComesTo
        view={view}
        pile={pile}
        criterion={criterion}
        most={most}
        given={given}
        may={may}
        onPlace={(points) => (criterion === null ? change({ points }) : place(criterion, points))}
      />
    )
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
            <span className="pointer-coarse:hidden">
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
            note={comesTo(criterion.id, criterion.points, draft.placements[criterion.id])}
            onPlace={(points) => place(criterion.id, points)}
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
        {task.criteria.length === 0 && comesTo(null, task.points, draft.points ?? undefined)}
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
        {!second && pile.kind === 'group' && pile.people.length > 0 && (
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
                      className="text-seat underline underline-offset-2 pointer-coarse:min-h-11 pointer-coarse:px-2"
                      aria-label={`${apart ? 'Change the mark of' : 'Set apart'} ${name}`}
                      onClick={() => switchTo(code)}
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
              onClick={() => switchTo(null)}
            >
              Back to the group
            </button>
            {pile.setApart[whose] && (
              <button
                type="button"
                className="text-seat underline underline-offset-2"
                onClick={() => void clear()}
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
        <MarkedMeanwhile writing={writing} mine={draft} theirsBy={mark?.changedBy ?? 'Somebody'} />
        <div className="mt-auto flex items-center justify-between gap-3">
          <output
            className={`text-sm ${['refused', 'retrying', 'beside'].includes(writing.state) ? 'text-ember' : 'text-moss'}`}
          >
            {writing.state !== 'kept'
              ? draftWords(writing)
              : mark
                ? second
                  ? 'Saved. It changes no mark.'
                  : `Saved. Marked by ${mark.changedBy}${mark.releasedAt ? ', out' : ', hidden from students'}`
                : ''}
          </output>
          <Button look="main" onClick={next}>
            Next to mark{' '}
            <span className="pointer-coarse:hidden">
              <Key>Enter</Key>
            </span>
          </Button>
        </div>
        {!may && <p className="text-sm text-soft">You can read it; others mark this group.</p>}
      </div>
    </section>
  )
}
