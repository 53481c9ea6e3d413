import { useState } from 'react'
import { isWebLink } from '../../contract/fields.ts'
import type { FileView } from '../../contract/files.ts'
import {
  handIn,
  letGoDraft,
  type OwnTask,
  type OwnWork,
  removeDraftFile,
  takeBack,
} from '../../contract/ownWork.ts'
import { sayBytes } from '../../core/files.ts'
import { countWords } from '../../core/task.ts'
import { call } from '../data/call.ts'
import { draftWords } from '../data/draft.ts'
import { Bring } from '../files/Bring.tsx'
import { FileLine } from '../files/FileLine.tsx'
import { useAct } from '../kit/Acting.tsx'
import { Ask } from '../kit/Ask.tsx'
import { Button } from '../kit/Button.tsx'
import { Area } from '../kit/Field.tsx'
import { type HandInDraft, linksIn, useHandIn } from './useHandIn.ts'

/** Writing and handing in. What is written is kept by itself, for the whole group, and written by one at a time. */
export function HandIn({
  task,
  own: work,
  all,
  put,
  refetch,
}: {
  task: OwnTask
  own: NonNullable<OwnTask['work']>
  /** The answer that it stands in. */
  all: OwnWork
  put: (work: OwnWork) => void
  refetch: () => void
}) {
  const { draft, handIns } = work
  const sheet = all.sheet.code
  const standing = handIns.find(({ takenBackAt }) => takenBackAt === null)
  const newest = handIns[0]?.version ?? 0
  const late = task.gate.state === 'late'
  /** Whether a version in time counts, which one that is handed in now would take the place of. */
  const instead = late && standing !== undefined && !standing.late
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set())
  const [asking, setAsking] = useState<'hand-in' | 'take-back' | null>(null)
  const act = useAct()
  const { busy, fault } = act
  const group = task.group?.code ?? null
  const params = { sheet, task: task.code }
  const writing = useHandIn({ task, all, put, refetch })
  const { text, links } = writing.value
  const others = draft !== null && draft.holder !== null && !draft.yours
  const listed = linksIn(links)
  // Those of the version that stands can go with the next one, beside what was brought since.
  const again = (standing?.files ?? []).filter(({ code }) => !work.brought.some((one) => one.code === code))
  const chosen = [...again, ...work.brought].filter(({ code }) => !left.has(code)).map(({ code }) => code)
  const words = countWords(text)
  const tooMany = work.takesText && work.mostWords !== null && words > work.mostWords
  const wrong = listed.find((link) => !isWebLink(link))
  const said = writing.state === 'kept' && draft?.yours ? 'Saved. Your group sees it too.' : ''

  const type = (change: Partial<HandInDraft>) => {
    act.clear()
    writing.write({ text, links, ...change })
  }
  const letGo = async () => {
    if (!(await writing.flush())) return
    await act.do({ work: () => call(letGoDraft, params, { group }), put })
  }
  const send = async () => {
    await act.do({
      work: () => call(handIn, params, { group, text, links: listed, files: chosen, after: newest, instead }),
      put: (next) => {
        writing.drop()
        setLeft(new Set())
        put(next)
      },
      said: 'Handed in. Everybody it counts for has a receipt by mail.',
      refetch,
      beside: true,
    })
    setAsking(null)
  }
  const back = async () => {
    await writing.flush()
    await act.do({
      work: () => call(takeBack, params, { group }),
      put,
      said: 'Withdrawn. What was written is in the draft again.',
      refetch,
    })
    setAsking(null)
  }
  const removeFile = ({ code, name }: FileView) =>
    act.do({
      work: () => call(removeDraftFile, { ...params, file: code }, { group }),
      put,
      said: `“${name}” is deleted.`,
      refetch,
    })
  return (
    <div className="flex flex-col gap-3">
      <h3 className="text-base">{standing ? 'Another version' : 'Hand in'}</h3>
      {others && (
        <p className="rounded-field bg-sun-soft px-3 py-2 text-sun-ink">
          {draft.holder} is writing now. You can read along, and write once they let go of it or pause for two
          minutes.
        </p>
      )}
      {work.takesText && (
        <Area
          label="Text"
          rows={8}
          value={text}
          readOnly={others && writing.state === 'kept'}
          onChange={(event) => type({ text: event.target.value })}
          hint={work.mostWords !== null && `${words} of ${work.mostWords} words`}
          fault={
            (fault ?? writing.fault)?.field('text') ??
            (tooMany
              ? `${words} words; ${work.mostWords} are the most. It is kept, and can be handed in once it is shorter.`
              : undefined)
          }
        />
      )}
      {work.takesLinks && (
        <Area
          label="Links, one in each line"
          rows={2}
          value={links}
          readOnly={others && writing.state === 'kept'}
          onChange={(event) => type({ links: event.target.value })}
          fault={wrong ? `“${wrong}” is no link: it begins with https:// or http://.` : undefined}
        />
      )}
      {work.takesFiles && (
        <div className="flex flex-col gap-1">
          <h4 className="text-sm font-semibold text-soft">Files</h4>
          <ul>
            {again.map((file) => (
              <li key={file.code}>
                <FileLine sheet={sheet} file={file} note={`, from version ${standing?.version}`}>
                  <Button
                    size="small"
                    aria-pressed={!left.has(file.code)}
                    onClick={() => {
                      const next = new Set(left)
                      if (!next.delete(file.code)) next.add(file.code)
                      setLeft(next)
                    }}
                  >
                    {left.has(file.code) ? 'Hand in again' : 'Leave out'}
                    <span className="sr-only"> {file.name}</span>
                  </Button>
                </FileLine>
              </li>
            ))}
            {work.brought.map((file) => (
              <li key={file.code}>
                <FileLine sheet={sheet} file={file} note={`, by ${file.by}`}>
                  <Button size="small" look="quiet" onClick={() => void removeFile(file)}>
                    Delete<span className="sr-only"> {file.name}</span>
                  </Button>
                </FileLine>
              </li>
            ))}
          </ul>
          <Bring
            sheet={sheet}
            aim={{ aim: 'work', task: task.code, group }}
            label="Add files"
            hint={`${sayBytes(work.room.fileBytes)} each at most, ${sayBytes(work.room.left)} left`}
            onDone={refetch}
          />
        </div>
      )}
      {writing.state === 'beside' && writing.theirs && (
        <Beside
          theirs={writing.theirs}
          by={draft?.holder ?? null}
          onMine={() => writing.decide('mine')}
          onTheirs={() => writing.decide('theirs')}
        />
      )}
      {fault && !fault.field('text') && (
        <p role="alert" className="text-ember">
          {fault.message}
        </p>
      )}
      <div className="flex flex-wrap items-center gap-2">
        <Button
          look="main"
          size="touch"
          busy={busy}
          disabled={
            others ||
            wrong !== undefined ||
            tooMany ||
            (text.trim() === '' && listed.length === 0 && chosen.length === 0)
          }
          onClick={() => setAsking('hand-in')}
        >
          {work.forWhom === 'group' ? 'Hand in for your group' : 'Hand in'}
        </Button>
        {draft?.yours && (
          <Button size="touch" onClick={() => void letGo()}>
            Let others write
          </Button>
        )}
        {standing && task.gate.state === 'open' && (
          <Button size="touch" busy={busy} onClick={() => setAsking('take-back')}>
            Withdraw
          </Button>
        )}
        <output
          className={`text-sm ${['refused', 'retrying', 'beside'].includes(writing.state) ? 'text-ember' : 'text-moss'}`}
        >
          {writing.state !== 'kept'
            ? draftWords(writing)
            : wrong
              ? 'The text is saved; the link is not, as long as it is none.'
              : said}
        </output>
      </div>
      <Ask
        open={asking !== null}
        title={
          asking === 'take-back'
            ? 'Withdraw what was handed in?'
            : instead
              ? 'Hand in late instead?'
              : late
                ? 'Hand in late?'
                : 'Hand in?'
        }
        yes={asking === 'take-back' ? 'Withdraw' : instead ? 'Hand in late instead' : 'Hand in'}
        busy={busy}
        onNo={() => setAsking(null)}
        onYes={() => void (asking === 'take-back' ? back() : send())}
      >
        {asking === 'take-back' ? (
          <p>Then nothing is handed in, and what was written is in the draft again.</p>
        ) : (
          <p>
            {instead &&
              `Version ${standing?.version} was handed in in time, and counts as long as you hand in nothing more. This one is late, and counts instead of it. `}
            {work.forWhom === 'group'
              ? 'It counts for everybody who sits in your group now, and from then on nobody leaves the group by themselves.'
              : 'It counts for you.'}{' '}
            {afterwards(task, late)}
          </p>
        )}
      </Ask>
    </div>
  )
}

