import { Dialog, Tabs } from 'radix-ui'
import { useState } from 'react'
import { toast } from 'sonner'
import { addAutomaticNudge, type NudgesView, nudge as nudgeRoute, nudges } from '../../../contract/nudges.ts'
import type { RunView } from '../../../contract/seats.ts'
import { changeSheet } from '../../../contract/sheets.ts'
import { NUDGE_FIELDS } from '../../../core/nudge.ts'
import { sayInstant } from '../../../core/zone.ts'
import { useAnswer } from '../../data/answers.ts'
import { call, type Fault, faultOf } from '../../data/call.ts'
import { Button } from '../../kit/Button.tsx'
import { DialogBox } from '../../kit/DialogBox.tsx'
import { Area, BOX, Field } from '../../kit/Field.tsx'
import { Loading, Trouble } from '../../kit/Waiting.tsx'
import { NudgeHistory } from './NudgeHistory.tsx'
import { asRead, FIRST_TEXT, GROUP_TEXT, peopleFor, type Whom } from './nudging.ts'

const TAB =
  'border-b-2 border-transparent pb-1 font-semibold text-soft data-[state=active]:border-ember data-[state=active]:text-ink'

/** Writing to those who have no group yet, or to others of the course. */
export function NudgeAsk({
  view,
  group,
  onClose,
}: {
  view: RunView
  /** The group that is written to first; null for those without one. */
  group: string | null
  onClose: () => void
}) {
  const { data, error, mutate } = useAnswer(nudges, { sheet: view.code }, { refreshInterval: 5_000 })
  const [tab, setTab] = useState('write')
  const [draft, setDraft] = useState(group === null ? FIRST_TEXT : GROUP_TEXT)
  const put = (next: NudgesView) => void mutate(next, { revalidate: false })
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <DialogBox title="Write to students" width="large">
        {!data ? (
          error ? (
            <Trouble fault={error} retry={() => void mutate()} />
          ) : (
            <Loading what="whom to write to" />
          )
        ) : (
          <Tabs.Root value={tab} onValueChange={setTab}>
            <Tabs.List className="mb-3 flex gap-5 border-b border-line">
              <Tabs.Trigger value="write" className={TAB}>
                Now
              </Tabs.Trigger>
              <Tabs.Trigger value="later" className={TAB}>
                Before the close
              </Tabs.Trigger>
              <Tabs.Trigger value="history" className={TAB}>
                What went out ({data.nudges.filter(({ sentAt }) => sentAt !== null).length})
              </Tabs.Trigger>
            </Tabs.List>
            <Tabs.Content value="write">
              <WriteNow
                view={view}
                data={data}
                group={group}
                draft={draft}
                setDraft={setDraft}
                put={put}
                onSent={() => setTab('history')}
              />
            </Tabs.Content>
            <Tabs.Content value="later">
              <BeforeClose view={view} data={data} draft={draft} setDraft={setDraft} put={put} />
            </Tabs.Content>
            <Tabs.Content value="history">
              <NudgeHistory
                view={view}
                data={data}
                put={put}
                onAgain={(texts) => {
                  setDraft(texts)
                  setTab('write')
                }}
              />
            </Tabs.Content>
          </Tabs.Root>
        )}
      </DialogBox>
    </Dialog.Root>
  )
}

interface Texts {
  subject: string
  text: string
}

/** The text with its fields. A field is put where the cursor stands. */
function TextFields({
  draft,
  setDraft,
  fault,
}: {
  draft: Texts
  setDraft: (texts: Texts) => void
  fault: Fault | null
}) {
  return (
    <>
      <Field
        label="Subject"
        value={draft.subject}
        fault={fault?.field('subject')}
        onChange={(event) => setDraft({ ...draft, subject: event.target.value })}
      />
      <Area
        label="Text"
        rows={8}
        value={draft.text}
        fault={fault?.field('text')}
        onChange={(event) => setDraft({ ...draft, text: event.target.value })}
      />
      <p className="flex flex-wrap items-center gap-1.5 text-sm text-soft">
        Fields:
        {NUDGE_FIELDS.map((field) => (
          <button
            key={field}
            type="button"
            onClick={() => setDraft({ ...draft, text: `${draft.text}{${field}}` })}
            className="min-h-6 rounded border border-line-strong px-1.5 hover:border-open"
          >
            {`{${field}}`}
          </button>
        ))}
      </p>
    </>
  )
}

