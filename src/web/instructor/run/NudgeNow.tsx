import { useState } from 'react'
import { type NudgesView, nudge as nudgeRoute } from '../../../contract/nudges.ts'
import type { RunView } from '../../../contract/seats.ts'
import { changeSheet } from '../../../contract/sheets.ts'
import { sayInstant } from '../../../core/zone.ts'
import { call } from '../../data/call.ts'
import { useSheetState } from '../../data/state.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Button } from '../../kit/Button.tsx'
import { Check } from '../../kit/Check.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { TextFields, type Texts } from './NudgeTexts.tsx'
import { asRead, peopleFor, type Whom } from './nudging.ts'

/** Writing at once: to whom, what, and as one of them reads it. */
export function NudgeNow({
  view,
  data,
  group,
  section: shown,
  draft,
  setDraft,
  put,
  onSent,
}: {
  view: RunView
  data: NudgesView
  group: string | null
  /** The section that the tray shows alone, which the nudge begins with. */
  section: string | null
  draft: Texts
  setDraft: (texts: Texts) => void
  put: (view: NudgesView) => void
  onSent: () => void
}) {
  const open = useSheetState(view) === 'open'
  const [whom, setWhom] = useState<Whom>(
    group !== null ? 'groups' : view.rules.road === 'wished' && open ? 'not-ranked' : 'no-group',
  )
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set(group === null ? [] : [group]))
  const [section, setSection] = useState(shown)
  const [reader, setReader] = useState('')
  const act = useAct()
  const { fault, busy } = act
  const people = peopleFor(data.people, whom, section, chosen)
  const example = people.find(({ code }) => code === reader) ?? people[0]
  const titleOf = (code: string | undefined) => {
    const topic = view.groups.find((one) => one.code === code)?.topic
    return view.topics.find((one) => one.code === topic)?.title ?? 'no group yet'
  }
  const done = people.filter(({ groups, today }) => groups.length === 0 && today >= data.aDay).length
  const send = async () => {
    const done = await act.do({
      work: () =>
        call(nudgeRoute, { sheet: view.code }, { ...draft, people: people.map(({ code }) => code) }),
      put: ({ skipped: _skipped, sent: _sent, ...next }) => put(next),
      said: ({ skipped, sent }) =>
        skipped.length === 0
          ? `Sent to ${sent}.`
          : `Sent to ${sent}. Left out, with ${data.aDay} today already: ${skipped.slice(0, 5).join(', ')}${skipped.length > 5 ? ' and more' : ''}.`,
      beside: true,
    })
    if (!done.fault) onSent()
  }
  const count = (choice: Whom) => peopleFor(data.people, choice, section, chosen).length
  const choices: { value: Whom; label: string }[] = [
    ...(view.rules.road === 'wished'
      ? [{ value: 'not-ranked' as const, label: `Ranked nothing, or too little (${count('not-ranked')})` }]
      : []),
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
            <Choice value={whom} onValue={(value) => setWhom(value as Whom)}>
              {choices.map(({ value, label }) => (
                <option key={value} value={value}>
                  {label}
                </option>
              ))}
            </Choice>
          </label>
          {view.sections.length > 0 && whom !== 'groups' && (
            <label className="flex flex-col gap-1 text-sm font-semibold text-soft">
              Section
              <Choice value={section ?? ''} onValue={(value) => setSection(value || null)}>
                <option value="">all</option>
                {view.sections.map(({ code, name }) => (
                  <option key={code} value={code}>
                    {name}
                  </option>
                ))}
              </Choice>
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
              <Choice value={example.code} onValue={setReader} className="max-w-48">
                {people.map(({ code, name }) => (
                  <option key={code} value={code}>
                    {name}
                  </option>
                ))}
              </Choice>
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
          <Check key={code} checked={chosen.has(code)} onValue={() => toggle(code)} className="text-sm">
            <span className="truncate">
              {titles.get(topic)} <span className="text-soft">{sections.get(section ?? '')}</span>
            </span>
          </Check>
        ))}
      </div>
    </fieldset>
  )
}

/** How many nudges one person may get within a day. */
function ADay({ view, data, put }: { view: RunView; data: NudgesView; put: (view: NudgesView) => void }) {
  const act = useAct()
  const choose = (nudgesADay: number) =>
    act.do({
      work: () => call(changeSheet, { sheet: view.code }, { nudgesADay }),
      put: () => put({ ...data, aDay: nudgesADay }),
    })
  return (
    <label className="ml-auto text-sm text-soft">
      At most{' '}
      <Choice value={data.aDay} onValue={(value) => void choose(Number(value))}>
        {[1, 2, 3, 4, 5, 6, 7, 8, 9, 10].map((n) => (
          <option key={n} value={n}>
            {n}
          </option>
        ))}
      </Choice>{' '}
      a day to somebody without a group
    </label>
  )
}
