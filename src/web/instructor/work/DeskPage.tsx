import { useCallback, useEffect, useRef, useState } from 'react'
import { Link, useParams, useSearchParams } from 'react-router'
import { type DeskPile, type DeskView, desk, releaseMarks, secondDesk } from '../../../contract/marks.ts'
import type { WorkState } from '../../../contract/tasks.ts'
import { sayInstant } from '../../../core/zone.ts'
import { useAnswer } from '../../data/answers.ts'
import { call } from '../../data/call.ts'
import { useOnline } from '../../data/online.ts'
import { drafts } from '../../data/useDraft.ts'
import { useKeptAnswer } from '../../data/useKeptAnswer.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Ask } from '../../kit/Ask.tsx'
import { Awaited } from '../../kit/Awaited.tsx'
import { Button, Key } from '../../kit/Button.tsx'
import { Frame } from '../../kit/Frame.tsx'
import { useKey } from '../../kit/keys.ts'
import { toast } from '../../kit/toast.ts'
import { FindBox } from '../FindBox.tsx'
import { MarkPanel } from './MarkPanel.tsx'
import { PileLine } from './PileLine.tsx'
import { STATES } from './states.ts'
import { useOthers } from './useOthers.ts'
import { WorkInPlace } from './WorkInPlace.tsx'

/** The desk: through the pile of one task, each work in place, marked by comparing. */
export function DeskPage() {
  const { sheet = '', task = '' } = useParams()
  const answer = useKeptAnswer(desk, { sheet, task }, { refreshInterval: 5_000 })
  const { mutate } = answer
  return (
    <Awaited of={answer} what="the pile" elsewhere={`/sheets/${sheet}/tasks`}>
      {(view) => (
        <Desk
          view={view}
          lost={answer.lost}
          put={(next) => void mutate(next, { revalidate: false })}
          refetch={() => void mutate()}
        />
      )}
    </Awaited>
  )
}

/** The desk of a second reading: what was drawn, without the first marks. */
export function SecondDeskPage() {
  const { sheet = '', task = '' } = useParams()
  const answer = useAnswer(secondDesk, { sheet, task })
  const { mutate } = answer
  return (
    <Awaited of={answer} what="what was drawn" elsewhere={`/sheets/${sheet}/tasks`}>
      {(view) => (
        <Desk
          second
          view={view}
          lost={false}
          put={(next) => void mutate(next, { revalidate: false })}
          refetch={() => void mutate()}
        />
      )}
    </Awaited>
  )
}

/** Milliseconds after another work came in front during which keys mark nothing. */
const SETTLING = 300

