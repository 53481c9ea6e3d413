import { plainRoute } from './route.ts'

/** What the find box finds beyond the sheet that is open: people and topics of all courses that the reader looks after. */
export interface FindView {
  courses: {
    code: string
    people: {
      code: string
      name: string
      /** The roster’s name for them, where they are called otherwise; else empty. */
      listed: string
      /** The student number, or empty. */
      number: string
      email: string
      section: string | null
    }[]
    topics: { sheet: string; code: string; title: string }[]
  }[]
}

/** Everybody who is active in the reader's courses, and the topics of their sheets that are not archived. */
export const find = plainRoute<FindView>()('GET', '/api/find', 'signed-in')
