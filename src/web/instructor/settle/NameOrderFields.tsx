import { changeCourse } from '../../../contract/courses.ts'
import { LANGUAGES, type NameOrder, type Particles } from '../../../core/names.ts'
import { call } from '../../data/call.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Choice } from '../../kit/Choice.tsx'

const languageNames = new Intl.DisplayNames('en', { type: 'language' })

/** How names of the course are put in order: by which alphabet, and whether particles count. Kept for the course. */
export function NameOrderFields({
  course,
  order,
  onChanged,
}: {
  course: string
  order: NameOrder
  onChanged: () => void
}) {
  const act = useAct()
  const change = (changes: { nameLanguage?: string; nameParticles?: Particles }) =>
    act.do({ work: () => call(changeCourse, { course }, changes), put: onChanged })
  const languages = LANGUAGES.includes(order.language) ? LANGUAGES : [order.language, ...LANGUAGES]
  return (
    <div className="mt-3 flex flex-col gap-2 border-t tear pt-2">
      <label className="flex flex-col gap-1 text-sm text-soft">
        Alphabet of the names
        <Choice value={order.language} onValue={(value) => void change({ nameLanguage: value })}>
          {languages.map((language) => (
            <option key={language} value={language}>
              {languageNames.of(language) ?? language}
            </option>
          ))}
        </Choice>
      </label>
      <label className="flex flex-col gap-1 text-sm text-soft">
        Particles (“de Brito”)
        <Choice
          value={order.particles}
          onValue={(value) => void change({ nameParticles: value as Particles })}
        >
          <option value="skip">are passed over: under B</option>
          <option value="count">count: under D</option>
        </Choice>
      </label>
      <p className="text-sm text-faint">Surname first, then given name; this holds for the whole course.</p>
    </div>
  )
}