/** What can be done once it is handed in, as long as what. */
function afterwards({ dueAt }: Pick<OwnTask, 'dueAt'>, late: boolean): string {
  if (late)
    return 'It was due already, so it cannot be withdrawn; while late work is taken, another version can follow.'
  return `${dueAt === null ? 'Afterwards' : 'Until it is due'} it can be followed by another version, or withdrawn.`
}

/** What a mate, or one's own other tab, made of it meanwhile; both texts stay until one is chosen. */
function Beside({
  theirs,
  by,
  onMine,
  onTheirs,
}: {
  theirs: HandInDraft
  by: string | null
  onMine: () => void
  onTheirs: () => void
}) {
  return (
    <div role="alert" className="flex flex-col gap-2 rounded-field bg-sun-soft px-3 py-2">
      <p className="font-semibold text-sun-ink">
        {by ? `${by} is writing` : 'It was changed elsewhere'} meanwhile. Yours stands above; theirs:
      </p>
      <p className="max-h-40 overflow-auto whitespace-pre-wrap rounded-field bg-surface px-2 py-1 text-sm">
        {[theirs.text, theirs.links].filter(Boolean).join('\n') || 'nothing'}
      </p>
      <div className="flex flex-wrap gap-2">
        <Button size="touch" onClick={onMine}>
          Save mine
        </Button>
        <Button size="touch" onClick={onTheirs}>
          Use theirs
        </Button>
      </div>
    </div>
  )
}
