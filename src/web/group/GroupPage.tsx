import { use, useState } from 'react'
import { Link, useParams } from 'react-router'
import { groupPage, type GroupPage as Page } from '../../contract/groups.ts'
import { LIVE_EVENTS, type PlaceEvent } from '../../contract/live.ts'
import { sayInstant } from '../../core/zone.ts'
import { useAnswer } from '../data/answers.ts'
import { useLive } from '../data/live.ts'
import { useSoon } from '../data/useSoon.ts'
import { Awaited } from '../kit/Awaited.tsx'
import { Button, ButtonLink } from '../kit/Button.tsx'
import { Frame, StaffFind } from '../kit/Frame.tsx'
import { Markdown } from '../kit/Markdown.tsx'
import { ZoneNote } from '../kit/ZoneNote.tsx'
import { AskedToLeave } from './Convening.tsx'
import { Emblem } from './Emblem.tsx'
import { GroupCalendar } from './GroupCalendar.tsx'
import { GroupFiles } from './GroupFiles.tsx'
import { GroupTasks } from './GroupTasks.tsx'
import { happeningWords } from './lately.ts'
import { Messages } from './Messages.tsx'
import { OwnExtrasAsk } from './OwnExtrasAsk.tsx'
import { PlaceAsk } from './PlaceAsk.tsx'
import { Talk } from './Talk.tsx'
import { WhoSits } from './WhoSits.tsx'

/** The page of one group, for its members, tutors and instructors. */
export function GroupPage() {
  const { sheet = '', group = '' } = useParams()
  const answer = useAnswer(groupPage, { sheet, group })
  const { data, error, mutate } = answer
  const soon = useSoon(() => void mutate())
  const live = useLive(sheet, data?.rev ?? null, {
    first: () => soon(100),
    [LIVE_EVENTS.place]: (told: PlaceEvent) => {
      if (told.group === group) soon(100)
    },
    [LIVE_EVENTS.counts]: ({ groups }: { groups: { code: string }[] }) => {
      if (groups.some(({ code }) => code === group)) soon(300)
    },
    [LIVE_EVENTS.seats]: () => soon(300),
    [LIVE_EVENTS.own]: () => soon(100),
    [LIVE_EVENTS.refresh]: ({ within }: { within: number }) => soon(300 + Math.random() * within),
    // What was told of groups while the connection was away is told by nobody again.
    back: () => soon(0),
  })
  if (error?.code === 'not-found') return <NotYours sheet={sheet} />
  return (
    <Awaited of={answer} what="the group’s page">
      {(page) => (
        <Whole
          page={page}
          offline={live !== 'live'}
          put={(next) => void mutate(next, { revalidate: false })}
          refetch={() => void mutate()}
        />
      )}
    </Awaited>
  )
}

function NotYours({ sheet }: { sheet: string }) {
  return (
    <Frame title="No such group">
      <div className="m-auto flex max-w-md flex-col gap-3 p-6 text-center">
        <h1 className="text-2xl">There is no group of yours here</h1>
        <p className="text-soft">
          A group’s page is for those who sit in it and those who look after it. If you sat here and have
          moved, what you handed in with this group is still among your tasks.
        </p>
        <div className="flex flex-wrap justify-center gap-2">
          <ButtonLink look="main" size="touch" to={`/sheets/${sheet}`}>
            To the sheet
          </ButtonLink>
          <ButtonLink size="touch" to={`/sheets/${sheet}/tasks`}>
            To your tasks
          </ButtonLink>
        </div>
      </div>
    </Frame>
  )
}

