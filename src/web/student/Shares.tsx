import type { FormEvent } from 'react'
import { type OwnShares, type OwnTask, type OwnWork, setShares } from '../../contract/ownWork.ts'
import { EVEN_SHARE } from '../../core/shares.ts'
import { call } from '../data/call.ts'
import { useUnsent } from '../data/useDraft.ts'
import { useAct } from '../kit/Acting.tsx'
import { Button } from '../kit/Button.tsx'
import { Area } from '../kit/Field.tsx'

interface Draft {
  /** Points as they were typed, by code. */
  points: Readonly<Record<string, string>>
  words: string
}

/** How the work was shared: points for each of the others, in private, with a word. */
export function Shares({
  task,
  shares,
  work,
  put,
}: {
  task: OwnTask
  shares: OwnShares
  work: OwnWork
  put: (work: OwnWork) => void
}) {
  const { given, average, open } = shares
  if (!open) {
    if (average === null) return null
    return (
      <p className="rounded-field bg-seat-soft px-3 py-2">
        Of how the work was shared: on average the others gave you{' '}
        <strong className="figures">{average}</strong>, where {EVEN_SHARE} is an even share.
      </p>
    )
  }
  return (
    <details className="rounded-field border border-line px-3 py-1" open={given === null}>
      <summary className="min-h-11 cursor-pointer py-2 font-semibold text-seat">
        How was the work shared?{' '}
        <span className="text-sm font-normal text-soft">{given ? 'you have said' : 'you are asked'}</span>
      </summary>
      <ShareForm task={task} shares={shares} work={work} put={put} />
    </details>
  )
}

function ShareForm({
  task,
  shares: { others, toGive, given },
  work,
  put,
}: {
  task: OwnTask
  shares: OwnShares
  work: OwnWork
  put: (work: OwnWork) => void
}) {
  const first: Draft = {
    points: Object.fromEntries(others.map(({ code }) => [code, String(given?.points[code] ?? EVEN_SHARE)])),
    words: given?.words ?? '',
  }
  const group = task.group?.code ?? ''
  const unsent = useUnsent<Draft>(`shares ${task.code} ${group} ${JSON.stringify(first)}`, first)
  const { points, words } = unsent.value
  const act = useAct()
  const number = (code: string) => Number(points[code] ?? '')
  const left = toGive - others.reduce((sum, { code }) => sum + number(code), 0)
  const set = (code: string, typed: string) => unsent.write({ words, points: { ...points, [code]: typed } })
  const save = async (event: FormEvent) => {
    event.preventDefault()
    const params = { sheet: work.sheet.code, task: task.code }
    const body = {
      group,
      points: Object.fromEntries(others.map(({ code }) => [code, number(code)])),
      words,
    }
    const before = given && { group, points: given.points, words: given.words }
    const done = await act.do({
      work: () => call(setShares, params, body),
      ...(before && { undo: () => call(setShares, params, before) }),
      put,
      said: 'Kept. Your instructors read it, and no mate does.',
      beside: true,
    })
    if (!done.fault) unsent.drop()
  }
  return (
    <form className="flex flex-col gap-2 pb-2" onSubmit={(event) => void save(event)}>
      <p className="text-soft">
        Only your instructors read it. It changes no mark by itself.{' '}
        {others.length > 1 && `Give ${toGive} points to the others; ${EVEN_SHARE} each is an even share.`}
      </p>
      {others.length > 1 && (
        <ul className="flex flex-col gap-1">
          {others.map(({ code, name }) => (
            <li key={code} className="flex items-center gap-2">
              <span className="min-w-0 flex-1 wrap-anywhere">{name}</span>
              <Button
                size="touch"
                aria-label={`One point less for ${name}`}
                disabled={!(number(code) > 0)}
                onClick={() => set(code, String(number(code) - 1))}
              >
                −
              </Button>
              <input
                inputMode="numeric"
                aria-label={`Points for ${name}`}
                value={points[code] ?? ''}
                onChange={({ target }) => set(code, target.value)}
                className="figures min-h-11 w-14 rounded-field border border-line-strong bg-surface text-center"
              />
              <Button
                size="touch"
                aria-label={`One point more for ${name}`}
                onClick={() => set(code, String((number(code) || 0) + 1))}
              >
                +
              </Button>
            </li>
          ))}
        </ul>
      )}
      {others.length > 1 && (
        <output className={`figures text-sm ${left === 0 ? 'text-moss' : 'text-ember'}`}>
          {left === 0
            ? `All ${toGive} points are given.`
            : left > 0
              ? `${left} of ${toGive} points are still to give.`
              : Number.isNaN(left)
                ? 'Points are whole numbers.'
                : `${-left} points too many.`}
        </output>
      )}
      <Area
        label="A word to your instructors"
        rows={2}
        maxLength={1_000}
        value={words}
        onChange={({ target }) => unsent.write({ points, words: target.value })}
        fault={act.fault?.field('words')}
      />
      {act.fault && !act.fault.field('words') && (
        <p role="alert" className="text-ember">
          {act.fault.message}
        </p>
      )}
      <div>
        <Button type="submit" size="touch" busy={act.busy} disabled={left !== 0}>
          Send in private
        </Button>
      </div>
    </form>
  )
}
