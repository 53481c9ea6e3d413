import { FileText, FileType, Image, Paperclip } from 'lucide-react'
import type { ReactNode } from 'react'
import { type FileView, keptFile } from '../../contract/files.ts'
import { type ShownAs, sayBytes, shownAs } from '../../core/files.ts'
import { address } from '../data/base.ts'

const ICONS = { picture: Image, pages: FileType, text: FileText, not: Paperclip } satisfies Record<
  ShownAs,
  unknown
>

/** Where a kept file is downloaded. */
export const fileAddress = (sheet: string, code: string) => address(keptFile.path, { sheet, file: code })

/** A file by its name, to be saved, with its size. */
export function FileLine({
  sheet,
  file,
  note,
  children,
}: {
  sheet: string
  file: FileView
  /** Said after the size. */
  note?: ReactNode
  /** What can be done with it. */
  children?: ReactNode
}) {
  const Icon = ICONS[shownAs(file.type)]
  return (
    <div className="flex min-h-9 items-center gap-2">
      <Icon aria-hidden="true" className="size-4 shrink-0 text-open" />
      <div className="flex min-w-0 flex-1 flex-wrap items-baseline gap-x-2">
        <a
          href={fileAddress(sheet, file.code)}
          download={file.name}
          className="inline-block py-1 text-seat underline underline-offset-2 wrap-anywhere"
        >
          {file.name}
        </a>
        <span className="figures text-sm text-soft">
          {sayBytes(file.size)}
          {note}
        </span>
      </div>
      {children}
    </div>
  )
}
