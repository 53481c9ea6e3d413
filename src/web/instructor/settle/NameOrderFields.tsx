import { changeCourse } from '../../../contract/courses.ts'
import { LANGUAGES, type NameOrder, type Particles } from '../../../core/names.ts'
import { call } from '../../data/call.ts'
import { useAct } from '../../kit/Acting.tsx'

const SELECT = 'min-h-9 rounded-field border border-line-strong bg-surface px-2 font-semibold text-ink'
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
        <select
          className={SELECT}
          value={order.language}
          onChange={({ target }) => void change({ nameLanguage: target.value })}
        >
          {languages.map((language) => (
            <option key={language} value={language}>
              {languageNames.of(language) ?? language}
            </option>
          ))}
        </select>
      </label>
      <label className="flex flex-col gap-1 text-sm text-soft">
        Particles (“de Brito”)
        <select
          className={SELECT}
          value={order.particles}
          onChange={({ target }) => void change({ nameParticles: target.value as Particles })}
        >
          <option value="skip">are passed over: under B</option>
          <option value="count">count: under D</option>
        </select>
      </label>
      <p className="text-sm text-faint">Surname first, then given name; this holds for the whole course.</p>
    </div>
  )
}
