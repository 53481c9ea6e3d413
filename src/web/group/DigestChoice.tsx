import { setTalkDigest, talkDigest } from '../../contract/talk.ts'
import { useAnswer } from '../data/answers.ts'
import { call } from '../data/call.ts'
import { useAct } from '../kit/Acting.tsx'
import { Check } from '../kit/Check.tsx'

/** Whether the reader wants what is unread by mail; it holds for all their groups. */
export function DigestChoice() {
  const { data, mutate } = useAnswer(talkDigest, {}, { revalidateOnFocus: false })
  const act = useAct()
  if (!data) return null
  const set = (on: boolean) =>
    act.do({
      work: () => call(setTalkDigest, {}, { on }),
      undo: () => call(setTalkDigest, {}, { on: !on }),
      put: (next) => void mutate(next, { revalidate: false }),
      said: on
        ? 'What you have not read comes by mail, once a day at most.'
        : 'No mail of what you have not read.',
    })
  return (
    <div className="border-t tear px-4 py-1 text-sm">
      <Check checked={data.on} disabled={act.busy} onValue={(on) => void set(on)}>
        Mail me what I have not read here and in my other groups, once a day at most
      </Check>
    </div>
  )
}
