import { Command } from 'cmdk'
import { Dialog } from 'radix-ui'
import { useMemo } from 'react'
import type { RunView } from '../../../contract/seats.ts'
import { NO_LIMIT, seatsLeft } from '../../../core/limit.ts'
import { searchable } from '../../../core/names.ts'
import { PipRow } from '../../kit/Pip.tsx'
import type { Pick } from './picks.ts'

/** Seats those who are picked in a group that is found by typing its topic. Groups of their section come first. */
export function SeatThem({
  view,
  taken,
  picks,
  onSeat,
  onClose,
}: {
  view: RunView
  taken: ReadonlyMap<string, number>
  picks: readonly Pick[]
  onSeat: (group: string) => void
  onClose: () => void
}) {
  const groups = useMemo(() => ordered(view, taken, picks), [view, taken, picks])
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-[#161222]/45" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-[12vh] left-1/2 z-50 w-[min(36rem,calc(100vw-2rem))] -translate-x-1/2 overflow-hidden rounded-card border border-line bg-surface shadow-xl"
        >
          <Dialog.Title className="px-4 pt-3 text-base">
            Seat {picks.length === 1 ? 'one person' : `${picks.length} people`} at
          </Dialog.Title>
          <Command
            loop
            label="Group"
            filter={(value, typed) => (searchable(value).includes(searchable(typed)) ? 1 : 0)}
          >
            <Command.Input
              placeholder="Type the topic"
              className="min-h-11 w-full border-b tear bg-transparent px-4 outline-none"
            />
            <Command.List className="max-h-[50vh] overflow-auto p-1.5">
              <Command.Empty className="p-4 text-center text-soft">No group is called that.</Command.Empty>
              {groups.map(({ group, title, section, left }) => (
                <Command.Item
                  key={group.code}
                  value={`${title} ${section} ${group.code}`}
                  onSelect={() => onSeat(group.code)}
                  className="flex min-h-10 cursor-pointer items-center justify-between gap-3 rounded-field px-3 data-[selected=true]:bg-seat-soft"
                >
                  <span>
                    {title} <span className="text-soft">{section}</span>
                  </span>
                  <span className="flex items-center gap-2">
                    <PipRow taken={taken.get(group.code) ?? 0} seats={group.seats} held={group.held} />
                    <span className="figures w-16 text-right text-sm text-soft">
                      {group.seats === NO_LIMIT ? 'no limit' : left === 0 ? 'full' : `${left} free`}
                    </span>
                  </span>
                </Command.Item>
              ))}
            </Command.List>
          </Command>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}

/** Groups by how well they suit: own section first, then those with room. */
function ordered(view: RunView, taken: ReadonlyMap<string, number>, picks: readonly Pick[]) {
  const titles = new Map(view.topics.map(({ code, title }) => [code, title]))
  const names = new Map(view.sections.map(({ code, name }) => [code, name]))
  const sectionOf = new Map(view.people.map(({ code, section }) => [code, section]))
  const own = new Set(picks.map(({ person }) => sectionOf.get(person) ?? null))
  return view.groups
    .map((group) => ({
      group,
      title: titles.get(group.topic) ?? '',
      section: names.get(group.section ?? '') ?? '',
      left: seatsLeft(group.seats, taken.get(group.code) ?? 0, group.held),
    }))
    .sort(
      (a, b) =>
        Number(own.has(b.group.section)) - Number(own.has(a.group.section)) ||
        Number(b.left > 0) - Number(a.left > 0),
    )
}
