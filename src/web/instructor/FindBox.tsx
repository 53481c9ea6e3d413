import { Command } from 'cmdk'
import { Dialog } from 'radix-ui'
import { useEffect, useState } from 'react'
import { useNavigate } from 'react-router'
import { courses } from '../../contract/courses.ts'
import { find } from '../../contract/find.ts'
import { run } from '../../contract/seats.ts'
import type { SheetHead } from '../../contract/sheets.ts'
import { searchable } from '../../core/names.ts'
import { useMe } from '../access/me.tsx'
import { useAnswer } from '../data/answers.ts'
import { Key } from '../kit/Button.tsx'
import { actionsIn, type Finding, foundBeyond, foundOn, sought } from './finding.ts'

/** What the find box needs to know of a sheet. */
type Found = Pick<SheetHead, 'code' | 'title'>

/** The find box: any sheet, course, person, topic or action, by typing. What belongs to the open sheet comes first. */
export function FindBox({ sheet }: { sheet?: Found }) {
  const [open, setOpen] = useState(false)
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() !== 'k' || !(event.ctrlKey || event.metaKey)) return
      event.preventDefault()
      setOpen((shown) => !shown)
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [])
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className="flex h-8 w-72 items-center whitespace-nowrap justify-between gap-2 rounded-field border border-line-strong bg-surface px-3 text-faint hover:border-open max-sm:h-11 max-sm:w-auto max-sm:justify-center">
        <span className="max-sm:sr-only">Find a person, topic or action</span>
        <span className="max-sm:hidden">
          <Key>Ctrl K</Key>
        </span>
        <span aria-hidden="true" className="sm:hidden">
          Find
        </span>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-[#161222]/45" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-[12vh] left-1/2 z-50 w-[min(36rem,calc(100vw-2rem))] -translate-x-1/2 overflow-hidden rounded-card border border-line bg-surface shadow-xl"
        >
          <Dialog.Title className="sr-only">Find</Dialog.Title>
          <Offered {...(sheet && { sheet })} close={() => setOpen(false)} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}

const ITEM =
  'flex min-h-10 cursor-pointer items-center justify-between gap-3 rounded-field px-3 data-[selected=true]:bg-seat-soft'

function Offered({ sheet, close }: { sheet?: Found; close: () => void }) {
  const navigate = useNavigate()
  const { mayAddCourses } = useMe()
  const { data: mine } = useAnswer(courses, {})
  const { data: beyond } = useAnswer(find, {}, { revalidateOnFocus: false })
  const [typed, setTyped] = useState('')
  const all = [
    ...(mine ? actionsIn(mine, sheet?.code ?? null, mayAddCourses) : []),
    ...(mine && beyond ? foundBeyond(mine, beyond, sheet?.code ?? null) : []),
  ]
  const go = (to: string) => () => {
    close()
    navigate(to)
  }
  return (
    <Command loop label="Find" shouldFilter={false}>
      <Command.Input
        placeholder="Type a name, a title or what to do"
        value={typed}
        onValueChange={setTyped}
        className="min-h-12 w-full border-b tear bg-transparent px-4 outline-none"
      />
      <Command.List className="max-h-[50vh] overflow-auto p-1.5">
        {sheet ? (
          <OnSheet sheet={sheet} typed={typed} more={all} go={go} />
        ) : (
          <Findings found={sought(all, searchable(typed))} go={go} />
        )}
      </Command.List>
    </Command>
  )
}

function OnSheet({
  sheet,
  typed,
  more,
  go,
}: {
  sheet: Found
  typed: string
  more: readonly Finding[]
  go: (to: string) => () => void
}) {
  const { data } = useAnswer(run, { sheet: sheet.code })
  return <Findings found={sought([...foundOn(sheet, data), ...more], searchable(typed))} go={go} />
}

function Findings({ found, go }: { found: readonly Finding[]; go: (to: string) => () => void }) {
  return (
    <>
      {found.map(({ key, title, what, keys, to }) => (
        <Command.Item key={key} value={key} className={ITEM} onSelect={go(to)}>
          <span className="min-w-0 truncate">{title}</span>
          <span className="shrink-0 text-sm text-soft">{keys ? <Key>{keys}</Key> : what}</span>
        </Command.Item>
      ))}
      {found.length === 0 && <p className="p-4 text-center text-soft">Nothing here is called that.</p>}
    </>
  )
}
