import { Command } from 'cmdk'
import { Dialog } from 'radix-ui'
import { useEffect, useState } from 'react'
import { useNavigate } from 'react-router'
import { courses } from '../../contract/courses.ts'
import { run } from '../../contract/seats.ts'
import type { SheetHead } from '../../contract/sheets.ts'
import { searchable } from '../../core/names.ts'
import { useAnswer } from '../data/answers.ts'
import { Key } from '../kit/Button.tsx'

/** What the find box needs to know of a sheet. */
type Found = Pick<SheetHead, 'code' | 'title'>

/** The find box: any sheet, course or action, and on a sheet any topic or person, by typing. */
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
  const { data } = useAnswer(courses, {})
  const go = (to: string) => () => {
    close()
    navigate(to)
  }
  return (
    <Command
      loop
      label="Find"
      filter={(value, typed) => (searchable(value).includes(searchable(typed)) ? 1 : 0)}
    >
      <Command.Input
        placeholder="Type a name, a title or what to do"
        className="min-h-12 w-full border-b tear bg-transparent px-4 outline-none"
      />
      <Command.List className="max-h-[50vh] overflow-auto p-1.5">
        <Command.Empty className="p-4 text-center text-soft">Nothing here is called that.</Command.Empty>
        {sheet && (
          <>
            <Command.Item className={ITEM} onSelect={go(`/sheets/${sheet.code}/compose`)}>
              Compose {sheet.title} <Key>G C</Key>
            </Command.Item>
            <Command.Item className={ITEM} onSelect={go(`/sheets/${sheet.code}/run`)}>
              Watch {sheet.title} fill <Key>G R</Key>
            </Command.Item>
            <Command.Item className={ITEM} onSelect={go(`/sheets/${sheet.code}/settle`)}>
              Settle {sheet.title} <Key>G S</Key>
            </Command.Item>
            <Command.Item className={ITEM} onSelect={go(`/sheets/${sheet.code}/work`)}>
              Tasks and marks of {sheet.title} <Key>G W</Key>
            </Command.Item>
            <Command.Item className={ITEM} onSelect={go(`/sheets/${sheet.code}/work/groups`)}>
              Group pages of {sheet.title}
            </Command.Item>
            <Command.Item className={ITEM} onSelect={go(`/sheets/${sheet.code}/ledger`)}>
              Ledger of {sheet.title} <Key>G L</Key>
            </Command.Item>
            <OnSheet code={sheet.code} go={go} />
          </>
        )}
        {data?.courses.map((course) => (
          <Command.Group key={course.code} heading="">
            {course.sheets.map(({ code, title, state }) => (
              <Command.Item
                key={code}
                value={`${title} ${course.courseCode} ${code}`}
                className={ITEM}
                onSelect={go(`/sheets/${code}/${state === 'draft' ? 'compose' : 'run'}`)}
              >
                {title} <span className="text-sm text-soft">sheet, {course.courseCode}</span>
              </Command.Item>
            ))}
            <Command.Item className={ITEM} onSelect={go(`/courses/${course.code}/roster`)}>
              Roster of {course.courseCode} <span className="text-sm text-soft">{course.title}</span>
            </Command.Item>
          </Command.Group>
        ))}
      </Command.List>
    </Command>
  )
}

function OnSheet({ code, go }: { code: string; go: (to: string) => () => void }) {
  const { data } = useAnswer(run, { sheet: code })
  if (!data) return null
  const topicOfGroup = new Map(data.groups.map((group) => [group.code, group.topic]))
  const titles = new Map(data.topics.map((topic) => [topic.code, topic.title]))
  const sections = new Map(data.sections.map((section) => [section.code, section.name]))
  const sits = new Map(
    data.seats.map(({ person, group }) => [person, titles.get(topicOfGroup.get(group) ?? '')]),
  )
  return (
    <>
      {data.topics.map(({ code: topic, title }) => (
        <Command.Item
          key={topic}
          value={`${title} ${topic}`}
          className={ITEM}
          onSelect={go(`/sheets/${code}/run?topic=${topic}`)}
        >
          {title} <span className="text-sm text-soft">topic</span>
        </Command.Item>
      ))}
      {data.groups.map(({ code: group, topic, section }) => {
        const name = [titles.get(topic), sections.get(section ?? '')].filter(Boolean).join(', ')
        return (
          <Command.Item
            key={group}
            value={`${name} ${group}`}
            className={ITEM}
            onSelect={go(`/sheets/${code}/groups/${group}`)}
          >
            {name} <span className="text-sm text-soft">group page</span>
          </Command.Item>
        )
      })}
      {data.people.map(({ code: person, name }) => (
        <Command.Item
          key={person}
          value={`${name} ${person}`}
          className={ITEM}
          onSelect={go(`/sheets/${code}/run?person=${person}`)}
        >
          {name} <span className="text-sm text-soft">{sits.get(person) ?? 'no group yet'}</span>
        </Command.Item>
      ))}
    </>
  )
}
