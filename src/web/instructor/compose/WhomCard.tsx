import { useState } from 'react'
import { lists } from '../../../contract/lists.ts'
import { type ComposeView, changeSheet, type SheetChanges } from '../../../contract/sheets.ts'
import type { ForWhom } from '../../../core/rules.ts'
import { useAnswer } from '../../data/answers.ts'
import { call, type Fault } from '../../data/call.ts'
import { Button } from '../../kit/Button.tsx'
import { Card } from '../../kit/Card.tsx'
import { Check } from '../../kit/Check.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { ListAsk } from '../ListAsk.tsx'
import type { Composing } from './useComposing.ts'

/** For whom the sheet is, and whether a topic has one group for all sections. */
export function WhomCard({ view, composing }: { view: ComposeView; composing: Composing }) {
  const { whom, sections, mayEdit } = view
  const { data } = useAnswer(lists, { course: view.course.code })
  const [listing, setListing] = useState(false)
  /** Sections that are being picked, before the first of them is. */
  const [picking, setPicking] = useState(false)
  const [fault, setFault] = useState<Fault | null>(null)
  const sheet = view.code
  const send = async (changes: SheetChanges, undo: SheetChanges, said: string) => {
    const done = await composing.do({
      work: (confirmed) => call(changeSheet, { sheet }, { ...changes, confirmed }),
      undo: (confirmed) => call(changeSheet, { sheet }, { ...undo, confirmed }),
      said,
      beside: true,
    })
    setFault(done.declined ? null : done.fault)
  }
  const asSent = ({ kind, sections: own, list }: ComposeView['whom']): SheetChanges => ({
    forWhom: kind,
    ...(kind === 'sections' && { sectionsFor: own }),
    ...(kind === 'list' && list && { list: list.code }),
  })
  const forWhom = (changes: SheetChanges, said: string) => {
    setPicking(false)
    void send(changes, asSent(whom), said)
  }
  const chosen = picking ? 'sections' : whom.kind === 'list' ? `list ${whom.list?.code}` : whom.kind
  const choose = (value: string) => {
    if (value === 'new-list') return setListing(true)
    if (value === 'sections') return setPicking(true)
    const [kind, code = ''] = value.split(' ')
    const changes: SheetChanges = { forWhom: kind as ForWhom, ...(kind === 'list' && { list: code }) }
    forWhom(
      changes,
      kind === 'list' ? 'The sheet is for the list alone.' : 'The sheet is for the whole course.',
    )
  }
  const known = data?.lists ?? []
  return (
    <Card title="For whom">
      <Choice
        aria-label="For whom the sheet is"
        value={chosen}
        disabled={!mayEdit}
        onValue={choose}
        className="w-full font-semibold"
      >
        <option value="course">Everybody in {view.course.courseCode}</option>
        {sections.length > 0 && <option value="sections">Some sections</option>}
        {whom.list && !known.some(({ code }) => code === whom.list?.code) && (
          <option value={`list ${whom.list.code}`}>The list “{whom.list.title}”</option>
        )}
        {known.map(({ code, title }) => (
          <option key={code} value={`list ${code}`}>
            The list “{title}”
          </option>
        ))}
        <option value="new-list">A new list of people…</option>
      </Choice>
      {(picking || whom.kind === 'sections') && (
        <div className="mt-2 flex flex-wrap gap-x-4 gap-y-1">
          {sections.map(({ code, name }) => (
            <Check
              key={code}
              disabled={!mayEdit}
              checked={whom.kind === 'sections' && whom.sections.includes(code)}
              onValue={(on) => {
                const own = whom.kind === 'sections' ? whom.sections : []
                const sectionsFor = on ? [...own, code] : own.filter((one) => one !== code)
                forWhom({ forWhom: 'sections', sectionsFor }, 'The sheet is for these sections alone.')
              }}
            >
              {name}
            </Check>
          ))}
        </div>
      )}
      <p className="mt-1.5 text-sm text-faint">
        {view.students} {view.students === 1 ? 'student' : 'students'}.
        {whom.kind !== 'course' && ' Nobody else learns of the sheet, is counted, planned or written to.'}
      </p>
      {fault && (
        <p role="alert" className="text-sm text-ember">
          {fault.field('list') ?? fault.field('sectionsFor') ?? fault.message}
        </p>
      )}
      {sections.length > 0 && (
        <label className="mt-2 flex items-center justify-between gap-3 border-t tear pt-2">
          A topic has
          <Choice
            value={view.mixed ? 'mixed' : 'each'}
            disabled={!mayEdit}
            onValue={(value) => {
              const mixed = value === 'mixed'
              void send(
                { mixed },
                { mixed: !mixed, bringBack: true },
                mixed ? 'Each topic has one group for everybody.' : 'Each topic has a group in each section.',
              )
            }}
            className="font-semibold"
          >
            <option value="each">a group in each section</option>
            <option value="mixed">one group for everybody</option>
          </Choice>
        </label>
      )}
      {picking && (
        <Button size="small" className="mt-2" onClick={() => setPicking(false)}>
          Cancel
        </Button>
      )}
      {listing && (
        <ListAsk
          course={view.course.code}
          onClose={() => setListing(false)}
          onMade={(list) => {
            setListing(false)
            forWhom({ forWhom: 'list', list }, 'The sheet is for the list alone.')
          }}
        />
      )}
    </Card>
  )
}
