import { Dialog } from 'radix-ui'
import { useState } from 'react'
import type { RunView } from '../../../../contract/seats.ts'
import type { WishesView } from '../../../../contract/wishes.ts'
import { matches } from '../../../../core/names.ts'
import { sayInstant } from '../../../../core/zone.ts'
import { DialogBox } from '../../../kit/DialogBox.tsx'
import { SearchBox } from '../../../kit/SearchBox.tsx'

/** What everybody has ranked, and who has nothing that counts. */
export function WhoRanked({
  view,
  wishes,
  onClose,
}: {
  view: RunView
  wishes: WishesView
  onClose: () => void
}) {
  const [typed, setTyped] = useState('')
  const titles = new Map(view.topics.map(({ code, title }) => [code, title]))
  const titleOf = (code: string) => titles.get(code) ?? 'a topic'
  const names = new Map(view.people.map(({ code, name }) => [code, name]))
  const sections = new Map(view.sections.map(({ code, name }) => [code, name]))
  const lists = new Map(wishes.lists.map((list) => [list.person, list]))
  const people = view.people
    .map((person) => ({ ...person, list: lists.get(person.code) }))
    .filter(({ name, section, list }) =>
      matches(typed, name, sections.get(section ?? '') ?? null, ...(list?.ranks.flat().map(titleOf) ?? [])),
    )
    .toSorted((a, b) => Number(a.list?.counts === true) - Number(b.list?.counts === true))
  return (
    <Dialog.Root open onOpenChange={(next) => !next && onClose()}>
      <DialogBox title="Who ranked what" width="large">
        <SearchBox value={typed} onValue={setTyped} label="Search people and topics" />
        <section
          // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls is scrolled by keys too
          tabIndex={0}
          aria-label="Orders"
          className="max-h-[60vh] overflow-auto"
        >
          <table className="w-full text-left">
            <thead className="sticky top-0 bg-surface text-sm text-soft">
              <tr>
                <th className="py-1 pr-3 font-semibold">Student</th>
                <th className="py-1 pr-3 font-semibold">Order</th>
                <th className="py-1 font-semibold">Saved</th>
              </tr>
            </thead>
            <tbody>
              {people.map(({ code, name, section, list }) => (
                <tr key={code} className="border-t border-line align-top">
                  <th scope="row" className="py-1.5 pr-3 font-semibold">
                    {name}{' '}
                    {section && (
                      <span className="text-sm font-normal text-soft">{sections.get(section)}</span>
                    )}
                  </th>
                  <td className="py-1.5 pr-3">
                    {!list || list.ranks.length === 0 ? (
                      <span className="text-ember">nothing yet</span>
                    ) : (
                      <>
                        {list.ranks.map((topics, i) => (
                          <span key={topics.join(' ')} className="mr-2 inline-block">
                            <strong className="figures">{i + 1}</strong> {topics.map(titleOf).join(' or ')}
                          </span>
                        ))}
                        {!list.counts && <span className="text-ember">too few to count</span>}
                      </>
                    )}
                    {list?.mates && (
                      <span className="block text-sm text-soft">
                        together with {list.mates.people.map((one) => names.get(one) ?? '').join(', ')},{' '}
                        {list.mates.first ? 'before topics' : 'after topics'}
                      </span>
                    )}
                    {list?.cannot.map(({ topic, reason }) => (
                      <span key={topic} className="block text-sm text-soft">
                        cannot have {titleOf(topic)}: {reason}
                      </span>
                    ))}
                  </td>
                  <td className="figures py-1.5 text-sm whitespace-nowrap text-soft">
                    {list ? sayInstant(list.savedAt, view.course.zone) : ''}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {people.length === 0 && <p className="py-4 text-soft">Nobody fits what you look for.</p>}
        </section>
      </DialogBox>
    </Dialog.Root>
  )
}
