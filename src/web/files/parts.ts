import type { ReactNode } from 'react'

/** What is drawn over the pages of a file and after them, by page; a picture is one page. */
export interface Parts {
  over: (page: number) => ReactNode
  after?: ((page: number) => ReactNode) | undefined
  /** The text of a file, in place of its plain look. */
  text: (text: string) => ReactNode
  /** The last page that has to be laid out at once. */
  reach: number
  /** What a page is called in the document, to be gone to. */
  idOf: (page: number) => string
}