function WriteNow({
  view,
  data,
  group,
  draft,
  setDraft,
  put,
  onSent,
}: {
  view: RunView
  data: NudgesView
  group: string | null
  draft: Texts
  setDraft: (texts: Texts) => void
  put: (view: NudgesView) => void
  onSent: () => void
}) {
  const [whom, setWhom] = useState<Whom>(group === null ? 'no-group' : 'groups')
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set(group === null ? [] : [group]))
  const [section, setSection] = useState<string | null>(null)
  const [reader, setReader] = useState('')
  const [fault, setFault] = useState<Fault | null>(null)
  const [busy, setBusy] = useState(false)
  const people = peopleFor(data.people, whom, section, chosen)
  const example = people.find(({ code }) => code === reader) ?? people[0]
  const titleOf = (code: string | undefined) => {
    const topic = view.groups.find((one) => one.code === code)?.topic
    return view.topics.find((one) => one.code === topic)?.title ?? 'no group yet'
  }
  const done = people.filter(({ groups, today }) => groups.length === 0 && today >= data.aDay).length
  const send = async () => {
    setBusy(true)
    try {
      const { skipped, sent, ...next } = await call(
        nudgeRoute,
        { sheet: view.code },
        { ...draft, people: people.map(({ code }) => code) },
      )
      setFault(null)
      put(next)
      toast.success(
        skipped.length === 0
          ? `Sent to ${sent}.`
          : `Sent to ${sent}. Left out, with ${data.aDay} today already: ${skipped.slice(0, 5).join(', ')}${skipped.length > 5 ? ' and more' : ''}.`,
        { duration: 8_000 },
      )
      onSent()
    } catch (error) {
      setFault(faultOf(error))
    } finally {
      setBusy(false)
    }
  }
  const count = (choice: Whom) => peopleFor(data.people, choice, section, chosen).length
  const choices: { value: Whom; label: string }[] = [
    { value: 'no-group', label: `No group yet (${count('no-group')})` },
    { value: 'never-opened', label: `No group, never opened the sheet (${count('never-opened')})` },
    { value: 'opened', label: `No group, has opened the sheet (${count('opened')})` },
    { value: 'seated', label: `Everybody seated (${count('seated')})` },
    { value: 'everybody', label: `Everybody (${count('everybody')})` },
    { value: 'groups', label: `Certain groups (${count('groups')})` },
  ]
  return (
    <div className="grid gap-5 md:grid-cols-[3fr_2fr]">
      <div className="flex flex-col gap-3">
        <div className="flex flex-wrap gap-3">
          <label className="flex min-w-0 flex-1 flex-col gap-1 text-sm font-semibold text-soft">
            To
            <select
              value={whom}
              onChange={({ target }) => setWhom(target.value as Whom)}
              className={`${BOX} min-h-9 text-ink`}
            >
              {choices.map(({ value, label }) => (
                <option key={value} value={value}>
                  {label}
                </option>
              ))}
            </select>
          </label>
          {view.sections.length > 0 && whom !== 'groups' && (
            <label className="flex flex-col gap-1 text-sm font-semibold text-soft">
              Section
              <select
                value={section ?? ''}
                onChange={({ target }) => setSection(target.value || null)}
                className={`${BOX} min-h-9 text-ink`}
              >
                <option value="">all</option>
                {view.sections.map(({ code, name }) => (
                  <option key={code} value={code}>
                    {name}
                  </option>
                ))}
              </select>
            </label>
          )}
        </div>
        {whom === 'groups' && <WhichGroups view={view} chosen={chosen} onChosen={setChosen} />}
        <TextFields draft={draft} setDraft={setDraft} fault={fault} />
        {fault && !fault.field('text') && !fault.field('subject') && (
          <p role="alert" className="text-ember">
            {fault.message}
          </p>
        )}
        <details className="text-sm">
          <summary className="cursor-pointer text-soft">
            Who gets it, and when they opened the sheet last
          </summary>
          <ul className="mt-1 grid max-h-36 gap-x-6 overflow-auto sm:grid-cols-2">
            {people.map(({ code, name, lastOpened }) => (
              <li key={code} className="flex justify-between gap-2">
                <span className="truncate">{name}</span>
                <span className="figures text-soft">
                  {lastOpened === null ? 'never' : sayInstant(lastOpened, view.course.zone)}
                </span>
              </li>
            ))}
          </ul>
        </details>
        <div className="flex flex-wrap items-center gap-3">
          <Button
            look="ember"
            busy={busy}
            disabled={people.length === 0 || !view.mayEdit}
            onClick={() => void send()}
          >
            Send to {people.length}
          </Button>
          <p className="text-sm text-soft">
            {done > 0 && `${done} of them got ${data.aDay} today and are left out. `}
            {!view.mayEdit && 'Only instructors write.'}
          </p>
          {view.mayEdit && <ADay view={view} data={data} put={put} />}
        </div>
      </div>
      <section
        aria-label="As it is read"
        className="flex flex-col gap-2 rounded-card border border-line bg-canvas p-4"
      >
        {example ? (
          <>
            <label className="text-sm text-soft">
              As read by{' '}
              <select
                value={example.code}
                onChange={({ target }) => setReader(target.value)}
                className="min-h-7 max-w-48 rounded-field border border-line-strong bg-surface px-1 text-ink"
              >
                {people.map(({ code, name }) => (
                  <option key={code} value={code}>
                    {name}
                  </option>
                ))}
              </select>
            </label>
            <h3 className="text-base">
              {asRead(draft.subject, example, titleOf(example.groups[0]), data.fields)}
            </h3>
            <p className="border-t tear pt-2 whitespace-pre-line wrap-anywhere">
              {asRead(draft.text, example, titleOf(example.groups[0]), data.fields)}
            </p>
            <p className="mt-auto border-t tear pt-2 text-sm text-soft">
              {example.firstOpened === null
                ? 'Has never opened the sheet.'
                : `Opened the sheet last ${sayInstant(example.lastOpened ?? example.firstOpened, view.course.zone)}.`}{' '}
              {example.lastNudged === null
                ? 'Was never written to.'
                : `Was written to last ${sayInstant(example.lastNudged, view.course.zone)}.`}
            </p>
          </>
        ) : (
          <p className="text-soft">Nobody is like that, so there is nobody to write to.</p>
        )}
      </section>
    </div>
  )
}