function Desk({
  view,
  second = false,
  lost,
  put,
  refetch,
}: {
  view: DeskView
  /** Whether it is a second reading. */
  second?: boolean
  /** Whether the server could not be reached when it was asked last. */
  lost: boolean
  put: (view: DeskView) => void
  refetch: () => void
}) {
  const [params, setParams] = useSearchParams()
  const [releasing, setReleasing] = useState(false)
  const act = useAct()
  const online = useOnline()
  const { busy } = act
  const piles = view.piles
  const { pile, at, gone } = useInFront(piles, params.get('pile'))
  const desktop = useRef<HTMLDivElement>(null)
  const heading = useRef<HTMLHeadingElement>(null)
  const owner = pile?.owner
  // Keys are the desk's where the focus is in it, or was nowhere yet; what had it may have gone with the work before.
  const front = useRef({ owner, since: 0 })
  const focused = useRef(false)
  useEffect(() => {
    if (front.current.owner === owner) return
    // What was typed for the work before marks nothing in the next.
    front.current = { owner, since: performance.now() + SETTLING }
    if (document.activeElement === document.body) heading.current?.focus({ preventScroll: true })
  }, [owner])
  useEffect(() => {
    const note = () => {
      focused.current = true
    }
    document.addEventListener('focusin', note)
    return () => document.removeEventListener('focusin', note)
  }, [])
  const isForDesk = useCallback((event: KeyboardEvent) => {
    const here =
      event.target === document.body ? !focused.current : desktop.current?.contains(event.target as Node)
    return here === true && performance.now() > front.current.since
  }, [])
  // Where the last key led: the next one counts from there, also before the page has followed.
  const led = useRef(at)
  useEffect(() => {
    led.current = at
  }, [at])
  const go = (index: number) => {
    const to = (index + piles.length) % piles.length
    const next = piles[to]
    if (!next) return
    led.current = to
    setParams({ pile: next.owner }, { replace: true })
  }
  const nextToMark = () => {
    const order = [...piles.keys()].map((i) => (at + 1 + i) % piles.length)
    const next = order.find((i) => toMark(piles[i] as DeskPile))
    if (next === undefined) toast.success('Everything that is there to mark is marked.')
    else go(next)
  }
  const others = useOthers(view.code, view.task.code, second ? undefined : pile?.owner)
  const here = others.filter(({ owner }) => owner === pile?.owner).map(({ name }) => name)
  useKey('j', () => go(led.current + 1))
  useKey('k', () => go(led.current - 1))
  const marked = piles.filter((one) => one.marked).length
  const hidden = piles.filter((one) => one.marked && !one.released).length
  const out = piles.filter((one) => one.released).length
  const release = async (released: boolean, owners: string[] | null) => {
    if (!(await drafts.flushEvery())) {
      toast.error('Something is not saved yet. Try again in a moment.')
      return
    }
    await act.do({
      work: () => call(releaseMarks, { sheet: view.code, task: view.task.code }, { owners, released }),
      put,
      refetch,
      said: released
        ? `${owners ? 'The mark is' : 'The marks are'} out; whoever they are for is told by mail.`
        : `${owners ? 'The mark is' : 'The marks are'} hidden again.`,
    })
    setReleasing(false)
  }
  const marksOut = (
    <div className="flex flex-wrap items-center gap-2 lg:shrink-0">
      {!second && view.noGroup.length > 0 && view.task.forWhom !== 'some-groups' && (
        <Link
          to={`/sheets/${view.code}/run`}
          className="rounded bg-ember-soft px-2 py-px text-sm font-semibold text-ember underline underline-offset-2"
        >
          {view.noGroup.length === 1 ? '1 person has' : `${view.noGroup.length} people have`} no group
        </Link>
      )}
      {view.mayRelease && pile?.marked && (
        <Button busy={busy} onClick={() => void release(!pile.released, [pile.owner])}>
          {pile.released ? 'Hide this one' : 'Release this one'}
        </Button>
      )}
      {view.mayRelease && out > 0 && (
        <Button busy={busy} onClick={() => void release(false, null)}>
          Hide {out} again
        </Button>
      )}
      {view.mayRelease && (
        <Button disabled={hidden === 0} busy={busy} onClick={() => setReleasing(true)}>
          Release {hidden} {hidden === 1 ? 'mark' : 'marks'}…
        </Button>
      )}
    </div>
  )
  return (
    <Frame
      fit
      title={`${second ? 'Second reading' : 'Desk'}: ${view.task.title}`}
      crumbs={[
        { label: view.course.courseCode, to: `/courses/${view.course.code}` },
        { label: view.title, to: `/sheets/${view.code}/work` },
        { label: second ? `${view.task.title}, a second reading` : view.task.title },
      ]}
      find={<FindBox sheet={view} />}
    >
      <div ref={desktop} tabIndex={-1} className="flex min-h-0 flex-1 flex-col outline-none">
        <div className="flex flex-col gap-2 border-b border-line px-5 py-2.5">
          <div className="flex items-center justify-between gap-3 max-lg:flex-wrap">
            <div className="min-w-0 truncate">
              <h1
                ref={heading}
                tabIndex={-1}
                className="inline text-xl text-nowrap max-sm:block max-sm:truncate"
              >
                {pile ? `${pile.title}${pile.section ? `, ${pile.section}` : ''}` : view.task.title}
              </h1>
              {pile && (
                <span title={pileWords(pile, view)} className="ml-3 text-soft max-sm:ml-0">
                  {pileWords(pile, view)}
                </span>
              )}
            </div>
            {pile?.handsIn === false ? <div className="max-sm:hidden">{marksOut}</div> : marksOut}
          </div>
          <div className="flex flex-wrap items-center gap-3">
            <PileLine piles={piles} at={at} others={others} onGo={go} />
            <span className="figures text-soft">
              {marked} of {piles.length} marked
            </span>
            {here.length > 0 && (
              <span role="status" className="rounded bg-sun-soft px-2 text-sm font-semibold text-sun-ink">
                {here.join(' and ')} {here.length === 1 ? 'is' : 'are'} at this one too
              </span>
            )}
            <span className="ml-auto flex gap-1 text-sm text-soft pointer-coarse:hidden">
              <Key>J</Key> <Key>K</Key> next, before
            </span>
            <span className="ml-auto hidden gap-2 pointer-coarse:flex">
              <Button size="touch" onClick={() => go(at - 1)}>
                Before
              </Button>
              <Button size="touch" onClick={() => go(at + 1)}>
                Next
              </Button>
            </span>
          </div>
          {gone && (
            <output className="block rounded-field bg-sun-soft px-3 py-2 text-sm text-sun-ink">
              This work is not among yours any more: its group has changed, or is looked after by somebody
              else. What you wrote stays here until you go on, and is not saved.
            </output>
          )}
          {(lost || !online) && (
            <output className="block rounded-field bg-sun-soft px-3 py-2 text-sm text-sun-ink">
              No connection. What you mark is kept on this device, and goes out by itself once there is one.
            </output>
          )}
        </div>
        {!pile ? (
          <p className="m-auto p-10 text-center text-soft">
            {second
              ? 'Nothing is drawn for you here.'
              : 'There is nobody this task is for yet. Once groups have members, their work lies here.'}
          </p>
        ) : (
          <div className="flex min-h-0 flex-1 flex-col">
            <WorkInPlace key={`work ${pile.owner}`} pile={pile} view={view} put={put} second={second} />
            <MarkPanel
              key={pile.owner}
              view={view}
              pile={pile}
              put={put}
              refetch={refetch}
              second={second}
              isForDesk={isForDesk}
              onGo={(owner) => setParams({ pile: owner }, { replace: true })}
              onNext={nextToMark}
            />
            {/* On a phone, where it takes place, marking comes first. */}
            {!pile.handsIn && <div className="order-last bg-seat-soft px-5 py-3 sm:hidden">{marksOut}</div>}
          </div>
        )}
      </div>
      <Ask
        open={releasing}
        title={`Release ${hidden} ${hidden === 1 ? 'mark' : 'marks'}?`}
        yes={`Release ${hidden} ${hidden === 1 ? 'mark' : 'marks'}`}
        busy={busy}
        onNo={() => setReleasing(false)}
        onYes={() => void release(true, null)}
      >
        <p>
          Each student then sees their own mark, criteria and feedback, and nobody else’s, and is told by
          mail. What is not marked whole stays hidden.
        </p>
      </Ask>
    </Frame>
  )
}

