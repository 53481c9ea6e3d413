import { Dialog } from 'radix-ui'
import { useEffect, useState } from 'react'
import type { PlanContent, SettleView } from '../../../contract/plans.ts'
import { whyWords } from '../../../contract/whyWords.ts'
import { ordinal } from '../../../core/ordinal.ts'
import type { PlanInput } from '../../../core/plan/types.ts'
import type { WhyFound } from '../../../core/wishes/why.ts'
import { DialogBox } from '../../kit/DialogBox.tsx'
import type { PlannerAsk, PlannerSays } from './planner.worker.ts'
import { newPlanner } from './usePlanner.ts'

/** Why somebody has no better wish by a plan: computed when it is asked for. */
export function WhyAsk({
  view,
  input,
  content,
  person,
  name,
  words,
}: {
  view: SettleView
  input: PlanInput
  content: PlanContent
  person: string
  name: string
  /** Which wish it is. */
  words: string
}) {
  return (
    <Dialog.Root>
      <Dialog.Trigger asChild>
        <button type="button" className="text-left text-seat underline underline-offset-2">
          {words}
          <span className="sr-only">: why {name} has no better one</span>
        </button>
      </Dialog.Trigger>
      <DialogBox title={`Why ${name} has no better wish`}>
        <Why view={view} input={input} content={content} person={person} />
      </DialogBox>
    </Dialog.Root>
  )
}

function Why({
  view,
  input,
  content,
  person,
}: {
  view: SettleView
  input: PlanInput
  content: PlanContent
  person: string
}) {
  const [found, setFound] = useState<WhyFound | null>(null)
  const [fault, setFault] = useState('')
  useEffect(() => {
    const worker = newPlanner()
    worker.onmessage = ({ data }: MessageEvent<PlannerSays>) => {
      if (data.kind === 'why') setFound(data.found)
      if (data.kind === 'broken') setFault(data.message)
    }
    worker.onerror = () => setFault('It could not be computed in this browser.')
    const together = content.wishes?.together ?? []
    worker.postMessage({ kind: 'why', input, moves: content.moves, together, person } satisfies PlannerAsk)
    return () => worker.terminate()
  }, [input, content, person])
  if (fault)
    return (
      <p role="alert" className="text-ember">
        {fault}
      </p>
    )
  if (!found) return <output className="text-soft">Seating the others again, to see…</output>
  const titles = new Map(view.topics.map(({ code, title }) => [code, title]))
  return (
    <>
      <ul className="flex flex-col gap-1.5">
        {found.whyNot.map((one) => (
          <li key={one.topic}>
            <strong>{titles.get(one.topic) ?? 'A topic'}</strong>{' '}
            {whyWords(
              {
                ...one,
                title: '',
                // Without a limit it travels as none.
                seats: Number.isFinite(one.seats) ? one.seats : 0,
              },
              { now: found.now, of: found.of },
              'staff',
            )}
          </li>
        ))}
      </ul>
      {found.place !== null && (
        <p className="text-sm text-soft">
          In the lot they were {ordinal(found.place)} of {found.of}.
        </p>
      )}
    </>
  )
}
