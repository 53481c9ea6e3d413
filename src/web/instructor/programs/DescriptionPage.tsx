import { useMemo, useState } from 'react'
import useSWR from 'swr'
import { matches } from '../../../core/names.ts'
import { Awaited } from '../../kit/Awaited.tsx'
import { Frame } from '../../kit/Frame.tsx'
import { SearchBox } from '../../kit/SearchBox.tsx'
import {
  type Description,
  fieldsOf,
  holdsOf,
  type Operation,
  operationsOf,
  type Shape,
} from './description.ts'

const FILE = '/openapi.json'

/** @throws Error where the description is not there, or not to be read */
async function read(): Promise<Description> {
  const answer = await fetch(FILE)
  const type = answer.headers.get('content-type') ?? ''
  if (!answer.ok || !type.includes('json'))
    throw new Error('The description is not here. It is made when the pages are built: run npm run build.')
  return (await answer.json()) as Description
}

/** What the parts of the contract are called on this page. */
const SUBJECTS: Record<string, string> = {
  coursePage: 'Course',
  courses: 'Courses',
  marks: 'Marks',
  plans: 'Plans',
  roster: 'Roster',
  seatings: 'Seating by hand',
  seats: 'Seats',
  sheets: 'Sheets',
  tasks: 'Tasks',
  topics: 'Topics and groups',
}
const subjectOf = (name: string) =>
  SUBJECTS[name] ??
  `${name.slice(0, 1).toUpperCase()}${name.slice(1).replace(/[A-Z]/g, (c) => ` ${c.toLowerCase()}`)}`

/** What programs can do with a token, to be read: the description itself is a file beside it. */
export function DescriptionPage() {
  const { data, error, mutate } = useSWR(FILE, read, { revalidateOnFocus: false })
  return (
    <Awaited of={{ data, error, mutate }} what="the description" elsewhere="/">
      {(description) => (
        <Frame
          title="What programs can do"
          crumbs={[{ label: 'Courses', to: '/' }, { label: 'What programs can do' }]}
        >
          <Shown description={description} />
        </Frame>
      )}
    </Awaited>
  )
}

function Shown({ description }: { description: Description }) {
  const [typed, setTyped] = useState('')
  const all = useMemo(() => operationsOf(description), [description])
  const found = all.filter(({ path, summary, description: words, id, method }) =>
    matches(typed, path, summary, words, id, method),
  )
  const subjects = [...new Set(found.map(({ subject }) => subject))]
  return (
    <div className="mx-auto flex w-full max-w-[62rem] flex-col gap-5 px-10 py-6 max-sm:px-4">
      <div>
        <h1 className="text-[1.625rem]">What programs can do</h1>
        <p className="max-w-[44rem] text-soft">
          <Words text={description.info.description} />
        </p>
        <p className="mt-2">
          Send the token with each request, as <code className="font-mono">Authorization: Bearer …</code>. For
          programs themselves:{' '}
          <a
            className="font-semibold text-seat underline underline-offset-2"
            href={FILE}
            download="haplon-openapi.json"
          >
            the description as a file
          </a>{' '}
          (OpenAPI 3.1).
        </p>
      </div>
      <div className="flex flex-wrap items-center gap-3">
        <SearchBox label="Search what can be done" value={typed} onValue={setTyped} />
        <output className="figures text-soft">
          {found.length === all.length
            ? `${all.length} operations`
            : `${found.length} of ${all.length} operations`}
        </output>
      </div>
      {subjects.map((subject) => (
        <section key={subject} aria-labelledby={`subject-${subject}`} className="flex flex-col gap-1.5">
          <h2 id={`subject-${subject}`} className="text-lg">
            {subjectOf(subject)}
          </h2>
          {found
            .filter((one) => one.subject === subject)
            .map((one) => (
              <OneOperation
                key={`${one.method} ${one.path}`}
                of={one}
                named={description.components.schemas}
              />
            ))}
        </section>
      ))}
      {found.length === 0 && <p className="text-soft">Nothing of that kind.</p>}
    </div>
  )
}

/** A text in which what stands between backticks is code. */
function Words({ text }: { text: string }) {
  return text.split('`').map((part, i) =>
    i % 2 === 1 ? (
      // biome-ignore lint/suspicious/noArrayIndexKey: parts of a text that stays
      <code key={i} className="font-mono text-sm">
        {part}
      </code>
    ) : (
      part
    ),
  )
}

function OneOperation({ of, named }: { of: Operation; named: Record<string, Shape> }) {
  const [open, setOpen] = useState(false)
  return (
    <details
      onToggle={({ currentTarget }) => setOpen(currentTarget.open)}
      className="rounded-field border border-line bg-surface px-3 py-1.5"
    >
      <summary className="cursor-pointer wrap-anywhere">
        <strong>{of.summary}</strong>{' '}
        <code className="font-mono text-sm text-soft">
          {of.method} {of.path}
        </code>
      </summary>
      {/* Some have hundreds of fields: they are drawn once they are looked at. */}
      {open && (
        <div className="mt-2 flex flex-col gap-3 pb-1">
          {of.description !== of.summary && (
            <p>
              <Words text={of.description} />
            </p>
          )}
          {of.body && <Fields title="Sent" shape={of.body} named={named} />}
          {of.answer ? (
            <Fields title="Answered" shape={of.answer} named={named} />
          ) : (
            <p className="text-soft">Answered with a file.</p>
          )}
        </div>
      )}
    </details>
  )
}

function Fields({ title, shape, named }: { title: string; shape: Shape; named: Record<string, Shape> }) {
  const lines = fieldsOf(shape, named)
  return (
    <div>
      <h3 className="text-sm font-semibold text-soft">
        {title}: {lines.length === 0 ? holdsOf(shape, named) : 'JSON'}
      </h3>
      {lines.length > 0 && (
        // It is scrolled with the keyboard, too.
        // biome-ignore lint/a11y/noNoninteractiveTabindex: a table that is scrolled
        <section className="max-h-96 overflow-auto" tabIndex={0} aria-label={title}>
          <table className="w-full border-collapse text-left text-sm">
            <thead className="text-soft">
              <tr>
                <th scope="col" className="pr-4 font-semibold">
                  Field
                </th>
                <th scope="col" className="pr-4 font-semibold">
                  Holds
                </th>
                <th scope="col" className="font-semibold">
                  What it is
                </th>
              </tr>
            </thead>
            <tbody>
              {lines.map(({ path, deep, name, holds, needed, words }) => (
                <tr key={path} className="border-t border-line align-top">
                  <th
                    scope="row"
                    className="pr-4 font-mono font-normal"
                    style={{ paddingLeft: `${deep}rem` }}
                  >
                    {name}
                    {needed ? '' : '?'}
                  </th>
                  <td className="pr-4">{holds}</td>
                  <td className="text-soft">
                    <Words text={words} />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      )}
    </div>
  )
}