/**
 * The work that is in front: the one that was asked for, or the first to mark, chosen once. It stays in front when it is
 * marked, and when it is not among the reader’s any more (`gone`), until another is asked for.
 */
function useInFront(
  piles: readonly DeskPile[],
  asked: string | null,
): { pile: DeskPile | undefined; at: number; gone: boolean } {
  const [first, setFirst] = useState(() => piles[firstToMark(piles)]?.owner)
  if (first === undefined && piles.length > 0) setFirst(piles[firstToMark(piles)]?.owner)
  const last = useRef<{ pile: DeskPile; at: number } | null>(null)
  const wanted = asked ?? first
  const at = piles.findIndex(({ owner }) => owner === wanted)
  const pile = piles[at]
  if (pile) last.current = { pile, at }
  if (pile) return { pile, at, gone: false }
  if (last.current?.pile.owner === wanted && last.current) return { ...last.current, gone: true }
  // What a link asks for and is not there: the first to mark.
  const instead = firstToMark(piles)
  return { pile: piles[instead], at: instead, gone: false }
}

const READY: readonly WorkState[] = ['handed-in', 'late', 'took-place', 'ahead']
const toMark = ({ state, marked }: DeskPile) => !marked && READY.includes(state)

function firstToMark(piles: readonly DeskPile[]): number {
  return Math.max(0, piles.findIndex(toMark))
}

function pileWords(pile: DeskPile, view: DeskView): string {
  const names = pile.people.map(({ name }) => name).join(', ')
  const standing = pile.handIns.find(({ takenBackAt }) => takenBackAt === null)
  const due = pile.dueAt ? sayInstant(pile.dueAt, view.course.zone) : ''
  if (!pile.handsIn) return [names, due || 'without a date'].filter(Boolean).join(' · ')
  if (!standing) return [names, STATES[pile.state].word].filter(Boolean).join(' · ')
  const when = sayInstant(standing.handedAt, view.course.zone)
  return `${names} · handed in by ${standing.by}, ${when}${standing.late ? ', late' : ''}, version ${standing.version}`
}
