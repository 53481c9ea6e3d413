import type { RunView } from '../../../../contract/seats.ts'
import { counted } from '../../../../core/counted.ts'
import { NO_LIMIT } from '../../../../core/limit.ts'
import type { PlanInput } from '../../../../core/plan/types.ts'
import type { Help } from '../../../../core/wishes/help.ts'
import { wantedWords } from './Caps.tsx'
import { useHelp } from './useForecast.ts'
import type { Wanted } from './wanted.ts'

/** How much a group is wanted and by whom, and what would help so that more wishes come true, best first. */
export function WhatHelps({
  view,
  group,
  wanted,
  input,
}: {
  view: RunView
  group: RunView['groups'][number]
  wanted: Wanted
  input: PlanInput | null
}) {
  const { helps, fault } = useHelp(input, group.code)
  const names = new Map(view.people.map(({ code, name }) => [code, name]))
  const title = view.topics.find(({ code }) => code === group.topic)?.title ?? 'it'
  const room = group.seats === NO_LIMIT ? 'no limit' : counted(group.seats, 'seat')
  return (
    <>
      <p className="figures text-soft">
        {room} · {wantedWords(wanted)}
        {wanted.later > 0 && `, ${wanted.later} later`}
      </p>
      <section aria-label="What would help">
        <h3 className="mt-2 text-base">What would help</h3>
        {fault ? (
          <p role="alert" className="text-sm text-ember">
            {fault}
          </p>
        ) : helps === null ? (
          <p className="text-sm text-faint">Trying each…</p>
        ) : (
          <ul>
            {helps.map((help) => (
              <li
                key={help.kind}
                className="flex items-start justify-between gap-2 border-b tear py-1.5 last:border-0"
              >
                <span>
                  <span className="block font-semibold">{helpLabel(help.kind, title, group.floor)}</span>
                  <span className="block text-sm text-soft">{sideWords(help)}</span>
                </span>
                <span
                  className={`shrink-0 rounded px-2 py-0.5 text-[0.8125rem] font-semibold ${help.better > 0 ? 'bg-moss-soft text-moss' : 'bg-seat-soft text-seat'}`}
                >
                  {help.better === 0 ? 'nobody' : `${help.better} better off`}
                </span>
              </li>
            ))}
          </ul>
        )}
      </section>
      {wanted.first.length > 0 && (
        <section aria-label="Want it first">
          <h3 className="mt-2 text-base">Want it first</h3>
          <ul className="mt-1 flex flex-wrap gap-1.5">
            {wanted.first.map((code) => (
              <li key={code} className="rounded-field border border-line-strong px-2 py-0.5 text-sm">
                {names.get(code)}
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  )
}

function helpLabel(kind: Help['kind'], title: string, floor: number): string {
  switch (kind) {
    case 'seat':
      return 'One seat more here'
    case 'group':
      return `A further group of ${title}`
    case 'floor':
      return `Floor ${floor - 1} here instead of ${floor}`
    case 'course':
      return 'Offer it to the whole course'
  }
}

/** What else it would do. */
function sideWords({ worse, under }: Help): string {
  return [
    worse > 0 ? `${worse} would come off worse` : '',
    under > 0 ? `${under} more ${under === 1 ? 'group falls' : 'groups fall'} below the floor` : '',
    under < 0 ? `${-under} fewer below the floor` : '',
  ]
    .filter(Boolean)
    .join(', ')
}
