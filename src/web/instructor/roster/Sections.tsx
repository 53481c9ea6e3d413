import { type FormEvent, useState } from 'react'
import { addSection, type CourseView, renameSection } from '../../../contract/courses.ts'
import { LIMITS } from '../../../core/limits.ts'
import { call } from '../../data/call.ts'
import { useUnsent } from '../../data/useDraft.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Button } from '../../kit/Button.tsx'

/** The sections of a course: further ones are added, and each is renamed in place. */
export function Sections({ course, onChanged }: { course: CourseView; onChanged: () => void }) {
  const unsent = useUnsent(`new section ${course.code}`, '')
  const act = useAct()
  const add = async (event: FormEvent) => {
    event.preventDefault()
    if (unsent.value.trim() === '') return
    const done = await act.do({
      work: () => call(addSection, { course: course.code }, { name: unsent.value }),
      put: onChanged,
      said: `${unsent.value.trim()} is a section now.`,
      beside: true,
    })
    if (!done.fault) unsent.drop()
  }
  return (
    <section aria-labelledby="sections" className="rounded-card border border-line bg-surface px-4 py-3">
      <h2 id="sections" className="text-lg">
        Sections
      </h2>
      {course.sections.length === 0 && (
        <p className="text-soft">
          None: every group is for everybody. With the first section, groups that there are stay for
          everybody.
        </p>
      )}
      <ul className="mt-1 flex flex-wrap gap-2">
        {course.sections.map((section) => (
          <Name
            key={`${section.code} ${section.name}`}
            course={course}
            section={section}
            onChanged={onChanged}
          />
        ))}
        <li>
          <form onSubmit={(event) => void add(event)} className="flex flex-wrap gap-1.5">
            <input
              aria-label="A further section"
              placeholder="A further section"
              value={unsent.value}
              maxLength={LIMITS.sectionName}
              onChange={({ target }) => unsent.write(target.value)}
              className="min-h-8 w-44 rounded-field border border-line-strong bg-surface px-2"
            />
            <Button type="submit" size="small" busy={act.busy} disabled={unsent.value.trim() === ''}>
              Add a section
            </Button>
          </form>
        </li>
      </ul>
      {act.fault && (
        <p role="alert" className="mt-1 text-sm text-ember">
          {act.fault.field('name') ?? act.fault.message}
        </p>
      )}
    </section>
  )
}

function Name({
  course,
  section,
  onChanged,
}: {
  course: CourseView
  section: CourseView['sections'][number]
  onChanged: () => void
}) {
  const [name, setName] = useState(section.name)
  const act = useAct()
  const rename = (to: string) =>
    call(renameSection, { course: course.code, section: section.code }, { name: to })
  const keep = async () => {
    if (name.trim() === section.name) return
    const { fault } = await act.do({
      work: () => rename(name),
      undo: () => rename(section.name),
      put: onChanged,
      said: `${section.name} is called ${name.trim()} now.`,
      beside: true,
    })
    if (fault) setName(section.name)
  }
  return (
    <li>
      <input
        aria-label={`Name of ${section.name}`}
        value={name}
        maxLength={LIMITS.sectionName}
        onChange={({ target }) => setName(target.value)}
        onBlur={() => void keep()}
        onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
        className="min-h-8 w-36 rounded-field border border-line-strong bg-surface px-2 font-semibold"
      />
      {act.fault && (
        <span role="alert" className="block text-sm text-ember">
          {act.fault.field('name') ?? act.fault.message}
        </span>
      )}
    </li>
  )
}
