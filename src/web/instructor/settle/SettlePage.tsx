import { useEffect, useMemo, useRef, useState } from 'react'
import { useLocation, useParams } from 'react-router'
import {
  applyPlan,
  type KeptPlan,
  keepPlan,
  type SettleView,
  settle,
  undoPlan,
} from '../../../contract/plans.ts'
import type { Concern } from '../../../contract/problems.ts'
import { publishSheet, withdrawSheet } from '../../../contract/sheets.ts'
import { counted } from '../../../core/counted.ts'
import { useAnswer } from '../../data/answers.ts'
import { call } from '../../data/call.ts'
import { type LiveState, liveWords, useLive } from '../../data/live.ts'
import { useSheetState } from '../../data/state.ts'
import { useUnsent } from '../../data/useDraft.ts'
import { useSame } from '../../data/useSame.ts'
import { useSoon } from '../../data/useSoon.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Awaited } from '../../kit/Awaited.tsx'
import { SheetFrame } from '../SheetFrame.tsx'
import { ApplyAsk } from './ApplyAsk.tsx'
import { BalanceCard } from './BalanceCard.tsx'
import type { Opened } from './Compared.tsx'
import { changesIn, contentOf, groupsAfter, settledByWishes, titleFor } from './content.ts'
import { FreshCard } from './FreshCard.tsx'
import { HandOutAsk } from './HandOutAsk.tsx'
import { HoldCard } from './HoldCard.tsx'
import { HowCard } from './HowCard.tsx'
import { ImportSeats } from './ImportSeats.tsx'
import {
  type Choices,
  firstChoices,
  inputOf,
  type Making,
  madeGroups,
  madeIn,
  nextRound,
  packed,
  unpacked,
} from './input.ts'
import { KeepingsCard } from './KeepingsCard.tsx'
import { KeptPlans } from './KeptPlans.tsx'
import { planNaming } from './naming.ts'
import { PlanActions } from './PlanActions.tsx'
import { Planning } from './Planning.tsx'
import { PlanShown } from './PlanShown.tsx'
import { RecordCard } from './RecordCard.tsx'
import { SwapsCard } from './SwapsCard.tsx'
import { Troubles } from './Troubles.tsx'
import { useAims } from './useAims.ts'
import { useMending } from './useMending.ts'
import { usePlanner } from './usePlanner.ts'

/** Settle: seat the rest by a plan that is looked at, changed by hand, applied and taken back. */
export function SettlePage() {
  const { sheet: code = '' } = useParams()
  const answer = useAnswer(settle, { sheet: code }, { revalidateOnFocus: false })
  const { data, mutate } = answer
  const soon = useSoon(() => void mutate())
  const live = useLive(code, data?.rev ?? null, { seats: () => soon(400), refresh: () => soon(400) })
  return (
    <Awaited of={answer} what="the seats" elsewhere={`/sheets/${code}`}>
      {(view) => (
        <Settling
          key={view.code}
          view={view}
          live={live}
          put={(next) => void mutate(next, { revalidate: false })}
          refetch={() => void mutate()}
        />
      )}
    </Awaited>
  )
}

const newKey = () => `plan-${crypto.randomUUID()}`

