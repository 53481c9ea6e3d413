import { Upload } from 'lucide-react'
import { type ReactNode, useRef, useState } from 'react'
import { sayBytes } from '../../core/files.ts'
import { Button } from '../kit/Button.tsx'
import { toast } from '../kit/toast.ts'
import type { UploadAim } from './upload.ts'
import { type Going, useUploads } from './useUploads.ts'

/** Where files are brought: chosen or dropped, several at once, each with how far it has come. */
export function Bring({
  sheet,
  aim,
  label,
  hint,
  onDone,
}: {
  sheet: string
  aim: UploadAim
  label: string
  /** How large files may be and how much room is left. */
  hint: ReactNode
  onDone: () => void
}) {
  const input = useRef<HTMLInputElement>(null)
  const [over, setOver] = useState(false)
  const { going, left, add, retry, stop, dropLeft } = useUploads(
    sheet,
    aim,
    ({ name, newVersion }, chosen) => {
      if (newVersion) toast(`“${name}” is there already, so this is a new version of it.`)
      else if (name !== chosen) toast(`Kept as “${name}”: the name it had cannot be kept as it was.`)
      onDone()
    },
  )
  return (
    <fieldset
      className={`rounded-field border border-dashed px-3 py-2 ${over ? 'border-seat bg-seat-soft' : 'border-line-strong'}`}
      onDragOver={(event) => {
        if (!event.dataTransfer.types.includes('Files')) return
        event.preventDefault()
        setOver(true)
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault()
        setOver(false)
        add([...event.dataTransfer.files])
      }}
    >
      <legend className="sr-only">{label}</legend>
      <div className="relative flex flex-wrap items-center gap-x-3 gap-y-1">
        <Button size="touch" onClick={() => input.current?.click()}>
          <Upload aria-hidden="true" className="size-4" />
          {label}
        </Button>
        <span className="text-sm text-soft">{hint}</span>
        <input
          ref={input}
          type="file"
          multiple
          tabIndex={-1}
          aria-label={label}
          className="sr-only"
          onChange={({ target }) => {
            add([...(target.files ?? [])])
            target.value = ''
          }}
        />
      </div>
      {left.length > 0 && (
        <ul className="mt-2 flex flex-col gap-2">
          {left.map(({ code, name, size, sent }) => (
            <li key={code} className="flex flex-wrap items-center justify-between gap-2 text-sm">
              <span className="min-w-0 wrap-anywhere">
                <strong>{name}</strong> is not here yet: {sayBytes(sent)} of {sayBytes(size)} have arrived.
                Choose the same file again, and it goes on from there.
              </span>
              <Button size="small" look="quiet" onClick={() => dropLeft(code)}>
                Remove<span className="sr-only"> {name}</span>
              </Button>
            </li>
          ))}
        </ul>
      )}
      {going.length > 0 && (
        <ul className="mt-2 flex flex-col gap-2">
          {going.map((one) => (
            <Way key={one.id} one={one} onRetry={() => retry(one.id)} onStop={() => stop(one.id)} />
          ))}
        </ul>
      )}
    </fieldset>
  )
}

const SAID: Record<Going['state'], string> = {
  waits: 'waits its turn',
  goes: '',
  lost: 'no connection; it goes on by itself',
  failed: '',
}

function Way({ one, onRetry, onStop }: { one: Going; onRetry: () => void; onStop: () => void }) {
  const { name, size, sent, state, fault, again } = one
  return (
    <li className="flex flex-col gap-1">
      <div className="flex items-center justify-between gap-2">
        <span className="min-w-0 truncate" title={name}>
          {name}
        </span>
        <span className="flex shrink-0 items-center gap-1">
          {state === 'failed' ? (
            again && (
              <Button size="small" onClick={onRetry}>
                Try again<span className="sr-only"> with {name}</span>
              </Button>
            )
          ) : (
            <span className="figures text-sm text-soft">
              {SAID[state] || `${sayBytes(sent)} of ${sayBytes(size)}`}
            </span>
          )}
          <Button size="small" look="quiet" onClick={onStop}>
            {state === 'failed' ? 'Remove' : 'Stop'}
            <span className="sr-only"> {name}</span>
          </Button>
        </span>
      </div>
      {state === 'failed' ? (
        <p role="alert" className="text-sm text-ember">
          {fault}
        </p>
      ) : (
        <progress
          aria-label={`${name}: how much has arrived`}
          max={size}
          value={sent}
          className="h-1.5 w-full accent-seat"
        />
      )}
    </li>
  )
}
