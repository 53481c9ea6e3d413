import { useEffect, useRef, useState } from 'react'
import { toast } from 'sonner'
import { isWebLink } from '../../contract/fields.ts'
import type { FileView } from '../../contract/files.ts'
import {
  handIn,
  letGoDraft,
  type OwnTask,
  type OwnWork,
  removeDraftFile,
  saveDraft,
  takeBack,
} from '../../contract/tasks.ts'
import { sayBytes } from '../../core/files.ts'
import { call, type Fault, faultOf } from '../data/call.ts'
import { useSoon } from '../data/useSoon.ts'
import { Bring } from '../files/Bring.tsx'
import { FileLine } from '../files/FileLine.tsx'
import { Ask } from '../kit/Ask.tsx'
import { Button } from '../kit/Button.tsx'
import { Area } from '../kit/Field.tsx'

/** Milliseconds after the last key at which a draft is kept. */
const PAUSE = 1_200

/** Writing and handing in. What is written is kept by itself, for the whole group, and written by one at a time. */
export function HandIn({
  task,
  work,
  sheet,
  put,
  refetch,
}: {
  task: OwnTask
  work: NonNullable<OwnTask['work']>
  sheet: string
  put: (work: OwnWork) => void
  refetch: () => void
}) {
  const { draft, handIns } = work
  const standing = handIns.find(({ takenBackAt }) => takenBackAt === null)
  const newest = handIns[0]?.version ?? 0
  // A further version begins with what was handed in.
  const [text, setText] = useState(draft?.text ?? standing?.text ?? '')
  const [links, setLinks] = useState((draft?.links ?? standing?.links ?? []).join('\n'))
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set())
  const [said, setSaid] = useState('')
  const [fault, setFault] = useState<Fault | null>(null)
  const [asking, setAsking] = useState<'hand-in' | 'take-back' | null>(null)
  const [busy, setBusy] = useState(false)
  const touched = useRef(false)
  const group = task.group?.code ?? null
  const params = { sheet, task: task.code }
  const others = draft !== null && draft.holder !== null && !draft.yours
  const listed = links
    .split('\n')
    .map((link) => link.trim())
    .filter(Boolean)
  // Those of the version that stands can go with the next one, beside what was brought since.
  const again = (standing?.files ?? []).filter(({ code }) => !work.brought.some((one) => one.code === code))
  const chosen = [...again, ...work.brought].filter(({ code }) => !left.has(code)).map(({ code }) => code)
  const wrong = listed.find((link) => !isWebLink(link))

  // What a mate writes shows here as long as one has not typed oneself.
  const theirs = draft === null ? null : `${draft.text}\u0000${draft.links.join('\n')}`
  useEffect(() => {
    if (touched.current || theirs === null) return
    const [words = '', addresses = ''] = theirs.split('\u0000')
    setText(words)
    setLinks(addresses)
  }, [theirs])

  const soon = useSoon(() => {
    if (wrong) return
    call(saveDraft, params, { group, text, links: listed })
      .then((next) => {
        put(next)
        setSaid('Kept. Your group sees it too.')
        setFault(null)
      })
      .catch((error: unknown) => {
        const problem = faultOf(error)
        if (problem.code === 'draft-held') touched.current = false
        setFault(problem)
        setSaid('')
        refetch()
      })
  })
  const type = (change: () => void) => {
    touched.current = true
    change()
    setSaid('')
    soon(PAUSE)
  }
  const letGo = async () => {
    touched.current = false
    try {
      put(await call(letGoDraft, params, { group }))
    } catch (error) {
      toast.error(faultOf(error).message)
    }
  }
  const send = async () => {
    setBusy(true)
    try {
      const next = await call(handIn, params, { group, text, links: listed, files: chosen, after: newest })
      touched.current = false
      setFault(null)
      setLeft(new Set())
      setAsking(null)
      put(next)
      toast.success('Handed in. Everybody it counts for has a receipt by mail.')
    } catch (error) {
      setAsking(null)
      setFault(faultOf(error))
      refetch()
    } finally {
      setBusy(false)
    }
  }
  const back = async () => {
    setBusy(true)
    try {
      touched.current = false
      put(await call(takeBack, params, { group }))
      toast.success('Taken back. What was written is in the draft again.')
    } catch (error) {
      toast.error(faultOf(error).message, { duration: 8_000 })
      refetch()
    } finally {
      setBusy(false)
      setAsking(null)
    }
  }
  const removeFile = async ({ code, name }: FileView) => {
    try {
      put(await call(removeDraftFile, { ...params, file: code }, { group }))
      toast(`“${name}” is taken away.`)
    } catch (error) {
      toast.error(faultOf(error).message)
      refetch()
    }
  }
  return (
    <div className="flex flex-col gap-3">
      <h3 className="text-base">{standing ? 'Another version' : 'Hand in'}</h3>
      {others && (
        <p className="rounded-field bg-sun-soft px-3 py-2 text-sun-ink">
          {draft.holder} is writing now. You can read along, and write once they let go of it or pause for two
          minutes.
        </p>
      )}
      {work.takesText && (
        <Area
          label="Text"
          rows={8}
          value={text}
          readOnly={others}
          onChange={(event) => type(() => setText(event.target.value))}
          fault={fault?.field('text')}
        />
      )}
      {work.takesLinks && (
        <Area
          label="Links, one in each line"
          rows={2}
          value={links}
          readOnly={others}
          onChange={(event) => type(() => setLinks(event.target.value))}
          fault={wrong ? `“${wrong}” is no link: it begins with https:// or http://.` : undefined}
        />
      )}
      {work.takesFiles && (
        <div className="flex flex-col gap-1">
          <h4 className="text-sm font-semibold text-soft">Files</h4>
          <ul>
            {again.map((file) => (
              <li key={file.code}>
                <FileLine sheet={sheet} file={file} note={`, from version ${standing?.version}`}>
                  <Button
                    size="small"
                    aria-pressed={!left.has(file.code)}
                    onClick={() => {
                      const next = new Set(left)
                      if (!next.delete(file.code)) next.add(file.code)
                      setLeft(next)
                    }}
                  >
                    {left.has(file.code) ? 'Hand in again' : 'Leave out'}
                    <span className="sr-only"> {file.name}</span>
                  </Button>
                </FileLine>
              </li>
            ))}
            {work.brought.map((file) => (
              <li key={file.code}>
                <FileLine sheet={sheet} file={file} note={`, by ${file.by}`}>
                  <Button size="small" look="quiet" onClick={() => void removeFile(file)}>
                    Take away<span className="sr-only"> {file.name}</span>
                  </Button>
                </FileLine>
              </li>
            ))}
          </ul>
          <Bring
            sheet={sheet}
            aim={{ aim: 'work', task: task.code, group }}
            label="Bring files"
            hint={`${sayBytes(work.room.fileBytes)} each at most, ${sayBytes(work.room.left)} left`}
            onDone={refetch}
          />
        </div>
      )}
      {fault && !fault.field('text') && (
        <p role="alert" className="text-ember">
          {fault.message}
        </p>
      )}
      <div className="flex flex-wrap items-center gap-2">
        <Button
          look="main"
          size="touch"
          busy={busy}
          disabled={
            others ||
            wrong !== undefined ||
            (text.trim() === '' && listed.length === 0 && chosen.length === 0)
          }
          onClick={() => setAsking('hand-in')}
        >
          {work.forWhom === 'group' ? 'Hand in for your group' : 'Hand in'}
        </Button>
        {draft?.yours && (
          <Button size="touch" onClick={() => void letGo()}>
            Let others write
          </Button>
        )}
        {standing && task.gate.state === 'open' && (
          <Button size="touch" busy={busy} onClick={() => setAsking('take-back')}>
            Take it back
          </Button>
        )}
        <output className="text-sm text-moss">{said}</output>
      </div>
      <Ask
        open={asking !== null}
        title={
          asking === 'take-back'
            ? 'Take it back?'
            : task.gate.state === 'late'
              ? 'Hand it in late?'
              : 'Hand it in?'
        }
        yes={asking === 'take-back' ? 'Take it back' : 'Hand it in'}
        busy={busy}
        onNo={() => setAsking(null)}
        onYes={() => void (asking === 'take-back' ? back() : send())}
      >
        {asking === 'take-back' ? (
          <p>Then nothing is handed in, and what was written is in the draft again.</p>
        ) : (
          <p>
            {work.forWhom === 'group'
              ? 'It counts for everybody who sits in your group now, and from then on nobody leaves the group by themselves.'
              : 'It counts for you.'}{' '}
            Until it is due it can be followed by another version, or taken back.
          </p>
        )}
      </Ask>
    </div>
  )
}
