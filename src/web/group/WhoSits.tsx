import { useState } from 'react'
import type { GroupPage } from '../../contract/groups.ts'
import { CopyAddresses, mailToAll } from '../kit/Addresses.tsx'
import { Button } from '../kit/Button.tsx'
import { SeatSomebody, TakeOut } from './Convening.tsx'
import { MessageAsk } from './MessageAsk.tsx'

/** Who sits in a group, who looks after it, and the ways to reach them all. */
export function WhoSits({ page, put }: { page: GroupPage; put: (page: GroupPage) => void }) {
  const [writing, setWriting] = useState(false)
  const { members, size, convener, tutors, extras, may } = page
  const others = members.filter(({ you }) => !you)
  const hidden = size - members.length
  return (
    <section aria-labelledby="who" className="rounded-card border border-line bg-surface">
      <div className="px-4 py-3">
        <h2 id="who" className="text-lg">
          {size === 1 ? 'One sits here' : `${size} sit here`}
        </h2>
        <ul className="mt-2 flex flex-col gap-1.5">
          {members.map(({ code, name, you }) => (
            <li key={code} className="flex items-center gap-2.5">
              <span aria-hidden="true" className="h-[1.125rem] w-3.5 shrink-0 rounded-pip bg-seat" />
              <span className="min-w-0 wrap-anywhere">
                {name}
                {you && <span className="text-soft"> (you)</span>}
                {convener === name && <span className="text-sm text-soft"> · answers for the group</span>}
              </span>
              <span className="ml-auto">
                <TakeOut page={page} person={{ code, name }} put={put} />
              </span>
            </li>
          ))}
          {hidden > 0 && (
            <li className="text-soft">
              {members.length > 0 ? 'and ' : ''}
              {hidden} more; names are not shown on this sheet
            </li>
          )}
          {size === 0 && <li className="text-soft">Nobody has taken a seat yet.</li>}
        </ul>
        {tutors.length > 0 && (
          <p className="mt-3 text-soft">
            Looked after by{' '}
            {tutors.map(({ code, name, email }, i) => (
              <span key={code}>
                {i > 0 && ', '}
                <a className="text-seat underline underline-offset-2" href={`mailto:${email}`}>
                  {name}
                </a>
              </span>
            ))}
          </p>
        )}
      </div>
      <div className="flex flex-wrap gap-2 border-t tear px-4 py-3 empty:hidden">
        {extras.messages && may.write && size + tutors.length > (page.as === 'member' ? 1 : 0) && (
          <Button size="touch" look="main" onClick={() => setWriting(true)}>
            Write to all
          </Button>
        )}
        {page.convening?.seat && <SeatSomebody page={page} put={put} />}
        {others.length > 0 && (
          <>
            <a
              className="inline-flex min-h-11 items-center rounded-field border border-line-strong bg-surface px-3.5 font-semibold hover:border-open"
              href={mailToAll(others, `${page.sheet.title}: ${page.topic.title}`)}
            >
              Mail to all
            </a>
            <CopyAddresses people={others} />
          </>
        )}
      </div>
      {writing && <MessageAsk page={page} put={put} onClose={() => setWriting(false)} />}
    </section>
  )
}
