import { useParams } from 'react-router'
import { type ComposeView, compose } from '../../contract/sheets.ts'
import { takesPeople } from '../../core/groupState.ts'
import { sayInstant, saySlot } from '../../core/zone.ts'
import { useAnswer } from '../data/answers.ts'
import { Awaited } from '../kit/Awaited.tsx'
import { Button, ButtonLink } from '../kit/Button.tsx'
import { Mark } from '../kit/Mark.tsx'
import { Markdown } from '../kit/Markdown.tsx'
import { QrCode } from './compose/LinkCard.tsx'

/** A notice to print and pin on the door: what to choose, until when, and the way there. */
export function NoticePage() {
  const { sheet: code = '' } = useParams()
  const answer = useAnswer(compose, { sheet: code })
  return (
    <Awaited of={answer} what="the notice" elsewhere={`/sheets/${code}`}>
      {(view) => <Notice data={view} />}
    </Awaited>
  )
}

function Notice({ data }: { data: ComposeView }) {
  const { code } = data
  const address = `${location.origin}${data.link}`
  const { zone } = data.course
  const topics = data.topics.filter(({ groups }) => groups.some(takesPeople))
  return (
    <main id="page" className="mx-auto max-w-3xl px-6 py-8 print:max-w-none print:p-0">
      <title>{`Notice: ${data.title}`}</title>
      <div className="mb-6 flex gap-2 print:hidden">
        <Button look="main" onClick={() => window.print()}>
          Print
        </Button>
        <ButtonLink to={`/sheets/${code}/compose`}>Back to the sheet</ButtonLink>
      </div>
      <article className="rounded-card border border-line bg-[#fff] p-8 text-[#221c35] print:border-0 print:p-0">
        <p className="text-lg">
          {data.course.courseCode} {data.course.title}
        </p>
        <h1 className="mt-1 text-4xl">{data.title}</h1>
        <p className="figures mt-2 text-xl">
          {data.opensAt && `from ${sayInstant(data.opensAt, zone)} `}
          {data.closesAt && `until ${sayInstant(data.closesAt, zone)}`}
        </p>
        {data.instructions && (
          <div className="mt-4 text-lg">
            <Markdown text={data.instructions} />
          </div>
        )}
        <div className="mt-6 flex items-center gap-6 border-y border-dashed border-[#cfcadd] py-6">
          <QrCode text={address} className="size-44 shrink-0" />
          <div>
            <p className="text-lg">Choose your group at</p>
            <p className="text-2xl font-bold break-all">{address.replace(/^https?:\/\//, '')}</p>
            {data.contact && <p className="mt-2">Questions: {data.contact}</p>}
          </div>
        </div>
        <ul className="mt-6 columns-2 gap-8 text-lg">
          {topics.map(({ code, title, place, startsAt, endsAt }) => (
            <li key={code} className="break-inside-avoid py-0.5">
              {title}
              {startsAt && (
                <span className="figures text-[#5c5570]"> · {saySlot(startsAt, endsAt, zone)}</span>
              )}
              {place && <span className="text-[#5c5570]"> · {place}</span>}
            </li>
          ))}
        </ul>
        <p className="mt-8 flex items-center gap-2 text-sm text-[#5c5570]">
          <Mark /> Haplon
        </p>
      </article>
    </main>
  )
}
