import { fill, type Params } from '../../contract/route.ts'

/** Where this page's addresses begin: nowhere, or in a rehearsal, whose pages and answers are its own. */
export const BASE: string =
  typeof location === 'undefined' ? '' : (/^\/rehearsal\/[\w-]+(?=\/)/.exec(location.pathname)?.[0] ?? '')

/** Whether this page is one of a rehearsal. */
export const REHEARSED = BASE !== ''

/** The address of a route for this page, its named parts filled. */
export const address = <Path extends string>(path: Path, params: Params<Path>): string =>
  BASE + fill(path, params)
