import { type FormEvent, useState } from 'react'
import type { GroupPage } from '../../contract/groups.ts'
import { type SubjectHead, startSubject } from '../../contract/talk.ts'
import { sayInstant } from '../../core/zone.ts'
import { call } from '../data/call.ts'
import { useUnsent } from '../data/useDraft.ts'
import { useAct } from '../kit/Acting.tsx'
import { Button } from '../kit/Button.tsx'
import { Field } from '../kit/Field.tsx'
import { FormFault } from '../kit/FormFault.tsx'
import { SearchBox } from '../kit/SearchBox.tsx'
import { DigestChoice } from './DigestChoice.tsx'
import { PostField } from './PostField.tsx'
import { Subject } from './Subject.tsx'

/** Above this number of subjects a search is offered. */
const SEARCHED = 12

/** The talk of a group: its subjects, each opened in place. */
export function Talk({ page, refetch }: { page: GroupPage; refetch: () => void }) {
  const [open, setOpen] = useState<string | null>(null)
  const [starting, setStarting] = useState(false)
  const [sought, setSought] = useState('')
  const subjects = page.talk.filter(({ within }) => within === null)
  const threadsOf = (code: string) => page.talk.filter(({ within }) => within === code)
  const wanted = sought.trim().toLowerCase()
  const called = ({ title }: SubjectHead) => title.toLowerCase().includes(wanted)
  const shown = subjects.filter((one) => called(one) || threadsOf(one.code).some(called))
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
      {subjects.length === 0 && !starting && (
        <p className="border-t tear px-4 py-4 text-soft">
          {page.may.start
            ? 'Nobody has opened a subject yet. One subject for one thing makes it easy to find again.'
            : page.may.write
              ? `There is no subject yet. Your instructors open them, and you ${page.extras.starts === 'threads' ? 'open threads within' : 'reply'}.`
              : 'Nobody opened a subject.'}
        </p>
      )}
      {subjects.length > 0 && shown.length === 0 && (
        <p className="border-t tear px-4 py-3 text-soft">No subject is called that.</p>
      )}
      <ul>
        {shown.map((one) => (
          <Line
            key={one.code}
            page={page}
            subject={one}
            threads={threadsOf(one.code)}
            open={open === one.code}
            onOpen={(on) => setOpen(on ? one.code : null)}
            refetch={refetch}
          />
        ))}
      </ul>
      <DigestChoice />
    </section>
  )
}

/** A subject or a thread as a line, opened in place; threads stand within their subject. */
function Line({
  page,
  subject,
  threads,
  open,
  onOpen,
  refetch,
}: {
  page: GroupPage
  subject: SubjectHead
  threads: readonly SubjectHead[]
  open: boolean
  onOpen: (open: boolean) => void
  refetch: () => void
}) {
  const [within, setWithin] = useState<string | null>(null)
  const [starting, setStarting] = useState(false)
  const { code, title, replies, shared } = subject
  const all = [subject, ...threads]
  const unread = all.reduce((sum, one) => sum + one.unread, 0)
  const mentioned = all.some((one) => one.mentioned)
  const newest = all.reduce((latest, one) => (one.lastAt > latest.lastAt ? one : latest), subject)
  const isThread = subject.within !== null
  const counts = [
    ...(threads.length > 0 ? [threads.length === 1 ? '1 thread' : `${threads.length} threads`] : []),
    ...(threads.length === 0 || replies > 0
      ? [replies === 0 ? 'no reply' : replies === 1 ? '1 reply' : `${replies} replies`]
      : []),
  ]
  return (
    <li className="border-t border-line">
      <button
        type="button"
        aria-expanded={open}
        onClick={() => onOpen(!open)}
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
          {counts.join(', ')} · {newest.lastBy}, {sayInstant(newest.lastAt, page.sheet.zone)}
        </span>
      </button>
      {open && (
        <>
          <Subject
            page={page}
            code={code}
            lastAt={subject.lastAt}
            mayReply={page.may.write && (isThread || page.may.replyToSubject)}
            refetch={refetch}
          />
          {!isThread && (threads.length > 0 || page.may.thread) && (
            <div className="ml-4 border-l-2 border-line">
              <ul aria-label={`Threads in ${title}`}>
                {threads.map((one) => (
                  <Line
                    key={one.code}
                    page={page}
                    subject={one}
                    threads={[]}
                    open={within === one.code}
                    onOpen={(on) => setWithin(on ? one.code : null)}
                    refetch={refetch}
                  />
                ))}
              </ul>
              {page.may.thread &&
                (starting ? (
                  <Start
                    page={page}
                    within={code}
                    onClose={(started) => {
                      setStarting(false)
                      if (!started) return
                      setWithin(started)
                      refetch()
                    }}
                  />
                ) : (
                  <div className="border-t tear px-4 py-2">
                    <Button size="touch" onClick={() => setStarting(true)}>
                      Open a thread
                    </Button>
                  </div>
                ))}
            </div>
          )}
        </>
      )}
    </li>
  )
}

function Start({
  page,
  within = null,
  onClose,
}: {
  page: GroupPage
  /** The subject in which a thread is opened; null for a subject. */
  within?: string | null
  onClose: (started: string | null) => void
}) {
  const unsent = useUnsent(`subject ${page.code} ${within ?? ''}`, { title: '', text: '' })
  const { title, text } = unsent.value
  const act = useAct()
  const { busy, fault } = act
  const start = async (event: FormEvent) => {
    event.preventDefault()
    const done = await act.do({
      work: () => call(startSubject, { sheet: page.sheet.code, group: page.code }, { title, text, within }),
      beside: true,
    })
    if (done.fault) return
    unsent.drop()
    onClose(done.answer.code)
  }
  return (
    <form className="flex flex-col gap-2 border-t tear px-4 py-3" onSubmit={(event) => void start(event)}>
      <Field
        label={within ? 'Thread' : 'Subject'}
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
          {within ? 'Open thread' : 'Open subject'}
        </Button>
        <Button size="touch" onClick={() => onClose(null)}>
          Cancel
        </Button>
      </div>
    </form>
  )
}
