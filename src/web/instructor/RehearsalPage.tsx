import { useEffect, useRef, useState } from 'react'
import { useParams } from 'react-router'
import { beginRehearsal, endRehearsal, type Rehearsal } from '../../contract/rehearsal.ts'
import { type RunView, run } from '../../contract/seats.ts'
import { localTimeOf, sayInstant } from '../../core/zone.ts'
import { useAnswer } from '../data/answers.ts'
import { call, type Fault, faultOf } from '../data/call.ts'
import { Awaited } from '../kit/Awaited.tsx'
import { Button, ButtonLink } from '../kit/Button.tsx'
import { Check } from '../kit/Check.tsx'
import { Choice } from '../kit/Choice.tsx'
import { sentTime, TimeInput, typedFault } from '../kit/TimeField.tsx'
import { Loading, Trouble } from '../kit/Waiting.tsx'

/** What is played: as whom, and at which hour. */
interface Wanted {
  /** `person CODE` or `section CODE`; a section without a code is somebody invented in a course without sections. */
  as: string
  /** A wall-clock time of the course; empty for now, or the opening of what is not open yet. */
  at: string
}

/**
 * All that a student meets, played through: the real pages, on a copy of everything, in a frame of its own, so that no
 * way leads from it to a page of the staff.
 */
export function RehearsalPage() {
  const { sheet: code = '' } = useParams()
  const answer = useAnswer(run, { sheet: code }, { revalidateOnFocus: false })
  return (
    <Awaited of={answer} what="the rehearsal" elsewhere={`/sheets/${code}`}>
      {(view) => <Stage view={view} />}
    </Awaited>
  )
}

function Stage({ view }: { view: RunView }) {
  const [wanted, setWanted] = useState<Wanted>({ as: `section ${view.sections[0]?.code ?? ''}`, at: '' })
  const [phone, setPhone] = useState(false)
  const { begun, fault, again } = useRehearsal(view.code, wanted)
  const { zone } = view.course
  return (
    <div className="flex h-dvh flex-col">
      <title>Rehearsal · Haplon</title>
      <header className="flex flex-wrap items-center gap-x-4 gap-y-2 bg-sun-soft px-5 py-2 text-sun-ink">
        <h1 className="text-base">Rehearsal{begun && `, as ${begun.as}, ${sayInstant(begun.at, zone)}`}</h1>
        <span>
          Nothing you do here is kept or seen by anybody.
          {begun?.madeUp && ' Talk, work and marks of groups that you do not look after are made up.'}
        </span>
        <span className="flex w-full flex-wrap items-center gap-2">
          <As view={view} value={wanted.as} onValue={(as) => setWanted({ ...wanted, as })} />
          <Hour view={view} value={wanted.at} onValue={(at) => setWanted({ ...wanted, at })} />
          <Check checked={phone} onValue={setPhone}>
            as on a phone
          </Check>
          <span className="ml-auto flex gap-2">
            <Button size="small" onClick={again}>
              Begin again
            </Button>
            <ButtonLink size="small" to={`/sheets/${view.code}/compose`}>
              Back to Compose
            </ButtonLink>
          </span>
        </span>
      </header>
      <main id="page" className="flex min-h-0 flex-1 flex-col">
        {fault ? (
          <Trouble fault={fault} retry={again} />
        ) : begun ? (
          <iframe
            key={begun.code}
            title="What the student sees"
            src={`/rehearsal/${begun.code}/sheets/${view.code}`}
            className={`min-h-0 flex-1 ${phone ? 'mx-auto my-3 w-[24.375rem] max-w-full rounded-card border border-line-strong' : 'w-full'}`}
          />
        ) : (
          <Loading what="the rehearsal" />
        )}
      </main>
    </div>
  )
}

/** The rehearsal of what is wanted, begun anew when that changes, and ended when the page is left. */
function useRehearsal(sheet: string, { as, at }: Wanted) {
  const [round, setRound] = useState(0)
  const [state, setState] = useState<{ begun: Rehearsal | null; fault: Fault | null }>({
    begun: null,
    fault: null,
  })
  const newest = useRef(0)
  // biome-ignore lint/correctness/useExhaustiveDependencies: begun anew for each round
  useEffect(() => {
    newest.current += 1
    const mine = newest.current
    const [kind, code = ''] = as.split(' ')
    const chosen = code === '' ? null : code
    const body = {
      person: kind === 'person' ? chosen : null,
      section: kind === 'section' ? chosen : null,
      at: sentTime(at),
    }
    setState({ begun: null, fault: null })
    call(beginRehearsal, { sheet }, body).then(
      (begun) => mine === newest.current && setState({ begun, fault: null }),
      (error: unknown) => mine === newest.current && setState({ begun: null, fault: faultOf(error) }),
    )
  }, [sheet, as, at, round])
  useEffect(() => () => void call(endRehearsal, {}).catch(() => {}), [])
  return { ...state, again: () => setRound(round + 1) }
}

function As({ view, value, onValue }: { view: RunView; value: string; onValue: (value: string) => void }) {
  return (
    <Choice aria-label="As whom" value={value} onValue={onValue} className="max-w-64">
      <optgroup label="Invented">
        {view.sections.length === 0 && <option value="section ">somebody new</option>}
        {view.sections.map(({ code, name }) => (
          <option key={code} value={`section ${code}`}>
            somebody new in {name}
          </option>
        ))}
      </optgroup>
      <optgroup label="Of the roster">
        {view.people.map(({ code, name }) => (
          <option key={code} value={`person ${code}`}>
            {name}
          </option>
        ))}
      </optgroup>
    </Choice>
  )
}

/** Minutes after an edge of the window at which it is played, where that edge is chosen. */
const AFTER = 5

/** The hour at which it is played: now, an edge of the window, or any. */
function Hour({ view, value, onValue }: { view: RunView; value: string; onValue: (value: string) => void }) {
  const { zone } = view.course
  const [typed, setTyped] = useState('')
  const [other, setOther] = useState(false)
  const near = (at: string, minutes: number) =>
    localTimeOf(new Date(Date.parse(at) + minutes * 60_000).toISOString(), zone)
  const edges = [
    ...(view.opensAt ? [{ label: 'before it opens', at: near(view.opensAt, -AFTER) }] : []),
    ...(view.opensAt ? [{ label: 'just opened', at: near(view.opensAt, AFTER) }] : []),
    ...(view.closesAt ? [{ label: 'before the close', at: near(view.closesAt, -AFTER) }] : []),
    ...(view.closesAt ? [{ label: 'after the close', at: near(view.closesAt, AFTER) }] : []),
  ]
  const choose = (next: string) => {
    setOther(next === 'other')
    if (next !== 'other') onValue(next)
  }
  const play = (next: string) => {
    setTyped(next)
    const local = sentTime(next)
    if (local !== null && typedFault(next) === null) onValue(local)
  }
  return (
    <>
      <Choice
        aria-label="At which hour"
        value={other ? 'other' : value}
        onValue={choose}
        className="max-w-64"
      >
        <option value="">now</option>
        {edges.map(({ label, at }) => (
          <option key={label} value={at}>
            {label}
          </option>
        ))}
        <option value="other">another hour…</option>
      </Choice>
      {other && (
        <TimeInput aria-label="Hour, by the course’s clocks" value={typed} onValue={play} className="w-56" />
      )}
    </>
  )
}
