import { useEffect, useRef, useState } from 'react'
import { toast } from 'sonner'
import { isWebLink } from '../../contract/fields.ts'
import { handIn, letGoDraft, type OwnTask, type OwnWork, saveDraft, takeBack } from '../../contract/tasks.ts'
import { call, type Fault, faultOf } from '../data/call.ts'
import { useSoon } from '../data/useSoon.ts'
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
  const [text, setText] = useState(draft?.text ?? '')
  const [links, setLinks] = useState((draft?.links ?? []).join('\n'))
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
      const next = await call(handIn, params, { group, text, links: listed, files: [], after: newest })
      touched.current = false
      setFault(null)
      setText('')
      setLinks('')
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
          disabled={others || wrong !== undefined || (text.trim() === '' && listed.length === 0)}
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
