import { Trash2 } from 'lucide-react'
import { type FormEvent, useState } from 'react'
import {
  addSection,
  type CourseView,
  removeSection,
  renameSection,
  restoreSection,
  type SectionView,
} from '../../../contract/courses.ts'
import type { Restored } from '../../../contract/restored.ts'
import { LIMITS } from '../../../core/limits.ts'
import { call } from '../../data/call.ts'
import { useUnsent } from '../../data/useDraft.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Ask } from '../../kit/Ask.tsx'
import { Button } from '../../kit/Button.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { IconButton } from '../../kit/IconButton.tsx'
import { restoredWords } from '../restored.ts'
import { Named } from './Named.tsx'

/** The sections of a course: further ones are added, each is renamed in place, merged into another or removed. */
export function Sections({ course, onChanged }: { course: CourseView; onChanged: () => void }) {
  const unsent = useUnsent(`new section ${course.code}`, '')
  const act = useAct()
  const [removing, setRemoving] = useState<SectionView | null>(null)
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
    <section aria-labelledby="sections" className="flex flex-col gap-1.5">
      <h3 id="sections" className="font-semibold text-soft">
        Sections
      </h3>
      {course.sections.length === 0 && (
        <p className="text-soft">
          None: every group is for everybody. With the first section, groups that there are stay for
          everybody.
        </p>
      )}
      <ul className="flex flex-wrap gap-x-4 gap-y-2">
        {course.sections.map((section) => (
          <li key={section.code} className="flex flex-wrap items-center gap-1">
            <Named
              label={`Name of ${section.name}`}
              value={section.name}
              most={LIMITS.sectionName}
              field="name"
              rename={(to) =>
                call(renameSection, { course: course.code, section: section.code }, { name: to })
              }
              put={onChanged}
              said={(to) => `${section.name} is called ${to} now.`}
              className="w-36"
            />
            <IconButton
              icon={Trash2}
              danger
              name={`Remove ${section.name}`}
              onClick={() => setRemoving(section)}
            />
          </li>
        ))}
        <li>
          <form onSubmit={(event) => void add(event)} className="flex flex-wrap gap-1.5">
            <input
              aria-label="A further section"
              placeholder="A further section"
              value={unsent.value}
              maxLength={LIMITS.sectionName}
              onChange={({ target }) => unsent.write(target.value)}
              className="min-h-8 w-44 rounded-field border border-line-strong bg-surface px-2 pointer-coarse:min-h-11"
            />
            <Button type="submit" size="small" busy={act.busy} disabled={unsent.value.trim() === ''}>
              Add a section
            </Button>
          </form>
        </li>
      </ul>
      {act.fault && (
        <p role="alert" className="text-sm text-ember">
          {act.fault.field('name') ?? act.fault.message}
        </p>
      )}
      {removing && (
        <RemoveAsk
          course={course}
          section={removing}
          onChanged={onChanged}
          onClose={() => setRemoving(null)}
        />
      )}
    </section>
  )
}

/** Asks where the people of a section go that is removed. Whom it concerns besides, the server says. */
function RemoveAsk({
  course,
  section,
  onChanged,
  onClose,
}: {
  course: CourseView
  section: SectionView
  onChanged: () => void
  onClose: () => void
}) {
  const others = course.sections.filter(({ code }) => code !== section.code)
  const [into, setInto] = useState(others[0]?.code ?? '')
  const act = useAct()
  const at = { course: course.code, section: section.code }
  const target = others.find(({ code }) => code === into)
  const remove = () => {
    onClose()
    return act.do<CourseView & { restored?: Restored }>({
      work: (confirmed) => call(removeSection, at, { into: into === '' ? null : into, confirmed }),
      undo: () => call(restoreSection, at),
      put: onChanged,
      said: target ? `${section.name} is merged into ${target.name}.` : `${section.name} is removed.`,
      saidUndone: ({ restored }) => restoredWords(section.name, restored ?? { seated: 0, out: [] }),
      ask: {
        title: `Remove ${section.name}?`,
        yes: target ? `Merge into ${target.name}` : 'Remove section',
      },
    })
  }
  return (
    <Ask
      open
      title={`Remove ${section.name}`}
      yes={target ? `Merge into ${target.name}` : 'Remove section'}
      onNo={onClose}
      onYes={() => void remove()}
    >
      <p>
        Its groups go with it, on every sheet that is not archived. Whoever sits in one goes along to the same
        topic of the section that takes its people, where there is room.
      </p>
      {others.length > 0 ? (
        <label className="flex flex-wrap items-center gap-2">
          {section.students === 1 ? 'Its student goes to' : `Its ${section.students} students go to`}
          <Choice value={into} onValue={setInto}>
            {others.map(({ code, name }) => (
              <option key={code} value={code}>
                {name}
              </option>
            ))}
            <option value="">no section</option>
          </Choice>
        </label>
      ) : (
        <p>It is the last one: from then on each topic has one group for everybody.</p>
      )}
      <p>The next message offers to undo it.</p>
    </Ask>
  )
}
