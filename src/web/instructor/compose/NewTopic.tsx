import { useRef, useState } from 'react'
import { addTopic, removeTopic } from '../../../contract/topics.ts'
import { LIMITS } from '../../../core/limits.ts'
import { call, type Fault } from '../../data/call.ts'
import { useKey } from '../../kit/keys.ts'
import { COLUMNS } from './TopicRow.tsx'
import type { Composing } from './useComposing.ts'

/** The line below the last topic: type a title, press Enter, and go on with the next. */
export function NewTopic({
  sheet,
  composing,
  first,
}: {
  sheet: string
  composing: Composing
  first: boolean
}) {
  const [title, setTitle] = useState('')
  const [fault, setFault] = useState<Fault | null>(null)
  const field = useRef<HTMLInputElement>(null)
  useKey('t', () => field.current?.focus())
  const add = async () => {
    const typed = title.trim()
    if (typed === '') return
    setTitle('')
    let added = ''
    const { fault: refused } = await composing.do({
      work: async () => {
        const next = await call(addTopic, { sheet }, { title: typed })
        added = next.topics.at(-1)?.code ?? ''
        return next
      },
      undo: (confirmed) => call(removeTopic, { sheet, topic: added }, { confirmed }),
      beside: true,
    })
    setFault(refused)
    if (refused) setTitle(typed)
    field.current?.scrollIntoView({ block: 'nearest' })
  }
  return (
    <div className={`${COLUMNS} py-2`}>
      <span />
      <div className="col-span-6 max-sm:col-span-5">
        <input
          ref={field}
          data-cell="new"
          aria-label="Title of a new topic"
          aria-invalid={fault ? true : undefined}
          placeholder={
            first
              ? 'Type the first topic’s title and press Enter, or paste rows from a spreadsheet'
              : 'Type the next topic’s title and press Enter'
          }
          maxLength={LIMITS.title}
          value={title}
          onChange={(event) => setTitle(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== 'Enter' || event.nativeEvent.isComposing) return
            event.preventDefault()
            void add()
          }}
          onBlur={() => void add()}
          className="min-h-9 w-full rounded-field border tear bg-transparent px-2 font-semibold placeholder:font-normal"
        />
        {fault && (
          <p role="alert" className="text-sm text-ember">
            {fault.field('title') ?? fault.message}
          </p>
        )}
      </div>
    </div>
  )
}
