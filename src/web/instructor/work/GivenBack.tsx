import type { DeskPile, DeskView } from '../../../contract/marks.ts'
import { Bring } from '../../files/Bring.tsx'
import { FileLine } from '../../files/FileLine.tsx'
import { Button } from '../../kit/Button.tsx'
import { useRemarks } from './useRemarks.ts'

/** Files that go back with the mark: the work with notes by hand, a table of results. */
export function GivenBack({ pile, view }: { pile: DeskPile; view: DeskView }) {
  const { data, busy, refetch, removeFile } = useRemarks(view, pile)
  if (!data) return null
  const may = pile.mayMark && data.mayRemark
  if (!may && data.files.length === 0) return null
  return (
    <section aria-labelledby="given-back" className="mt-6 border-t tear pt-4">
      <h2 id="given-back" className="text-lg">
        Goes back with the mark
      </h2>
      <ul>
        {data.files.map((file) => (
          <li key={file.code}>
            <FileLine sheet={view.code} file={file} note={`, by ${file.by}`}>
              {may && (
                <Button size="small" look="quiet" busy={busy} onClick={() => void removeFile(file)}>
                  Delete<span className="sr-only"> {file.name}</span>
                </Button>
              )}
            </FileLine>
          </li>
        ))}
      </ul>
      {may && (
        <div className="mt-2">
          <Bring
            sheet={view.code}
            aim={{ aim: 'feedback', task: view.task.code, group: null, owner: pile.owner }}
            label="Give files back"
            hint={
              data.released
                ? 'The mark is out, so they see it at once.'
                : 'They see it once the mark is out, and nobody else does.'
            }
            onDone={refetch}
          />
        </div>
      )}
    </section>
  )
}
