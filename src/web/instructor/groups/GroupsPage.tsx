import { useWindowVirtualizer } from '@tanstack/react-virtual'
import { useRef, useState } from 'react'
import { Link, useParams } from 'react-router'
import { type GroupLine, type GroupsView, groupList } from '../../../contract/groups.ts'
import { LIVE_EVENTS } from '../../../contract/live.ts'
import { useAnswer } from '../../data/answers.ts'
import { useLive } from '../../data/live.ts'
import { useSoon } from '../../data/useSoon.ts'
import { Emblem } from '../../group/Emblem.tsx'
import { Awaited } from '../../kit/Awaited.tsx'
import { Button } from '../../kit/Button.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { SheetFrame } from '../SheetFrame.tsx'
import { WorkParts } from '../work/WorkParts.tsx'
import { ExtrasCard } from './ExtrasCard.tsx'
import { type GroupFilter, matching, NO_FILTER } from './filter.ts'
import { StartShared } from './StartShared.tsx'

/** All groups of a sheet with the way to their pages, own ones first; and what groups get. */
export function GroupsPage() {
  const { sheet: code = '' } = useParams()
  const answer = useAnswer(groupList, { sheet: code })
  const { data, mutate } = answer
  const soon = useSoon(() => void mutate())
  useLive(code, data?.rev ?? null, {
    [LIVE_EVENTS.place]: () => soon(800),
    [LIVE_EVENTS.seats]: () => soon(800),
    [LIVE_EVENTS.refresh]: () => soon(800),
    back: () => soon(0),
  })
  return (
    <Awaited of={answer} what="the groups" elsewhere={`/sheets/${code}`}>
      {(view) => (
        <Groups
          view={view}
          put={(next) => void mutate(next, { revalidate: false })}
          refetch={() => void mutate()}
        />
      )}
    </Awaited>
  )
}

function Groups({
  view,
  put,
  refetch,
}: {
  view: GroupsView
  put: (view: GroupsView) => void
  refetch: () => void
}) {
  const [filter, setFilter] = useState<GroupFilter>(NO_FILTER)
  const [starting, setStarting] = useState(false)
  const shown = matching(view.groups, filter)
  return (
    <SheetFrame sheet={view}>
      <div className="flex flex-col gap-4 px-5 py-4">
        <WorkParts sheet={view.code} />
        <div className="grid items-start gap-5 lg:grid-cols-[minmax(0,1fr)_22rem]">
          <section aria-labelledby="groups" className="flex min-w-0 flex-col gap-3">
            <div className="flex flex-wrap items-end justify-between gap-3">
              <h2 id="groups" className="text-lg">
                {view.groups.length === 1 ? '1 group' : `${view.groups.length} groups`}
                {shown.length < view.groups.length && (
                  <span className="text-base font-normal text-soft">, {shown.length} shown</span>
                )}
              </h2>
              {view.mayEdit && view.extras.talk && (
                <Button onClick={() => setStarting(true)} disabled={shown.length === 0}>
                  Open one subject in {shown.length === view.groups.length ? 'all' : 'these'}…
                </Button>
              )}
            </div>
            <Filters view={view} filter={filter} onFilter={setFilter} />
            {shown.length === 0 ? (
              <p className="rounded-card border tear p-6 text-center text-soft">
                {view.groups.length > 0
                  ? 'No group fits. Take a filter away.'
                  : view.mayEdit
                    ? 'There are no groups yet. They come with the topics of the sheet.'
                    : 'You look after no group of this sheet. Its instructors give groups to tutors under Run.'}
              </p>
            ) : (
              <List view={view} groups={shown} />
            )}
          </section>
          <ExtrasCard view={view} put={put} />
        </div>
      </div>
      {starting && (
        <StartShared
          view={view}
          shown={shown.map(({ code }) => code)}
          onClose={(started) => {
            setStarting(false)
            if (started) refetch()
          }}
        />
      )}
    </SheetFrame>
  )
}