function Settling({
  view,
  live,
  put,
  refetch,
}: {
  view: SettleView
  live: LiveState
  put: (view: SettleView) => void
  refetch: () => void
}) {
  // What was chosen is there again after a look at Run, or a reload.
  const said = useLocation().state as { making?: Making; fresh?: string[] } | null
  const first = useMemo(
    () => ({ ...firstChoices(view), making: said?.making ?? null, fresh: said?.fresh ?? [] }),
    [view, said],
  )
  const chosen = useUnsent(`settle ${view.code}`, packed(first))
  const choices = useMemo(() => unpacked(chosen.value), [chosen.value])
  const setChoices = (next: Choices) => chosen.write(packed(next))
  const [opened, setOpened] = useState<Opened | null>(null)
  const [beside, setBeside] = useState<Opened | null>(null)
  const [applying, setApplying] = useState(false)
  const [handingOut, setHandingOut] = useState(false)
  const [misfits, setMisfits] = useState<readonly Concern[]>([])
  const act = useAct()
  const { busy } = act
  const [tell, setTell] = useState(true)
  const key = useRef(newKey())

  useMending(view, choices, newKey, setOpened)
  const { basis, sections, topics, sat, attributes, mayEdit } = view
  // The rest of the view changes without any bearing on the plan.
  const ground = useSame({ basis, sections, topics, sat, attributes, round: nextRound(view) })
  const input = useMemo(() => (mayEdit ? inputOf(ground, choices) : null), [mayEdit, ground, choices])
  const planner = usePlanner(opened ? null : input)
  const state = useSheetState(view)
  const byWishes = choices.method === 'wishes'
  const aims = useAims(byWishes ? input : null)
  const made = useMemo(() => madeGroups(ground, madeIn(ground, choices), choices.making), [ground, choices])
  const planned = useMemo(
    () => (planner.plan && input ? contentOf(planner.plan, input, choices, made) : null),
    [planner.plan, input, choices, made],
  )
  const content = opened?.content ?? planned
  const naming = useMemo(
    () => planNaming(view, content?.settings.made ?? null),
    [view, content?.settings.made],
  )
  const groups = useMemo(
    () => (content ? groupsAfter(view, content, input) : new Map()),
    [view, content, input],
  )
  useEffect(() => {
    // Another plan is another key: only the same one is never applied twice.
    if (content) key.current = opened?.key ?? newKey()
  }, [content, opened])

  const change = (more: Partial<Choices>) => {
    setOpened(null)
    setMisfits([])
    setChoices({ ...choices, ...more })
  }
  const pin = (person: string, group: string | null | undefined) => {
    const pins = new Map(choices.pins)
    if (group === undefined) pins.delete(person)
    else pins.set(person, group)
    change({ pins })
  }
  const title = opened?.title ?? titleFor(choices, input?.byWishes?.round)
  const keep = async () => {
    if (!content) return
    const key = newKey()
    await act.do({
      work: () => call(keepPlan, { sheet: view.code }, { key, title, content }),
      put,
      said: 'Saved. It stands under Plans, and says what has changed since.',
    })
  }
  const apply = async () => {
    if (!content) return
    const applied = key.current
    let undone = 0
    const { fault } = await act.do<SettleView | null>({
      work: () =>
        call(
          applyPlan,
          { sheet: view.code },
          { key: applied, title, content, tell: tell && view.publishedAt !== null, publish: false },
        ),
      undo: async () => {
        undone = (await call(undoPlan, { sheet: view.code, plan: applied })).undone
        return null
      },
      put: (next) => (next ? put(next) : refetch()),
      refetch,
      said: `Applied: ${changesIn(content)}.`,
      saidUndone: () => `${counted(undone, 'person is', 'people are')} where they were before the plan.`,
    })
    setApplying(false)
    if (fault?.code === 'plan-does-not-fit') setMisfits(fault.problem.concerns ?? [])
    if (fault) return
    setOpened(null)
    setBeside(null)
    setChoices(firstChoices(view))
  }
  const count = content ? content.moves.length + content.left.filter(({ from }) => from !== null).length : 0
  const handsOut = view.rules.road === 'made' && view.publishedAt === null
  /** Makes the groups as planned and publishes them, as one step with one undo. */
  const handOut = async () => {
    if (!content) return
    const applied = count > 0 ? key.current : null
    const { fault } = await act.do<SettleView | null>({
      work: async () => {
        const at = { sheet: view.code }
        // All of it or nothing: groups that cannot go out are not made either.
        if (applied) await call(applyPlan, at, { key: applied, title, content, tell, publish: true })
        else await call(publishSheet, at, { tell })
        return null
      },
      undo: async () => {
        await call(withdrawSheet, { sheet: view.code }, { confirmed: true })
        if (applied) await call(undoPlan, { sheet: view.code, plan: applied })
        return null
      },
      put: refetch,
      refetch,
      said: 'The groups are out: students see theirs.',
      saidUndone: () => 'The sheet is a draft again.',
    })
    setHandingOut(false)
    if (fault?.code === 'plan-does-not-fit') setMisfits(fault.problem.concerns ?? [])
    if (fault) return
    setOpened(null)
    setChoices(firstChoices(view))
  }
  const touched =
    opened !== null ||
    choices.pins.size > 0 ||
    choices.release !== 'none' ||
    choices.making !== null ||
    choices.fresh.length > 0 ||
    choices.balance.length > 0
  return (
    <SheetFrame
      fit
      sheet={view}
      note={live !== 'live' && <output className="text-sun-ink">· {liveWords(live)}</output>}
      aside={
        view.mayEdit && (
          <PlanActions
            count={count}
            ready={content !== null}
            busy={busy}
            touched={touched}
            publishes={handsOut && (count > 0 || view.basis.seats.length > 0)}
            handsOut={handsOut}
            onDiscard={() => {
              setOpened(null)
              setMisfits([])
              setChoices(firstChoices(view))
            }}
            onKeep={() => void keep()}
            onApply={() => {
              // What is asked about is what is applied: the search does not change it meanwhile.
              planner.stop()
              setApplying(true)
            }}
            onHandOut={() => {
              planner.stop()
              setHandingOut(true)
            }}
          />
        )
      }
    >
      <div className="grid min-h-0 flex-1 grid-cols-[19rem_minmax(0,1fr)] max-lg:grid-cols-1">
        <div className="relative flex min-h-0 flex-col gap-3 overflow-auto border-r border-line p-4 max-lg:border-r-0 max-lg:border-b">
          {view.mayEdit && (
            <>
              <HowCard view={view} choices={choices} change={change} refetch={refetch} />
              <BalanceCard view={view} choices={choices} change={change} />
              <FreshCard view={view} choices={choices} change={change} />
              <HoldCard view={view} choices={choices} change={change} />
            </>
          )}
          <KeepingsCard view={view} put={put} />
          {view.mayEdit && (
            <ImportSeats
              view={view}
              onRead={(pins) => change({ ...firstChoices(view), release: 'none', pins })}
            />
          )}
          {settledByWishes(view) && (
            <>
              <RecordCard key={view.plans.length} view={view} />
              <SwapsCard view={view} naming={naming} refetch={refetch} />
            </>
          )}
          <KeptPlans
            view={view}
            put={put}
            refetch={refetch}
            onOpen={(plan: KeptPlan) => {
              setMisfits([])
              setOpened({ key: plan.code, title: plan.title, content: plan.content })
            }}
          />
        </div>
        <div className="flex min-h-0 min-w-0 flex-col overflow-auto bg-surface">
          <Troubles troubles={view.troubles} />
          {!view.mayEdit ? (
            <p className="p-6 text-soft">
              Instructors plan here. You see who keeps apart or together, and the plans made.
            </p>
          ) : !content || (planner.fault && !opened) ? (
            <Planning progress={planner.progress} fault={planner.fault} stop={planner.stop} />
          ) : (
            <PlanShown
              view={view}
              content={content}
              title={title}
              opened={opened}
              onOpen={setOpened}
              beside={beside}
              onBeside={setBeside}
              input={input}
              choices={choices}
              change={change}
              pin={pin}
              planner={planner}
              aims={aims}
              naming={naming}
              groups={groups}
              misfits={misfits}
              put={put}
              newKey={newKey}
            />
          )}
        </div>
      </div>
      {handingOut && content && (
        <HandOutAsk
          view={view}
          content={content}
          groups={groups}
          busy={busy}
          tell={tell}
          onTell={setTell}
          onNo={() => setHandingOut(false)}
          onYes={() => void handOut()}
        />
      )}
      {applying && content && (
        <ApplyAsk
          ranking={view.rules.road === 'wished' && state === 'open'}
          content={content}
          count={count}
          busy={busy}
          tell={view.publishedAt === null ? null : tell}
          onTell={setTell}
          onNo={() => setApplying(false)}
          onYes={() => void apply()}
        />
      )}
    </SheetFrame>
  )
}
