import { useState } from 'react'
import { type ComposeView, changeSheet, type SheetChanges } from '../../../contract/sheets.ts'
import { LIMITS } from '../../../core/limits.ts'
import { call } from '../../data/call.ts'
import { Button } from '../../kit/Button.tsx'
import { Area, Field } from '../../kit/Field.tsx'
import { Markdown } from '../../kit/Markdown.tsx'
import { AnnounceCard } from './AnnounceCard.tsx'
import { Card, type ChangeSheet } from './Card.tsx'
import { HouseRulesCard } from './HouseRulesCard.tsx'
import { LinkCard } from './LinkCard.tsx'
import { SeatsCheck } from './SeatsCheck.tsx'
import type { SendEdit } from './useEdits.ts'
import { useKept } from './useKept.ts'
import { WindowFields } from './WindowFields.tsx'

/** What stands beside the topics: the seats check, the window, the house rules, the sheet's own texts, the link. */
export function SheetCards({
  view,
  edit,
  undo,
  last,
}: {
  view: ComposeView
  edit: SendEdit
  undo: (step?: number) => void
  /** The step that was made last. */
  last: () => number | null
}) {
  const change: ChangeSheet = (changes, before) => {
    const send = (body: SheetChanges) => (confirmed: boolean) =>
      call(changeSheet, { sheet: view.code }, { ...body, confirmed })
    return edit(send(changes), before && send(before))
  }
  return (
    <div className="flex flex-col gap-3.5 p-4">
      {view.publishedAt !== null && <LinkCard view={view} />}
      <SeatsCheck view={view} change={change} edit={edit} undo={undo} last={last} />
      <Card title="Window">
        <WindowFields view={view} change={change} />
      </Card>
      {view.publishedAt !== null && view.mayEdit && <AnnounceCard view={view} />}
      <HouseRulesCard view={view} change={change} />
      <Card title="What students read first">
        <Texts view={view} change={change} />
      </Card>
    </div>
  )
}

function Texts({ view, change }: { view: ComposeView; change: ChangeSheet }) {
  const title = useKept(view.title, (typed) => change({ title: typed }, { title: view.title }))
  const contact = useKept(view.contact, (typed) => change({ contact: typed }, { contact: view.contact }))
  const instructions = useKept(view.instructions, (typed) =>
    change({ instructions: typed }, { instructions: view.instructions }),
  )
  const [looking, setLooking] = useState(false)
  const shut = !view.mayEdit
  const bind = (kept: ReturnType<typeof useKept>, path: string) => ({
    value: kept.text,
    onChange: (event: { target: { value: string } }) => kept.change(event.target.value),
    onBlur: kept.flush,
    readOnly: shut,
    fault:
      kept.theirs !== null ? (
        <>
          Somebody changed it meanwhile.{' '}
          <button type="button" className="font-semibold underline" onClick={kept.insist}>
            Keep mine
          </button>{' '}
          <button type="button" className="font-semibold underline" onClick={kept.drop}>
            Take theirs
          </button>
        </>
      ) : kept.fault ? (
        (kept.fault.field(path) ?? kept.fault.message)
      ) : undefined,
  })
  return (
    <div className="flex flex-col gap-3">
      <Field label="Title" maxLength={LIMITS.title} {...bind(title, 'title')} />
      {looking ? (
        <div>
          <p className="text-sm font-semibold text-soft">Instructions as students see them</p>
          <Markdown text={instructions.text || '*Nothing yet.*'} />
        </div>
      ) : (
        <Area
          label="Instructions"
          hint="Markdown: **bold**, *italic*, - lists, [links](https://…)."
          rows={5}
          {...bind(instructions, 'instructions')}
          className="max-h-96 min-h-24 [field-sizing:content]"
        />
      )}
      <div>
        <Button size="small" aria-pressed={looking} onClick={() => setLooking(!looking)}>
          {looking ? 'Write on' : 'See how it reads'}
        </Button>
      </div>
      <Field
        label="Address for questions"
        type="email"
        hint="Students get a mail link to it."
        {...bind(contact, 'contact')}
      />
    </div>
  )
}
