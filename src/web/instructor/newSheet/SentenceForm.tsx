import { EXTRAS } from '../../../core/extras.ts'
import { LIMITS } from '../../../core/limits.ts'
import type { ConvenerRule, ForWhom, Road } from '../../../core/rules.ts'
import { EXTRA_WORDS } from '../../group/extraWords.ts'
import { Check } from '../../kit/Check.tsx'
import { TimeField } from '../../kit/TimeField.tsx'
import { COUNTS_IN, type CountsIn, countedBy, countsIn } from '../settle/input.ts'
import { Doubts, LINE, Line, PART, Part } from './SentenceParts.tsx'
import { type Class, type Doubt, type HowMany, type Sentence, talks } from './sentence.ts'

const ROADS: Record<Road, { label: string; notice: string }> = {
  chosen: {
    label: 'choose their groups',
    notice: 'They take seats as they come, within a window; you see who has none.',
  },
  wished: {
    label: 'rank topics by wish',
    notice:
      'They rank topics within a window, and being early makes no difference; seats are given by their wishes after the close.',
  },
  made: {
    label: 'are put into groups by me',
    notice: 'Students do not choose. They see their group once it is published; no window is needed.',
  },
}

const COUNTS: Record<HowMany, { label: string; counts: string }> = {
  number: { label: 'so many groups:', counts: 'Groups' },
  size: { label: 'groups of about', counts: 'People in each, about' },
  most: { label: 'groups of at most', counts: 'People in each, at most' },
  least: { label: 'groups of at least', counts: 'People in each, at least' },
  topics: { label: 'topics by name', counts: '' },
}

const LEADS: Record<ConvenerRule, string> = {
  first: 'whoever sits down first',
  lot: 'one drawn by lot',
  named: 'somebody named later',
  none: 'nobody',
}

