import { useState } from 'react'
import { type ListView, lists, removeList, restoreList } from '../../../contract/lists.ts'
import { useAnswer } from '../../data/answers.ts'
import { call } from '../../data/call.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Button } from '../../kit/Button.tsx'
import { ListAsk } from '../ListAsk.tsx'

/** The lists of people of a course: whom each holds, which sheets are for it; made, changed and removed here. */
export function Lists({ course, mayEdit }: { course: string; mayEdit: boolean }) {
  const { data, mutate } = useAnswer(lists, { course })
  const [asked, setAsked] = useState<ListView | 'new' | null>(null)
  const act = useAct()
  const own = data?.lists ?? []
  if (!data || (own.length === 0 && !mayEdit)) return null
  const refetch = () => void mutate()
  const remove = (list: ListView) =>
    act.do({
      work: () => call(removeList, { course, list: list.code }),
      undo: () => call(restoreList, { course, list: list.code }),
      put: (view) => void mutate(view, { revalidate: false }),
      said: `“${list.title}” is removed.`,
    })
  return (
    <section aria-labelledby="lists" className="rounded-card border border-line bg-surface px-4 py-3">
      <div className="flex flex-wrap items-baseline justify-between gap-3">
        <h2 id="lists" className="text-lg">
          Lists
        </h2>
        {mayEdit && (
          <Button size="small" onClick={() => setAsked('new')}>
            New list
          </Button>
        )}
      </div>
      {own.length === 0 ? (
        <p className="text-soft">
          None yet. A sheet or a task can be for a list of people: nobody else then learns of it.
        </p>
      ) : (
        <ul>
          {own.map((list) => (
            <li
              key={list.code}
              className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1 border-b tear py-2 last:border-0"
            >
              <span className="min-w-0">
                <strong className="font-semibold">{list.title}</strong>{' '}
                <span className="figures text-soft">
                  {list.people.length} {list.people.length === 1 ? 'student' : 'students'}
                  {list.away.length > 0 && `, ${list.away.length} paused or left`}
                </span>
                {list.note && <span className="block text-sm text-soft">{list.note}</span>}
                {list.sheets.length > 0 && (
                  <span className="block text-sm text-faint">For it: {list.sheets.join(', ')}</span>
                )}
              </span>
              {mayEdit && (
                <span className="flex gap-2">
                  <Button size="small" aria-label={`Edit ${list.title}`} onClick={() => setAsked(list)}>
                    Edit
                  </Button>
                  <Button
                    size="small"
                    look="quiet"
                    aria-label={`Remove ${list.title}`}
                    onClick={() => void remove(list)}
                  >
                    Remove
                  </Button>
                </span>
              )}
            </li>
          ))}
        </ul>
      )}
      {asked && (
        <ListAsk
          course={course}
          {...(asked !== 'new' && { list: asked })}
          onClose={() => setAsked(null)}
          onMade={() => {
            setAsked(null)
            refetch()
          }}
        />
      )}
    </section>
  )
}
