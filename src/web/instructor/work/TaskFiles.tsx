import { useSWRConfig } from 'swr'
import type { FileView } from '../../../contract/files.ts'
import { removeTaskFile, type TaskView, type WorkView, work } from '../../../contract/tasks.ts'
import { keyOf } from '../../data/answers.ts'
import { call } from '../../data/call.ts'
import { Bring } from '../../files/Bring.tsx'
import { FileLine } from '../../files/FileLine.tsx'
import { useAct } from '../../kit/Acting.tsx'
import { Button } from '../../kit/Button.tsx'

/** Files that come with a task: a form, a table to fill in. Kept at once, whatever else is changed. */
export function TaskFiles({
  view,
  task,
  put,
}: {
  view: WorkView
  task: TaskView | null
  put: (view: WorkView) => void
}) {
  const { mutate } = useSWRConfig()
  const act = useAct()
  if (!task) return <p className="text-sm text-faint">Files can be put beside it once it is set.</p>
  // What the page was opened with may be older than what was brought since.
  const files = view.tasks.find(({ code }) => code === task.code)?.files ?? task.files
  const remove = ({ code, name }: FileView) =>
    act.do({
      work: () => call(removeTaskFile, { sheet: view.code, task: task.code, file: code }),
      put,
      said: `“${name}” is deleted.`,
    })
  return (
    <div className="flex flex-col gap-1">
      <h3 className="text-sm font-semibold text-soft">Files that come with it</h3>
      <ul>
        {files.map((file) => (
          <li key={file.code}>
            <FileLine sheet={view.code} file={file}>
              <Button size="small" look="quiet" onClick={() => void remove(file)}>
                Delete<span className="sr-only"> {file.name}</span>
              </Button>
            </FileLine>
          </li>
        ))}
      </ul>
      <Bring
        sheet={view.code}
        aim={{ aim: 'task', task: task.code, group: null }}
        label="Put files beside it"
        hint="Those for whom the task is there can download them."
        onDone={() => void mutate(keyOf(work, { sheet: view.code }))}
      />
    </div>
  )
}
