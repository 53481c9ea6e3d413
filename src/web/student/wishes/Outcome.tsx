import { useId, useState } from 'react'
import type { StudentSheet } from '../../../contract/seats.ts'
import { whyWords } from '../../../contract/whyWords.ts'
import { type OwnWhy, ownWhy, type WishOutcomeTold, wishRecord } from '../../../contract/wishes.ts'
import { aimLabel, rankWords, wishWords } from '../../../contract/wishWords.ts'
import { ordinal } from '../../../core/ordinal.ts'
import { useAnswer } from '../../data/answers.ts'
import { call } from '../../data/call.ts'
import { download } from '../../data/download.ts'
import { Button } from '../../kit/Button.tsx'
import { Loading, Trouble } from '../../kit/Waiting.tsx'

/** Where somebody sits once seats were given by wishes: which wish it is, why not a better one, and how to check it. */
export function Outcome({ view, outcome }: { view: StudentSheet; outcome: WishOutcomeTold }) {
  const { round, seated, rank, ranked } = outcome
  const at = { sheet: view.code, round: String(round) }
  const { data, error, mutate } = useAnswer(ownWhy, at, { revalidateOnFocus: false })
  const heading = useId()
  return (
    <section
      aria-labelledby={heading}
      className="flex flex-col gap-2 rounded-card border border-seat bg-surface px-4 py-3"
    >
      <h2 id={heading} className="text-lg">
        {!seated
          ? `No ${round === 1 ? '' : 'further '}seat was left for you`
          : ranked
            ? round === 1
              ? `You were given ${rank === null ? 'a seat that is ' : ''}${wishWords(rank)}`
              : `Your ${rankWords(round)} seat is ${wishWords(rank)}`
            : `You were given a ${round === 1 ? '' : 'further '}seat; no order of yours counted`}
      </h2>
      {!ranked && (
        <p className="text-soft">
          Who ranked nothing, or too little, was seated after the others, by lot where several could be.
        </p>
      )}
      {error ? (
        <Trouble fault={error} retry={() => void mutate()} />
      ) : data ? (
        <Why why={data} at={at} />
      ) : (
        <Loading what="why" />
      )}
    </section>
  )
}

function Why({ why, at }: { why: OwnWhy; at: { sheet: string; round: string } }) {
  const [fault, setFault] = useState('')
  const save = async () => {
    try {
      const record = await call(wishRecord, at)
      download(
        at.round === '1' ? 'wishes.json' : `wishes, round ${at.round}.json`,
        JSON.stringify(record, null, 2),
        'application/json',
      )
    } catch (error) {
      setFault(error instanceof Error ? error.message : 'It could not be had. Try again.')
    }
  }
  return (
    <>
      {why.whyNot.length > 0 && (
        <ul className="flex flex-col gap-1.5">
          {why.whyNot.map((one) => (
            <li key={one.topic}>
              <strong>{one.title}</strong> <span className="text-soft">{whyWords(one, why)}</span>
            </li>
          ))}
        </ul>
      )}
      <details>
        <summary className="min-h-11 cursor-pointer py-2 font-semibold text-seat">How it was decided</summary>
        <p className="text-soft">
          It aimed at: {aimLabel(why.aim)}. The lot number is{' '}
          <strong className="figures">{why.lotNumber}</strong>
          {why.place === null ? (
            '. Your seat was yours before, was kept free for you or set by hand: the lot had no part in it.'
          ) : (
            <>
              ; in the lot you were <strong className="figures">{ordinal(why.place)}</strong> of {why.of}.
              Your row has the code <strong className="figures">{why.code}</strong>, which nobody but you and
              staff knows.
            </>
          )}
        </p>
        {why.record ? (
          <p className="mt-2 flex flex-wrap items-center gap-2">
            <Button size="touch" onClick={() => void save()}>
              Save the record
            </Button>
            <span className="text-sm text-soft">
              Everybody’s wishes without names, the seats and the lot number: what was given can be computed
              from it again.
            </span>
          </p>
        ) : (
          <p className="mt-1 text-sm text-soft">
            Your instructor can hand out a record without names, from which anybody can compute this again.
          </p>
        )}
        {fault && (
          <p role="alert" className="text-ember">
            {fault}
          </p>
        )}
      </details>
    </>
  )
}
