import type { SettleView } from '../../../contract/plans.ts'
import { handOutRecord, wishes, wishRecord } from '../../../contract/wishes.ts'
import { rankWords } from '../../../contract/wishWords.ts'
import { sayInstant } from '../../../core/zone.ts'
import { useAnswer } from '../../data/answers.ts'
import { call } from '../../data/call.ts'
import { download } from '../../data/download.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Button } from '../../kit/Button.tsx'
import { Card } from '../../kit/Card.tsx'

/** The record of seats given by wishes, without names: to be saved, and handed out to students or not. */
export function RecordCard({ view }: { view: SettleView }) {
  const sheet = { sheet: view.code }
  const { data, mutate } = useAnswer(wishes, sheet)
  const act = useAct()
  const settled = data?.settled ?? []
  const [first] = settled
  if (!first) return null
  const { at } = first
  const handedOut = settled.every((one) => one.handedOut)
  const hand = (out: boolean) => () => call(handOutRecord, sheet, { handedOut: out })
  const save = async (round: number) => {
    const name = round === 1 ? 'wishes' : `wishes, round ${round}`
    await act.do({
      work: () => call(wishRecord, { ...sheet, round: String(round) }),
      put: (record) =>
        download(`${view.title} ${name}.json`, JSON.stringify(record, null, 2), 'application/json'),
    })
  }
  return (
    <Card title="Record without names">
      <p className="mt-1 text-sm text-soft">
        Seats were given by wishes {sayInstant(at, view.course.zone)}. The record has everybody’s wishes under
        codes, the seats and the lot number, so that anybody can compute again what was given.
      </p>
      <div className="mt-2 flex flex-wrap gap-2">
        {settled.map(({ round }) => (
          <Button key={round} size="small" onClick={() => void save(round)}>
            {settled.length === 1 ? 'Save the record' : `Save that of the ${rankWords(round)} round`}
          </Button>
        ))}
        {view.mayEdit && (
          <Button
            size="small"
            busy={act.busy}
            onClick={() =>
              void act.do({
                work: hand(!handedOut),
                undo: hand(handedOut),
                put: (next) => void mutate(next, { revalidate: false }),
                said: handedOut
                  ? 'Students cannot save the record any more.'
                  : 'Students can save the record now.',
              })
            }
          >
            {handedOut ? 'Withdraw it from students' : 'Hand it out to students'}
          </Button>
        )}
      </div>
    </Card>
  )
}
