import type { KnownCriteria } from '../../../contract/tasks.ts'
import { type Criterion, mostPoints } from '../../../core/marks.ts'
import { Button } from '../../kit/Button.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { BOX } from '../../kit/Field.tsx'

const FRESH = ['thin', 'fair', 'good', 'strong']

/** The rows that work is marked against, or plain points where there are none; rows of another task can be used again. */
export function CriteriaFields({
  criteria,
  onCriteria,
  others,
}: {
  criteria: readonly Criterion[]
  onCriteria: (criteria: readonly Criterion[]) => void
  /** Criteria of other tasks, on any sheet of the course, that can be used again. */
  others: readonly KnownCriteria[]
}) {
  const change = (id: string, more: Partial<Criterion>) =>
    onCriteria(criteria.map((one) => (one.id === id ? { ...one, ...more } : one)))
  const add = () =>
    onCriteria([...criteria, { id: crypto.randomUUID(), title: '', points: 5, levels: FRESH }])
  return (
    <fieldset className="flex flex-col gap-2">
      <legend className="text-sm font-semibold text-soft">
        {criteria.length === 0
          ? 'Criteria'
          : `Criteria, ${mostPoints({ points: 0, criteria })} points in all`}
      </legend>
      {criteria.length === 0 && (
        <p className="text-sm text-faint">Without criteria it is marked with plain points.</p>
      )}
      {criteria.map(({ id, title, points, levels }, i) => (
        <div key={id} className="grid grid-cols-[1fr_5rem_1.3fr_auto] items-center gap-2 max-sm:grid-cols-1">
          <input
            aria-label={`Criterion ${i + 1}`}
            placeholder="What is looked at"
            value={title}
            onChange={({ target }) => change(id, { title: target.value })}
            className={`${BOX} min-h-9`}
          />
          <input
            aria-label={`Points of criterion ${i + 1}`}
            type="number"
            min={1}
            max={100}
            value={points}
            onChange={({ target }) => change(id, { points: Number(target.value) })}
            className={`${BOX} min-h-9`}
          />
          <input
            aria-label={`Levels of criterion ${i + 1}, from least to most`}
            placeholder="levels, from least to most"
            value={levels.join(', ')}
            onChange={({ target }) =>
              change(id, { levels: target.value.split(',').map((level) => level.trimStart()) })
            }
            onBlur={() => change(id, { levels: levels.map((level) => level.trim()).filter(Boolean) })}
            className={`${BOX} min-h-9`}
          />
          <Button
            size="small"
            look="quiet"
            aria-label={`Remove criterion ${i + 1}`}
            onClick={() => onCriteria(criteria.filter((one) => one.id !== id))}
          >
            Remove
          </Button>
        </div>
      ))}
      <div className="flex flex-wrap items-center gap-2">
        <Button size="small" onClick={add}>
          Add a criterion
        </Button>
        {others.length > 0 && (
          <Choice
            aria-label="Use the criteria of another task"
            value=""
            onValue={(value) => {
              const found = others.find(({ task }) => task === value)
              if (found) onCriteria(found.criteria.map((one) => ({ ...one, id: crypto.randomUUID() })))
            }}
          >
            <option value="">the criteria of another task…</option>
            {[...new Set(others.map(({ sheet }) => sheet))].map((sheet) => {
              const here = others.filter((one) => one.sheet === sheet)
              return (
                <optgroup key={sheet} label={here[0]?.sheetTitle}>
                  {here.map(({ task, title }) => (
                    <option key={task} value={task}>
                      {title}
                    </option>
                  ))}
                </optgroup>
              )
            })}
          </Choice>
        )}
      </div>
    </fieldset>
  )
}
