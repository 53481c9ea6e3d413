import { type ReactNode, useState } from 'react'
import { toast } from 'sonner'
import { type ComposeView, changeSheet, type SheetChanges } from '../../../contract/sheets.ts'
import { LIMITS } from '../../../core/limits.ts'
import { call, type Fault } from '../../data/call.ts'
import { Button } from '../../kit/Button.tsx'
import { Area, Field } from '../../kit/Field.tsx'
import { Markdown } from '../../kit/Markdown.tsx'
import { SeatsCheck } from './SeatsCheck.tsx'
import type { Edit } from './useEdits.ts'
import { useKept } from './useKept.ts'
import { WindowFields } from './WindowFields.tsx'

/** Sends changes of the sheet itself. */
export type ChangeSheet = (changes: SheetChanges) => Promise<Fault | null>

/** What stands beside the topics: the seats check, the window, the house rules, the sheet's own texts, the link. */
export function SheetCards({
  view,
  edit,
}: {
  view: ComposeView
  edit: (work: Edit) => Promise<Fault | null>
}) {
  const change: ChangeSheet = (changes) =>
    edit((confirmed) => call(changeSheet, { sheet: view.code }, { ...changes, confirmed }))
  return (
    <div className="flex flex-col gap-3.5 p-4">
      {view.publishedAt !== null && <LinkCard view={view} />}
      <SeatsCheck view={view} change={change} />
      <Card title="Window">
        <WindowFields view={view} change={change} />
      </Card>
      <Card title="House rules">
        <ul className="flex flex-col">
          {RULES.map(({ rule, holds, notice }) => (
            <li key={rule} className="border-b tear py-1.5 last:border-0">
              <span className="flex justify-between gap-3">
                <span>{rule}</span>
                <strong className="text-right font-semibold">{holds}</strong>
              </span>
              <span className="block text-sm text-faint">{notice}</span>
            </li>
          ))}
        </ul>
      </Card>
      <Card title="What students read first">
        <Texts view={view} change={change} />
      </Card>
    </div>
  )
}

/** The rules every sheet has now. They are what the core enforces. */
const RULES = [
  { rule: 'Seats per student', holds: 'one', notice: 'Taking another seat is a move.' },
  { rule: 'How seats are given', holds: 'as they come', notice: 'A seat is theirs at once.' },
  {
    rule: 'Changing seats',
    holds: 'until the window closes',
    notice: 'The old seat is kept until the new one is won.',
  },
  {
    rule: 'Names are shown to',
    holds: 'group mates only',
    notice: 'Others see how many sit there, not who.',
  },
  {
    rule: 'A topic offers seats to',
    holds: 'its own section',
    notice: 'Groups of other sections are not listed.',
  },
]

/** One card of the column. */
export function Card({
  title,
  tone = '',
  aside,
  children,
}: {
  title: string
  tone?: string
  aside?: ReactNode
  children: ReactNode
}) {
  return (
    <section
      aria-label={title}
      className={`rounded-card border px-3.5 py-3 ${tone || 'border-line bg-surface'}`}
    >
      <div className="mb-2 flex items-baseline justify-between gap-2">
        <h2 className="text-[1.0625rem]">{title}</h2>
        {aside}
      </div>
      {children}
    </section>
  )
}

function LinkCard({ view }: { view: ComposeView }) {
  const address = `${location.origin}${view.link}`
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(address)
      toast.success('The link is copied.')
    } catch {
      toast.error('The browser did not let us copy. Mark the link and copy it by hand.')
    }
  }
  return (
    <Card title="Link to hand out">
      <p className="flex items-center justify-between gap-2">
        <a
          href={view.link}
          className="min-w-0 font-semibold break-all text-seat underline underline-offset-2"
        >
          {address.replace(/^https?:\/\//, '')}
        </a>
        <Button size="small" onClick={() => void copy()}>
          Copy
        </Button>
      </p>
      <p className="mt-1 text-sm text-faint">It leads students through sign-in straight to this sheet.</p>
    </Card>
  )
}

function Texts({ view, change }: { view: ComposeView; change: ChangeSheet }) {
  const title = useKept(view.title, (typed) => change({ title: typed }))
  const contact = useKept(view.contact, (typed) => change({ contact: typed }))
  const instructions = useKept(view.instructions, (typed) => change({ instructions: typed }))
  const [looking, setLooking] = useState(false)
  const shut = !view.mayEdit
  const bind = (kept: ReturnType<typeof useKept>, path: string) => ({
    value: kept.text,
    onChange: (event: { target: { value: string } }) => kept.change(event.target.value),
    onBlur: kept.flush,
    readOnly: shut,
    fault: kept.fault ? (kept.fault.field(path) ?? kept.fault.message) : undefined,
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
          className="[field-sizing:content] max-h-96 min-h-24"
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
