import { useEffect, useState } from 'react'
import { answerRequest, requests, type WaitingRequest } from '../../../contract/requests.ts'
import type { RunView } from '../../../contract/seats.ts'
import { sayInstant } from '../../../core/zone.ts'
import { useAnswer } from '../../data/answers.ts'
import { call } from '../../data/call.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Button, Key } from '../../kit/Button.tsx'
import { useKey } from '../../kit/keys.ts'

/** Requests to change seats, oldest first; Y grants and N declines the one that is marked. */
export function Requests({ view, onAnswered }: { view: RunView; onAnswered: () => void }) {
  const { data, mutate } = useAnswer(requests, { sheet: view.code })
  const [at, setAt] = useState(0)
  const [busy, setBusy] = useState<string | null>(null)
  const act = useAct()
  // The stream says when the number changes; then the list is fetched anew.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the number is what is waited for
  useEffect(() => {
    void mutate()
  }, [view.requests, mutate])
  const waiting = data?.requests ?? []
  const marked = waiting[Math.min(at, waiting.length - 1)]

  const answer = async (request: WaitingRequest | undefined, granted: boolean) => {
    if (!request || busy || !view.mayEdit) return
    setBusy(request.code)
    await act.do({
      work: () => call(answerRequest, { sheet: view.code, request: request.code }, { granted }),
      put: (next) => {
        void mutate(next, { revalidate: false })
        onAnswered()
      },
      refetch: () => void mutate(),
      said: `${nameOf(request.person)} was told: ${granted ? 'granted' : 'declined'}.`,
    })
    setBusy(null)
  }
  useKey('y', () => void answer(marked, true))
  useKey('n', () => void answer(marked, false))

  const names = new Map([...view.people, ...view.away].map(({ code, name }) => [code, name]))
  const nameOf = (code: string) => names.get(code) ?? 'Somebody'
  const topicOf = (group: string | null) => {
    const topic = view.groups.find(({ code }) => code === group)?.topic
    return view.topics.find(({ code }) => code === topic)?.title ?? 'a group that is gone'
  }
  if (waiting.length === 0) return null
  return (
    <section aria-labelledby="requests" className="shrink-0 border-t border-line bg-sun-soft px-5 py-2.5">
      <h2 id="requests" className="text-lg">
        {waiting.length === 1
          ? '1 person asks to change seats'
          : `${waiting.length} people ask to change seats`}
      </h2>
      <ul className="mt-1.5 flex max-h-40 flex-col gap-1.5 overflow-auto">
        {waiting.map((request, i) => (
          <li
            key={request.code}
            className={`flex flex-wrap items-center gap-x-3 gap-y-1 rounded-field border bg-surface px-3 py-1 ${
              request === marked ? 'border-seat' : 'border-line'
            }`}
          >
            <button type="button" onClick={() => setAt(i)} className="min-w-0 flex-1 text-left">
              <strong>{nameOf(request.person)}</strong>{' '}
              {request.to === null
                ? `asks to leave ${topicOf(request.from)}`
                : `asks to move from ${topicOf(request.from)} to ${topicOf(request.to)}`}
              <span className="figures text-soft">, {sayInstant(request.madeAt, view.course.zone)}</span>
              <span className="block text-soft">“{request.reason}”</span>
            </button>
            {view.mayEdit && (
              <span className="flex gap-1.5">
                <Button
                  size="small"
                  look="main"
                  busy={busy === request.code}
                  onClick={() => void answer(request, true)}
                >
                  Grant {request === marked && <Key>Y</Key>}
                </Button>
                <Button
                  size="small"
                  disabled={busy === request.code}
                  onClick={() => void answer(request, false)}
                >
                  Decline {request === marked && <Key>N</Key>}
                </Button>
              </span>
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}
