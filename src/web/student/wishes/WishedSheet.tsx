import type { ReactNode } from 'react'
import { useSheetState } from '../../data/state.ts'
import { Markdown } from '../../kit/Markdown.tsx'
import { OwnSeat } from '../OwnSeat.tsx'
import { RequestNote } from '../RequestNote.tsx'
import { rankWords } from '../rulesWords.ts'
import { RulesInWords, SheetBeginning } from '../SheetTop.tsx'
import type { SheetSource } from '../source.ts'
import { TopicStub } from '../TopicStub.tsx'
import { Outcome } from './Outcome.tsx'
import { Ranking } from './Ranking.tsx'
import { SwapSeat } from './SwapSeat.tsx'

/** A sheet on which topics are ranked and seats are given by wishes, as a student has it. */
export function WishedSheet({ source }: { source: SheetSource }) {
  const { view, invitations, wish } = source
  const state = useSheetState(view)
  const { wishes, groups, seats } = view
  const own = seats.flatMap((seat) => {
    const group = groups.find(({ code }) => code === seat.group)
    return group ? [{ seat, group }] : []
  })
  const titleOf = (code: string) => groups.find((group) => group.code === code)?.title ?? 'a group'
  return (
    <div className="mx-auto flex w-full max-w-2xl flex-1 flex-col gap-3 px-4 pt-4">
      <SheetBeginning source={source} />
      {view.instructions && <Markdown text={view.instructions} />}
      {state === 'open' && <p className="text-soft">{rankWords(view.rules)}</p>}
      <details>
        <summary className="min-h-11 cursor-pointer py-2 font-semibold text-seat">
          How seats are given{view.contact && ', and whom to ask'}
        </summary>
        <div className="flex flex-col gap-2">
          <RulesInWords view={view} state={state} />
        </div>
      </details>
      <RequestNote view={view} titleOf={titleOf} onWithdraw={source.withdraw} />
      {own.map(({ seat, group }) => (
        <TopicStub
          key={group.code}
          group={group}
          own
          zone={view.course.zone}
          offer={NO_OFFER}
          folded={false}
          busy={false}
          again={false}
          anyBusy={false}
          onPress={() => {}}
        >
          <OwnSeat group={group} seat={seat} view={view} state={state} invitations={invitations} />
        </TopicStub>
      ))}
      {wishes?.outcomes.map((outcome) => (
        <Outcome key={outcome.round} view={view} outcome={outcome} />
      ))}
      {state === 'closed' && wishes && wishes.outcomes.length === 0 && own.length === 0 && (
        <p className="rounded-card border tear p-4">
          The sheet has closed. Seats are given by everybody’s wishes now; yours stands here, and you are told
          by mail, as soon as it is decided.
        </p>
      )}
      {view.swaps && wishes && <SwapSeat view={view} swaps={view.swaps} wishes={wishes} source={source} />}
      {wishes && wishes.topics.length > 0 ? (
        <Folded fold={view.swaps !== null}>
          <Ranking view={view} wishes={wishes} state={state} save={wish.save} refetch={wish.refetch} />
        </Folded>
      ) : (
        <p className="mb-8 rounded-card border tear p-6 text-center text-soft">
          No topic is offered to you on this sheet yet.
        </p>
      )}
    </div>
  )
}

/** Once seats can be swapped, what somebody ranked is past, and stands back. */
function Folded({ fold, children }: { fold: boolean; children: ReactNode }) {
  if (!fold) return children
  return (
    <details className="mb-8">
      <summary className="min-h-11 cursor-pointer py-2 font-semibold text-seat">
        What you ranked before the close
      </summary>
      <div className="flex flex-col gap-3">{children}</div>
    </details>
  )
}

const NO_OFFER = { kind: 'none', because: null } as const
