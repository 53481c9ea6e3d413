import { type FormEvent, useState } from 'react'
import type { GroupPage } from '../../contract/groups.ts'
import { startSubject } from '../../contract/talk.ts'
import { sayInstant } from '../../core/zone.ts'
import { call } from '../data/call.ts'
import { useUnsent } from '../data/useDraft.ts'
import { useAct } from '../kit/Acting.tsx'
import { Button } from '../kit/Button.tsx'
import { Field } from '../kit/Field.tsx'
import { FormFault } from '../kit/FormFault.tsx'
import { SearchBox } from '../kit/SearchBox.tsx'
import { PostField } from './PostField.tsx'
import { Subject } from './Subject.tsx'

/** Above this number of subjects a search is offered. */
const SEARCHED = 12

/** The talk of a group: its subjects, each opened in place. */
export function Talk({ page, refetch }: { page: GroupPage; refetch: () => void }) {
  const [open, setOpen] = useState<string | null>(null)
  const [starting, setStarting] = useState(false)
  const [sought, setSought] = useState('')
  const shown = page.talk.filter(({ title }) => title.toLowerCase().includes(sought.trim().toLowerCase()))
  return (
    <section aria-labelledby="talk" className="rounded-card border border-line bg-surface">
      <div className="flex flex-wrap items-center justify-between gap-2 px-4 py-3">
        <h2 id="talk" className="text-lg">
          Talk
        </h2>
        {page.talk.length > SEARCHED && (
          <SearchBox label="Search the subjects" value={sought} onValue={setSought} />
        )}
        {page.may.start && !starting && (
          <Button size="touch" onClick={() => setStarting(true)}>
            Open a subject
          </Button>
        )}
      </div>
      {starting && (
        <Start
          page={page}
          onClose={(started) => {
            setStarting(false)
            if (started) {
              setOpen(started)
              refetch()
            }
          }}
        />
      )}
      {page.talk.length === 0 && !starting && (
        <p className="border-t tear px-4 py-4 text-soft">
          {page.may.start
            ? 'Nobody has opened a subject yet. One subject for one thing makes it easy to find again.'
            : page.may.write
              ? 'There is no subject yet. Your instructors open them, and you reply.'
              : 'Nobody opened a subject.'}
        </p>
      )}
      {page.talk.length > 0 && shown.length === 0 && (
        <p className="border-t tear px-4 py-3 text-soft">No subject is called that.</p>
      )}
      <ul>
        {shown.map(({ code, title, replies, lastAt, lastBy, unread, mentioned, shared }) => (
          <li key={code} className="border-t border-line">
            <button
              type="button"
              aria-expanded={open === code}
              onClick={() => setOpen(open === code ? null : code)}
              className="flex min-h-12 w-full flex-wrap items-center justify-between gap-x-4 gap-y-0.5 px-4 py-2 text-left hover:bg-seat-soft"
            >
              <span className={`min-w-0 wrap-anywhere ${unread > 0 ? 'font-bold' : 'font-semibold'}`}>
                {title}
                {shared && <span className="ml-2 text-sm font-normal text-soft">in several groups</span>}
                {unread > 0 && (
                  <span
                    className={`ml-2 rounded px-1.5 text-sm font-semibold ${mentioned ? 'bg-ember-soft text-ember' : 'bg-seat-soft text-seat'}`}
                  >
                    {unread} new{mentioned && ', names you'}
                  </span>
                )}
              </span>
              <span className="figures text-sm text-soft">
                {replies === 0 ? 'no reply' : replies === 1 ? '1 reply' : `${replies} replies`} · {lastBy},{' '}
                {sayInstant(lastAt, page.sheet.zone)}
              </span>
            </button>
            {open === code && <Subject page={page} code={code} lastAt={lastAt} refetch={refetch} />}
          </li>
        ))}
      </ul>
    </section>
  )
}

function Start({ page, onClose }: { page: GroupPage; onClose: (started: string | null) => void }) {
  const unsent = useUnsent(`subject ${page.code}`, { title: '', text: '' })
  const { title, text } = unsent.value
  const act = useAct()
  const { busy, fault } = act
  const start = async (event: FormEvent) => {
    event.preventDefault()
    const done = await act.do({
      work: () => call(startSubject, { sheet: page.sheet.code, group: page.code }, { title, text }),
      beside: true,
    })
    if (done.fault) return
    unsent.drop()
    onClose(done.answer.code)
  }
  return (
    <form className="flex flex-col gap-2 border-t tear px-4 py-3" onSubmit={(event) => void start(event)}>
      <Field
        label="Subject"
        value={title}
        onChange={({ target }) => unsent.write({ title: target.value, text })}
        fault={fault?.field('title')}
      />
      <PostField
        label="What you want to say"
        value={text}
        onValue={(next) => unsent.write({ title, text: next })}
        people={page.people}
      />
      <FormFault fault={fault} fields={['title']} />
      <div className="flex gap-2">
        <Button
          type="submit"
          size="touch"
          look="main"
          busy={busy}
          disabled={title.trim() === '' || text.trim() === ''}
        >
          Open subject
        </Button>
        <Button size="touch" onClick={() => onClose(null)}>
          Cancel
        </Button>
      </div>
    </form>
  )
}
