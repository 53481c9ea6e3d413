import { useState } from 'react'
import { useParams, useSearchParams } from 'react-router'
import useSWR from 'swr'
import { type Rehearsal, rehearsal } from '../../contract/rehearsal.ts'
import { fill } from '../../contract/route.ts'
import { run } from '../../contract/seats.ts'
import { bySurname } from '../../core/names.ts'
import { useAnswer } from '../data/answers.ts'
import { call, type Fault } from '../data/call.ts'
import { Awaited } from '../kit/Awaited.tsx'
import { Button, ButtonLink } from '../kit/Button.tsx'
import { Choice } from '../kit/Choice.tsx'
import { StudentSheetView } from '../student/StudentSheetView.tsx'
import { useRehearsal } from '../student/useRehearsal.ts'

/** The sheet exactly as a student would see it, to play through: the real page and the real rules, on a copy. */
export function RehearsalPage() {
  const { sheet: code = '' } = useParams()
  const [params, setParams] = useSearchParams()
  const [round, setRound] = useState(0)
  const query = params.toString()
  const path = `${fill(rehearsal.path, { sheet: code })}${query && `?${query}`}`
  const answer = useSWR<Rehearsal, Fault>(
    path,
    () => call({ ...rehearsal, path: path as typeof rehearsal.path }, { sheet: code }),
    { revalidateOnFocus: false },
  )
  const { data, mutate } = answer
  const restart = () => {
    void mutate()
    setRound(round + 1)
  }
  return (
    <div className="flex min-h-dvh flex-col">
      <title>Rehearsal · Haplon</title>
      <header className="sticky top-0 z-20 flex flex-wrap items-center gap-x-4 gap-y-2 bg-sun-soft px-5 py-2 text-sun-ink">
        <strong>Rehearsal{data && `, as ${data.as}`}</strong>
        <span>Nothing you do here is kept or seen by anybody.</span>
        <As code={code} params={params} onChoose={(next) => setParams(next, { replace: true })} />
        <span className="ml-auto flex gap-2">
          <Button size="small" onClick={restart}>
            Begin again
          </Button>
          <ButtonLink size="small" to={`/sheets/${code}/compose`}>
            Back to Compose
          </ButtonLink>
        </span>
      </header>
      <main id="page" className="flex flex-1 flex-col">
        <Awaited bare of={answer} what="the rehearsal" elsewhere={`/sheets/${code}`}>
          {(start) => <Played key={`${path} ${round} ${start.view.rev}`} start={start} />}
        </Awaited>
      </main>
    </div>
  )
}

function Played({ start }: { start: Rehearsal }) {
  return <StudentSheetView source={useRehearsal(start)} />
}

function As({
  code,
  params,
  onChoose,
}: {
  code: string
  params: URLSearchParams
  onChoose: (next: Record<string, string>) => void
}) {
  const { data } = useAnswer(run, { sheet: code })
  if (!data) return null
  const section = params.get('section')
  const person = params.get('person')
  const chosen = person ? `person:${person}` : `section:${section ?? data.sections[0]?.code ?? ''}`
  return (
    <Choice
      aria-label="As whom"
      value={chosen}
      onValue={(chosen) => {
        const [kind = '', value = ''] = chosen.split(':')
        onChoose({ [kind]: value })
      }}
      className="max-w-64"
    >
      <optgroup label="Invented">
        {data.sections.length === 0 && <option value="section:">somebody new</option>}
        {data.sections.map(({ code, name }) => (
          <option key={code} value={`section:${code}`}>
            somebody new in {name}
          </option>
        ))}
      </optgroup>
      <optgroup label="Of the roster">
        {data.people
          .toSorted((a, b) => bySurname(a.name, b.name))
          .map(({ code, name }) => (
            <option key={code} value={`person:${code}`}>
              {name}
            </option>
          ))}
      </optgroup>
    </Choice>
  )
}
