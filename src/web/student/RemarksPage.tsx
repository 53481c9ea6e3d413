import { type FormEvent, useState } from 'react'
import { useParams } from 'react-router'
import {
  answerRemark,
  type OwnRemarks,
  ownRemarkedPdf,
  ownRemarks,
  type RemarkView,
} from '../../contract/remarks.ts'
import { MOST_ANSWER } from '../../core/remarks.ts'
import { sayInstant } from '../../core/zone.ts'
import { useAnswer } from '../data/answers.ts'
import { address } from '../data/base.ts'
import { call } from '../data/call.ts'
import { useUnsent } from '../data/useDraft.ts'
import { FileLine } from '../files/FileLine.tsx'
import { useAct } from '../kit/Acting.tsx'
import { Awaited } from '../kit/Awaited.tsx'
import { Button } from '../kit/Button.tsx'
import { Choice } from '../kit/Choice.tsx'
import { Area } from '../kit/Field.tsx'
import { Frame } from '../kit/Frame.tsx'
import { placedIn } from '../remarks/placed.ts'
import { RemarkedWork, showPlace } from '../remarks/RemarkedWork.tsx'
import { Said } from '../remarks/Said.tsx'

/** A student’s work with what was said in it. */
export function RemarksPage() {
  const { sheet = '', task = '', owner = '' } = useParams()
  const answer = useAnswer(ownRemarks, { sheet, task, owner }, { refreshInterval: 30_000 })
  const { mutate } = answer
  return (
    <Awaited of={answer} what="the remarks" elsewhere={`/sheets/${sheet}/tasks`}>
      {(view) => (
        <Frame
          title={`Remarks: ${view.task.title}`}
          crumbs={[
            { label: view.sheet.title, to: `/sheets/${sheet}` },
            { label: 'Tasks', to: `/sheets/${sheet}/tasks` },
            { label: 'Remarks' },
          ]}
        >
          <Remarks view={view} put={(next) => void mutate(next, { revalidate: false })} />
        </Frame>
      )}
    </Awaited>
  )
}

function Remarks({ view, put }: { view: OwnRemarks; put: (view: OwnRemarks) => void }) {
  const { sheet, task, owner, handIns } = view
  const counts = new Map(handIns.map((one) => [one.version, placedIn(view.remarks, one).placed.length]))
  // Where most is said is shown first, the newest of such versions.
  const most = Math.max(0, ...counts.values())
  const first = handIns.find(({ version }) => counts.get(version) === most)
  const [chosen, setChosen] = useState<number | null>(null)
  const [active, setActive] = useState<string | null>(null)
  const shown = handIns.find(({ version }) => version === chosen) ?? first
  const show = (code: string) => {
    setActive(code)
    showPlace(code)
  }
  const params = { sheet: sheet.code, task: task.code, owner }
  const { placed } = shown ? placedIn(view.remarks, shown) : { placed: [] }
  return (
    <div className="mx-auto flex w-full max-w-5xl flex-col gap-4 px-4 py-5">
      <div>
        <p className="text-soft">
          {task.title}
          {view.group !== null && `, ${view.group}`}
        </p>
        <h1 className="text-[1.75rem]">Remarks on {view.group === null ? 'your' : 'your group’s'} work</h1>
        <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-2">
          {shown && (
            <a
              href={address(ownRemarkedPdf.path, { ...params, file: `version-${shown.version}.pdf` })}
              download
              className="inline-flex min-h-11 items-center text-seat underline underline-offset-2"
            >
              Download with remarks (PDF)
            </a>
          )}
          {handIns.length > 1 && shown && (
            <label className="text-soft">
              Version{' '}
              <Choice value={shown.version} onValue={(value) => setChosen(Number(value))}>
                {handIns.map(({ version, handedAt }) => (
                  <option key={version} value={version}>
                    {version}, {sayInstant(handedAt, sheet.zone)},{' '}
                    {counts.get(version) === 1 ? '1 remark' : `${counts.get(version)} remarks`}
                  </option>
                ))}
              </Choice>
            </label>
          )}
        </div>
      </div>
      {view.files.length > 0 && (
        <section
          aria-labelledby="given-back"
          className="rounded-card border border-line bg-surface px-4 py-3"
        >
          <h2 id="given-back" className="text-lg">
            Came back with your mark
          </h2>
          {view.files.map((file) => (
            <FileLine key={file.code} sheet={sheet.code} file={file} />
          ))}
        </section>
      )}
      {!shown || (placed.length === 0 && view.remarks.length === 0) ? (
        <p className="rounded-card border tear p-6 text-center text-soft">
          Nothing is said in the work itself. What was said of it as a whole stands with your mark.
        </p>
      ) : null}
      {shown && (
        <div className="rounded-card border border-line bg-surface px-4 py-4">
          <RemarkedWork
            sheet={sheet.code}
            handIn={shown}
            placed={placed}
            active={active}
            onActive={setActive}
            nothing="No remarks on this version."
            card={(one) => (
              <Said
                placed={one}
                criteria={task.criteria}
                zone={sheet.zone}
                active={active === one.remark.code}
                onShow={() => show(one.remark.code)}
              >
                {view.mayAnswer && !one.remark.answers.some(({ yours }) => yours) && (
                  <Answer view={view} remark={one.remark} n={one.n} put={put} />
                )}
              </Said>
            )}
          />
        </div>
      )}
    </div>
  )
}

/** Answers one remark, once. */
function Answer({
  view,
  remark,
  n,
  put,
}: {
  view: OwnRemarks
  remark: RemarkView
  n: number
  put: (view: OwnRemarks) => void
}) {
  const unsent = useUnsent<string>(`answer ${view.task.code} ${remark.code}`, '')
  const [open, setOpen] = useState(unsent.value !== '')
  const act = useAct()
  const send = async (event: FormEvent) => {
    event.preventDefault()
    const params = { sheet: view.sheet.code, task: view.task.code, owner: view.owner, remark: remark.code }
    const done = await act.do({
      work: () => call(answerRemark, params, { words: unsent.value }),
      put,
      said: 'Answered. Your instructors and those the work counts for read it.',
      beside: true,
    })
    if (!done.fault) unsent.drop()
  }
  if (!open) {
    return (
      <p>
        <Button size="touch" onClick={() => setOpen(true)}>
          Answer<span className="sr-only"> remark {n}</span>
        </Button>
      </p>
    )
  }
  return (
    <form className="mt-1 flex w-full flex-col gap-2" onSubmit={(event) => void send(event)}>
      <Area
        label={`Your answer to remark ${n}`}
        rows={3}
        maxLength={MOST_ANSWER}
        value={unsent.value}
        onChange={({ target }) => unsent.write(target.value)}
        hint="You answer a remark once, and what you sent stays."
        fault={act.fault?.message}
      />
      <div className="flex gap-2">
        <Button type="submit" size="touch" look="main" busy={act.busy} disabled={unsent.value.trim() === ''}>
          Send answer
        </Button>
        <Button
          size="touch"
          onClick={() => {
            unsent.drop()
            setOpen(false)
          }}
        >
          Cancel
        </Button>
      </div>
    </form>
  )
}
