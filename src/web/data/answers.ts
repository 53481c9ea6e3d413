import useSWR, { type SWRConfiguration } from 'swr'
import { type Access, fill, type Params, type Route } from '../../contract/route.ts'
import { call, type Fault } from './call.ts'

/** Under which key SWR keeps the answer of a route: its filled path. */
export function keyOf<Path extends string>(route: { path: Path }, params: Params<Path>): string {
  return fill(route.path, params)
}

/** Reads a route that takes no body, and keeps its answer. */
export function useAnswer<Path extends string, Who extends Access, Answer>(
  route: Route<Path, Who, null, Answer>,
  params: Params<Path>,
  options?: SWRConfiguration<Answer, Fault>,
) {
  return useSWR<Answer, Fault>(keyOf(route, params), () => call(route, params), options)
}