/** A new sheet as a sentence whose parts are chosen. */
export function SentenceForm({
  said,
  course,
  wrong,
  change,
  onNewList,
}: {
  said: Sentence
  course: Class & { courseCode: string; sheets: readonly Earlier[] }
  wrong: readonly Doubt[]
  change: (more: Partial<Sentence>) => void
  onNewList: () => void
}) {
  const { after, forWhom, road, by, n, mixed, pattern, letters, convener, extras } = said
  // Whoever makes groups in each section can name them by it.
  const bySection = road === 'made' && !mixed && course.sections.length > 0
  const seated = course.sheets.filter(({ groups }) => groups.some(({ taken }) => taken > 0))
  const way = after ? `${after.how} ${after.sheet}` : road
  const list = course.lists.find(({ code }) => code === said.list)
  const whom = forWhom === 'list' && list ? `list ${list.code}` : forWhom
  const chooseWhom = (value: string) => {
    if (value === 'new-list') return onNewList()
    const [kind, code = ''] = value.split(' ')
    change({ forWhom: kind as ForWhom, list: code })
  }
  const doubts = (at: Doubt['at']) => wrong.filter((one) => one.at === at)
  return (
    <div className="flex flex-col gap-4">
      <div>
        <label className="flex max-w-xl flex-wrap items-baseline gap-x-3 gap-y-1">
          <span className="text-sm font-semibold text-soft">Sheet title</span>
          <input
            value={said.title}
            maxLength={LIMITS.title}
            onChange={({ target }) => change({ title: target.value })}
            aria-invalid={doubts('title').length > 0 || undefined}
            className="min-h-8 min-w-0 flex-1 border-b border-line-strong bg-transparent font-semibold hover:border-open aria-invalid:border-ember"
          />
        </label>
        <Doubts of={doubts('title')} />
      </div>
      {after?.how !== 'same' && (
        <>
          <Line>
            <Part label="Whom it is for" value={whom} onValue={chooseWhom}>
              <option value="course">Everybody</option>
              {course.sections.length > 0 && <option value="sections">Some sections</option>}
              {course.lists.map(({ code, title }) => (
                <option key={code} value={`list ${code}`}>
                  The list “{title}”
                </option>
              ))}
              <option value="new-list">A new list of people…</option>
            </Part>{' '}
            in {course.courseCode}
          </Line>
          {forWhom === 'sections' && (
            <fieldset className="flex flex-wrap gap-x-5 gap-y-1">
              <legend className="sr-only">Which sections</legend>
              {course.sections.map(({ code, name, students }) => (
                <Check
                  key={code}
                  checked={said.sections.includes(code)}
                  onValue={(on) =>
                    change({
                      sections: on ? [...said.sections, code] : said.sections.filter((one) => one !== code),
                    })
                  }
                >
                  {name} ({students})
                </Check>
              ))}
            </fieldset>
          )}
          <Doubts of={doubts('whom')} />
        </>
      )}
      <Line>
        <Part label="How groups come about" value={way} onValue={(value) => change(takeWay(said, value))}>
          {Object.entries(ROADS).map(([value, { label }]) => (
            <option key={value} value={value}>
              {label}
            </option>
          ))}
          {seated.length > 0 && (
            <optgroup label="As it was on another sheet">
              {seated.flatMap(({ code, title }) => [
                <option key={`same ${code}`} value={`same ${code}`}>
                  stay in the groups of “{title}”
                </option>,
                <option key={`fresh ${code}`} value={`fresh ${code}`}>
                  get other partners than on “{title}”
                </option>,
              ])}
            </optgroup>
          )}
        </Part>
        ,
      </Line>
      <p className="-mt-3 text-soft">{AFTER[after?.how ?? ''] ?? ROADS[road].notice}</p>
      {after?.how !== 'same' && (
        <>
          <Line>
            in{' '}
            <Part label="How many" value={by} onValue={(value) => change({ by: value as HowMany })}>
              {Object.entries(COUNTS).map(([value, { label }]) => (
                <option key={value} value={value}>
                  {label}
                </option>
              ))}
            </Part>
            {by !== 'topics' && (
              <>
                {' '}
                <input
                  aria-label={COUNTS[by].counts}
                  inputMode="numeric"
                  value={Number.isNaN(n) ? '' : n}
                  onFocus={({ target }) => target.select()}
                  onChange={({ target }) => {
                    const typed = target.value.replace(/\D/g, '').slice(0, 4)
                    change({ n: typed === '' ? Number.NaN : Number(typed) })
                  }}
                  aria-invalid={doubts('many').length > 0 || undefined}
                  className={`${PART} figures w-[2.5em] text-center aria-invalid:border-ember`}
                />
              </>
            )}
            {course.sections.length > 0 && (
              <>
                ,{' '}
                <Part
                  label="In each section, or mixed"
                  value={mixed ? 'mixed' : 'each'}
                  onValue={(value) => change({ mixed: value === 'mixed' })}
                >
                  <option value="each">in each section</option>
                  <option value="mixed">sections mixed</option>
                </Part>
              </>
            )}
            ,
          </Line>
          {by === 'topics' && (
            <label className="flex max-w-xl flex-col gap-1 text-sm font-semibold text-soft">
              Topics, one in each line
              <textarea
                rows={6}
                value={said.topics}
                onChange={({ target }) => change({ topics: target.value })}
                className="rounded-field border border-line-strong bg-surface px-3 py-2 text-base font-normal text-ink [field-sizing:content]"
              />
            </label>
          )}
          <Doubts of={doubts('many')} />
          {by !== 'topics' && (
            <Line>
              named{' '}
              <input
                aria-label="Names of groups; # counts"
                value={pattern}
                maxLength={60}
                onChange={({ target }) => change({ pattern: target.value })}
                className={`${PART} w-[7em]`}
              />{' '}
              in{' '}
              <Part
                label="What counts"
                value={countsIn({ pattern, letters })}
                onValue={(value) => change(countedBy(value as CountsIn, pattern))}
              >
                {Object.entries(COUNTS_IN)
                  .filter(([value]) => value !== 'sections' || bySection)
                  .map(([value, words]) => (
                    <option key={value} value={value}>
                      {words}
                    </option>
                  ))}
              </Part>
              ;
            </Line>
          )}
          <Line>
            <Part
              label="Who answers for a group"
              value={convener}
              onValue={(value) => change({ convener: value as ConvenerRule })}
            >
              {Object.entries(LEADS)
                .filter(([value]) => road === 'chosen' || value !== 'first')
                .map(([value, label]) => (
                  <option key={value} value={value}>
                    {label}
                  </option>
                ))}
            </Part>{' '}
            answers for each,
          </Line>
          <fieldset>
            <legend className={LINE}>and they get a page with members and tasks, and</legend>
            <div className="mt-2 flex flex-wrap gap-x-5 gap-y-1">
              {EXTRAS.map((extra) => (
                <Check
                  key={extra}
                  checked={extras.includes(extra)}
                  onValue={(on) =>
                    change({ extras: EXTRAS.filter((one) => (one === extra ? on : extras.includes(one))) })
                  }
                >
                  {EXTRA_WORDS[extra]}
                </Check>
              ))}
            </div>
          </fieldset>
          {talks(said) && (
            <div className="flex max-w-xl flex-col gap-2">
              <Line>
                beginning with the subject{' '}
                <input
                  aria-label="First subject"
                  value={said.subject}
                  maxLength={LIMITS.title}
                  placeholder="none"
                  onChange={({ target }) => change({ subject: target.value })}
                  className={`${PART} w-[11em]`}
                />
              </Line>
              {(said.subject !== '' || said.post !== '') && (
                <label className="flex flex-col gap-1 text-sm font-semibold text-soft">
                  Its first post, by you
                  <textarea
                    rows={2}
                    value={said.post}
                    maxLength={LIMITS.brief}
                    onChange={({ target }) => change({ post: target.value })}
                    className="rounded-field border border-line-strong bg-surface px-3 py-2 text-base font-normal text-ink [field-sizing:content]"
                  />
                </label>
              )}
              <Doubts of={doubts('subject')} />
            </div>
          )}
          <div className="flex max-w-xl flex-col gap-2">
            <Line>
              and the first task{' '}
              <input
                aria-label="First task"
                value={said.task}
                maxLength={LIMITS.title}
                placeholder="none yet"
                onChange={({ target }) => change({ task: target.value })}
                className={`${PART} w-[11em]`}
              />
              .
            </Line>
            {(said.task !== '' || said.due !== '') && (
              <TimeField
                label="Due, by the course’s clocks"
                value={said.due}
                onValue={(due) => change({ due })}
                className="max-w-64"
              />
            )}
            <Doubts of={doubts('task')} />
          </div>
        </>
      )}
    </div>
  )
}

/** A sheet that another can go on from. */
export interface Earlier {
  code: string
  title: string
  groups: readonly { taken: number }[]
}

const AFTER: Readonly<Record<string, string>> = {
  same: 'The same people in the same groups, with the topics and rules of that sheet. Whoever left is not among them; whoever is new waits for you on Run.',
  fresh:
    'Who sat together there does not again, as far as possible; the plan says how many pairs still do. You look at the groups before they go out.',
}

/** How groups come about, as it was chosen: a road, or what was on another sheet. Where nobody sits down, nobody does so first. */
function takeWay({ convener }: Sentence, value: string): Partial<Sentence> {
  const [how = '', sheet] = value.split(' ')
  const road: Road = how === 'chosen' || how === 'wished' ? how : 'made'
  const after = sheet === undefined ? null : { how: how as 'same' | 'fresh', sheet }
  return { road, after, ...(road !== 'chosen' && convener === 'first' && { convener: 'lot' }) }
}