/** Which groups are written to. */
function WhichGroups({
  view,
  chosen,
  onChosen,
}: {
  view: RunView
  chosen: ReadonlySet<string>
  onChosen: (chosen: ReadonlySet<string>) => void
}) {
  const titles = new Map(view.topics.map(({ code, title }) => [code, title]))
  const sections = new Map(view.sections.map(({ code, name }) => [code, name]))
  const toggle = (code: string) => {
    const next = new Set(chosen)
    if (!next.delete(code)) next.add(code)
    onChosen(next)
  }
  return (
    <fieldset className="max-h-32 overflow-auto rounded-field border border-line-strong px-3 py-1">
      <legend className="sr-only">Groups</legend>
      <div className="grid sm:grid-cols-2">
        {view.groups.map(({ code, topic, section }) => (
          <label key={code} className="flex min-h-7 items-center gap-2 text-sm">
            <input
              type="checkbox"
              className="size-4 accent-seat"
              checked={chosen.has(code)}
              onChange={() => toggle(code)}
            />
            <span className="truncate">
              {titles.get(topic)} <span className="text-soft">{sections.get(section ?? '')}</span>
            </span>
          </label>
        ))}
      </div>
    </fieldset>
  )
}

/** How many nudges one person may get within a day. */
function ADay({ view, data, put }: { view: RunView; data: NudgesView; put: (view: NudgesView) => void }) {
  const choose = async (nudgesADay: number) => {
    try {
      await call(changeSheet, { sheet: view.code }, { nudgesADay })
      put({ ...data, aDay: nudgesADay })
    } catch (error) {
      toast.error(faultOf(error).message)
    }
  }
  return (
    <label className="ml-auto text-sm text-soft">
      At most{' '}
      <select
        value={data.aDay}
        onChange={({ target }) => void choose(Number(target.value))}
        className="min-h-7 rounded-field border border-line-strong bg-surface px-1 text-ink"
      >
        {[1, 2, 3, 4, 5, 6, 7, 8, 9, 10].map((n) => (
          <option key={n} value={n}>
            {n}
          </option>
        ))}
      </select>{' '}
      a day to somebody without a group
    </label>
  )
}

const HOURS = [
  { value: 72, label: '3 days' },
  { value: 48, label: '2 days' },
  { value: 24, label: '1 day' },
  { value: 12, label: '12 hours' },
  { value: 3, label: '3 hours' },
  { value: 1, label: '1 hour' },
]

/** Nudges that go by themselves, and setting another. */
function BeforeClose({
  view,
  data,
  draft,
  setDraft,
  put,
}: {
  view: RunView
  data: NudgesView
  draft: Texts
  setDraft: (texts: Texts) => void
  put: (view: NudgesView) => void
}) {
  const [hours, setHours] = useState(48)
  const [fault, setFault] = useState<Fault | null>(null)
  const [busy, setBusy] = useState(false)
  const waiting = data.nudges.filter(({ sentAt }) => sentAt === null)
  const add = async () => {
    setBusy(true)
    try {
      put(await call(addAutomaticNudge, { sheet: view.code }, { ...draft, hours }))
      setFault(null)
      toast.success('It will go by itself, to those who have no group then.')
    } catch (error) {
      setFault(faultOf(error))
    } finally {
      setBusy(false)
    }
  }
  return (
    <div className="flex flex-col gap-3">
      <p className="text-soft">
        Goes by itself before the close, to those who have no group at that moment; whoever has sat down by
        then is left alone.
      </p>
      <NudgeHistory view={view} data={{ ...data, nudges: waiting }} put={put} empty="None is set." />
      {view.mayEdit && (
        <>
          <label className="flex items-center gap-2 text-sm font-semibold text-soft">
            Before the close
            <select
              value={hours}
              onChange={({ target }) => setHours(Number(target.value))}
              className="min-h-9 rounded-field border border-line-strong bg-surface px-2 text-ink"
            >
              {HOURS.map(({ value, label }) => (
                <option key={value} value={value}>
                  {label}
                </option>
              ))}
            </select>
          </label>
          <TextFields draft={draft} setDraft={setDraft} fault={fault} />
          {fault && !fault.field('text') && !fault.field('subject') && (
            <p role="alert" className="text-ember">
              {fault.field('hours') ?? fault.message}
            </p>
          )}
          <div>
            <Button look="main" busy={busy} onClick={() => void add()}>
              Set it
            </Button>
          </div>
        </>
      )}
    </div>
  )
}