function Whole({
  page,
  offline,
  put,
  refetch,
}: {
  page: Page
  offline: boolean
  put: (page: Page) => void
  refetch: () => void
}) {
  const [changing, setChanging] = useState(false)
  const [giving, setGiving] = useState(false)
  const Find = use(StaffFind)
  const { topic, section, name, emblem, sheet, extras, may } = page
  const staff = page.as !== 'member'
  const title = name || topic.title
  const where = [name ? topic.title : null, section].filter(Boolean).join(', ')
  const mayChange = may.meeting || may.name
  return (
    <Frame
      title={title}
      crumbs={[
        { label: sheet.courseCode, to: staff ? `/courses/${sheet.course}` : '/' },
        { label: sheet.title, to: staff ? `/sheets/${sheet.code}/work` : `/sheets/${sheet.code}` },
        ...(staff ? [{ label: 'Groups', to: `/sheets/${sheet.code}/work/groups` }] : []),
        { label: title },
      ]}
      find={staff && Find && <Find sheet={sheet} />}
    >
      <div className="mx-auto flex w-full max-w-6xl flex-col gap-4 px-5 py-5 max-sm:px-4">
        <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
          <Emblem name={emblem} />
          <div className="min-w-0 flex-1">
            <p className="text-soft">
              <Link
                to={staff ? `/sheets/${sheet.code}/work` : `/sheets/${sheet.code}`}
                className="text-seat underline underline-offset-2"
              >
                {sheet.title}
              </Link>
              {where && ` · ${where}`}
            </p>
            <h1 className="text-[1.75rem] wrap-anywhere">{title}</h1>
            {(page.startsAt || page.place) && (
              <p className="figures text-soft">
                {[page.startsAt && sayInstant(page.startsAt, sheet.zone), page.place]
                  .filter(Boolean)
                  .join(', ')}
              </p>
            )}
            <ZoneNote
              zone={sheet.zone}
              times={[
                { what: 'You meet', at: page.startsAt },
                ...page.tasks.map(({ title, dueAt }) => ({ what: `${title} is due`, at: dueAt })),
              ]}
            />
          </div>
          <div className="flex flex-wrap gap-2 empty:hidden max-sm:basis-full">
            {(page.meeting || page.link) && (
              <a
                href={page.meeting || page.link}
                target="_blank"
                rel="noreferrer"
                className="inline-flex min-h-11 items-center rounded-field border border-seat bg-seat px-4 font-semibold text-on-seat hover:brightness-110"
              >
                Meet online
              </a>
            )}
            {page.as === 'instructor' && may.write && (
              <Button size="touch" onClick={() => setGiving(true)}>
                {page.extrasDiffer ? 'What it gets (differs)' : 'What it gets'}
              </Button>
            )}
            {mayChange && (
              <Button size="touch" onClick={() => setChanging(true)}>
                {may.name ? 'Name and more' : page.meeting ? 'Change the meeting link' : 'Set a meeting link'}
              </Button>
            )}
          </div>
        </div>
        <AskedToLeave page={page} refetch={refetch} />
        {sheet.archived && (
          <p className="rounded-field bg-sun-soft px-3 py-2 text-sun-ink">
            The sheet is archived. Everything can be read; nothing is added any more.
          </p>
        )}
        {offline && (
          <p role="status" className="text-sm text-sun-ink">
            The connection is away; the page goes on by itself.
          </p>
        )}
        <div className="flex flex-col gap-4 lg:grid lg:grid-cols-[19rem_minmax(0,1fr)] lg:items-start">
          <div className="contents flex-col gap-4 lg:flex">
            <WhoSits page={page} put={put} />
            {topic.brief && (
              <section
                aria-labelledby="brief"
                className="rounded-card border border-line bg-surface px-4 py-3"
              >
                <h2 id="brief" className="text-lg">
                  The topic
                </h2>
                <div className="text-soft">
                  <Markdown text={topic.brief} />
                </div>
              </section>
            )}
            <Lately page={page} />
          </div>
          <div className="contents min-w-0 flex-col gap-4 lg:flex">
            <GroupTasks page={page} />
            <GroupCalendar page={page} put={put} />
            {extras.talk && <Talk page={page} refetch={refetch} />}
            {extras.files && <GroupFiles page={page} put={put} refetch={refetch} />}
            {extras.messages && <Messages page={page} />}
          </div>
        </div>
      </div>
      {giving && <OwnExtrasAsk page={page} put={put} onClose={() => setGiving(false)} />}
      {changing && <PlaceAsk page={page} put={put} onClose={() => setChanging(false)} />}
    </Frame>
  )
}

/** Happenings that are shown before more are asked for: what is done comes soon after them on a phone. */
const NEWEST = 3

function Lately({ page }: { page: Page }) {
  const [all, setAll] = useState(false)
  const shown = all ? page.lately : page.lately.slice(0, NEWEST)
  return (
    <section aria-labelledby="lately" className="rounded-card border border-line bg-surface px-4 py-3">
      <h2 id="lately" className="text-lg">
        Lately
      </h2>
      {page.lately.length === 0 && <p className="text-soft">Nothing has happened here yet.</p>}
      <ul className="flex flex-col gap-1.5 text-sm">
        {shown.map((one) => (
          <li key={`${one.at} ${one.kind} ${one.by} ${one.what}`} className="wrap-anywhere">
            {happeningWords(one)}
            <span className="figures block text-soft">{sayInstant(one.at, page.sheet.zone)}</span>
          </li>
        ))}
      </ul>
      {page.lately.length > NEWEST && (
        <Button size="small" look="quiet" className="mt-1" aria-expanded={all} onClick={() => setAll(!all)}>
          {all ? 'Show less' : `Show ${page.lately.length - NEWEST} more`}
        </Button>
      )}
    </section>
  )
}