function Filters({
  view,
  filter,
  onFilter,
}: {
  view: GroupsView
  filter: GroupFilter
  onFilter: (filter: GroupFilter) => void
}) {
  const tutors = new Map(view.groups.flatMap((group) => group.tutors.map(({ code, name }) => [code, name])))
  const topics = new Map(view.groups.map(({ topic }) => [topic.code, topic.title]))
  return (
    <div className="flex flex-wrap gap-2">
      <input
        type="search"
        aria-label="Search groups and people"
        placeholder="Group or person"
        value={filter.sought}
        onChange={({ target }) => onFilter({ ...filter, sought: target.value })}
        className="min-h-9 w-48 rounded-field border border-line-strong bg-surface px-3"
      />
      {view.sections.length > 0 && (
        <Choice
          aria-label="Section"
          value={filter.section}
          onValue={(value) => onFilter({ ...filter, section: value })}
        >
          <option value="">all sections</option>
          {view.sections.map(({ code, name }) => (
            <option key={code}>{name}</option>
          ))}
        </Choice>
      )}
      {tutors.size > 0 && (
        <Choice
          aria-label="Tutor"
          value={filter.tutor}
          onValue={(value) => onFilter({ ...filter, tutor: value })}
        >
          <option value="">all tutors</option>
          {[...tutors].map(([code, name]) => (
            <option key={code} value={code}>
              {name}
            </option>
          ))}
        </Choice>
      )}
      <Choice
        aria-label="Topic"
        value={filter.topic}
        onValue={(value) => onFilter({ ...filter, topic: value })}
      >
        <option value="">all topics</option>
        {[...topics].map(([code, title]) => (
          <option key={code} value={code}>
            {title}
          </option>
        ))}
      </Choice>
    </div>
  )
}

/** The lines of the list; only those in sight are drawn. */
function List({ view, groups }: { view: GroupsView; groups: readonly GroupLine[] }) {
  const list = useRef<HTMLUListElement>(null)
  const virtual = useWindowVirtualizer({
    count: groups.length,
    estimateSize: () => 84,
    overscan: 8,
    scrollMargin: list.current?.offsetTop ?? 0,
    getItemKey: (i) => groups[i]?.code ?? i,
  })
  return (
    <ul ref={list} className="relative" style={{ height: virtual.getTotalSize() }}>
      {virtual.getVirtualItems().map((item) => {
        const group = groups[item.index]
        if (!group) return null
        return (
          <li
            key={item.key}
            ref={virtual.measureElement}
            data-index={item.index}
            className="absolute inset-x-0 top-0 pb-2"
            style={{ transform: `translateY(${item.start - virtual.options.scrollMargin}px)` }}
          >
            <Line view={view} group={group} />
          </li>
        )
      })}
    </ul>
  )
}

function Line({ view, group }: { view: GroupsView; group: GroupLine }) {
  const {
    code,
    topic,
    section,
    name,
    emblem,
    members,
    convener,
    tutors,
    yours,
    unread,
    files,
    missing,
    differs,
  } = group
  return (
    <Link
      to={`/sheets/${view.code}/groups/${code}`}
      className="flex items-center gap-4 rounded-card border border-line bg-surface px-4 py-2.5 hover:border-open"
    >
      <Emblem name={emblem} size="small" />
      <span className="min-w-0 flex-1">
        <span className="flex flex-wrap items-baseline gap-x-2">
          <span className="font-display text-[1.0625rem] font-semibold">{name || topic.title}</span>
          <span className="text-sm text-soft">
            {[name ? topic.title : null, section].filter(Boolean).join(', ')}
            {yours && ' · yours'}
            {differs && ' · gets something else than all'}
          </span>
        </span>
        <span className="flex items-center gap-2 text-sm text-soft">
          <span aria-hidden="true" className="flex shrink-0 gap-[2px]">
            {members.map((member) => (
              <span key={member.code} className="h-3 w-2 rounded-[2px] bg-seat" />
            ))}
          </span>
          <span className="truncate">
            {members.length === 0 ? 'nobody yet' : members.map((member) => member.name).join(', ')}
          </span>
        </span>
        <span className="block truncate text-sm text-soft">
          {[
            convener && `${convener} answers for it`,
            tutors.length > 0 && `looked after by ${tutors.map((tutor) => tutor.name).join(', ')}`,
          ]
            .filter(Boolean)
            .join(' · ')}
        </span>
      </span>
      <span className="flex shrink-0 flex-col items-end gap-0.5 text-sm">
        {unread > 0 && (
          <span className="rounded bg-seat-soft px-2 font-semibold text-seat">{unread} new</span>
        )}
        {missing > 0 && (
          <span className="rounded bg-ember-soft px-2 font-semibold text-ember">{missing} missing</span>
        )}
        {files > 0 && <span className="text-soft">{files === 1 ? '1 file' : `${files} files`}</span>}
      </span>
    </Link>
  )
}
