import { useState } from 'react'
import { Link } from 'react-router'
import type { ComposeView } from '../../../contract/sheets.ts'
import { LIMITS } from '../../../core/limits.ts'
import { Button } from '../../kit/Button.tsx'
import { Card } from '../../kit/Card.tsx'
import { Area, Field as Line } from '../../kit/Field.tsx'
import { Markdown } from '../../kit/Markdown.tsx'
import { AnnounceCard } from './AnnounceCard.tsx'
import { FieldNotes } from './cells.tsx'
import { HouseRulesCard } from './HouseRulesCard.tsx'
import { LinkCard } from './LinkCard.tsx'
import { SeatsCheck } from './SeatsCheck.tsx'
import type { Composing } from './useComposing.ts'
import { type Field, useField } from './useField.ts'
import { WhomCard } from './WhomCard.tsx'
import { WindowFields } from './WindowFields.tsx'

/** What stands beside the topics: the seats check, the window, the house rules, the sheet's own texts, the link. */
export function SheetCards({ view, composing }: { view: ComposeView; composing: Composing }) {
  return (
    <div className="flex flex-col gap-3.5 p-4">
      {view.publishedAt !== null && <LinkCard view={view} />}
      <SeatsCheck view={view} composing={composing} />
      <WhomCard view={view} composing={composing} />
      {view.rules.road === 'made' ? (
        <MadeCard view={view} />
      ) : (
        <Card title="Window">
          <WindowFields view={view} composing={composing} />
        </Card>
      )}
      {view.publishedAt !== null && view.mayEdit && <AnnounceCard view={view} />}
      <HouseRulesCard view={view} composing={composing} />
      <Card title="What students read first">
        <Texts view={view} composing={composing} />
      </Card>
    </div>
  )
}

/** What stands in place of a window where the instructor makes the groups. */
function MadeCard({ view }: { view: ComposeView }) {
  return (
    <Card title="Groups are made by you">
      <p className="text-soft">
        {view.publishedAt === null
          ? 'Students do not choose. Make the groups in Settle, change what you like, and publish them: then each sees their own.'
          : 'Students see their group, and do not change it. Move people on Run, or by a plan.'}
      </p>
      <p className="mt-2">
        <Link className="font-semibold text-seat hover:underline" to={`/sheets/${view.code}/settle`}>
          Make the groups in Settle
        </Link>
      </p>
    </Card>
  )
}

function Texts({ view, composing }: { view: ComposeView; composing: Composing }) {
  const own = (field: 'title' | 'contact' | 'instructions') => ({
    key: `compose ${view.code} ${field}`,
    value: view[field],
    keep: (typed: string, was: string) => composing.sheet({ [field]: typed }, { [field]: was }),
    read: (next: ComposeView) => next[field],
    refetch: composing.refetch,
  })
  const title = useField(own('title'))
  const contact = useField(own('contact'))
  const instructions = useField(own('instructions'))
  const [looking, setLooking] = useState(false)
  const shut = !view.mayEdit
  const bind = (kept: Field, path: string) => ({
    value: kept.value,
    onChange: (event: { target: { value: string } }) => kept.change(event.target.value),
    onBlur: kept.flush,
    readOnly: shut,
    fault: kept.theirs !== null || kept.fault ? <FieldNotes field={kept} path={path} /> : undefined,
  })
  return (
    <div className="flex flex-col gap-3">
      <Line label="Title" maxLength={LIMITS.title} {...bind(title, 'title')} />
      {looking ? (
        <div>
          <p className="text-sm font-semibold text-soft">Instructions as students see them</p>
          <Markdown text={instructions.value || '*Nothing yet.*'} />
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
      <Line
        label="Address for questions"
        type="email"
        hint="Students get a mail link to it."
        {...bind(contact, 'contact')}
      />
    </div>
  )
}
