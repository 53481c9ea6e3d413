import type { Sheet } from './store.ts'

/** What of a request says under which address the server is reached. */
export interface Reached {
  protocol: string
  get(name: string): string | undefined
}

export type AddressOf = ReturnType<typeof createAddressOf>

/** A full address: of a sheet's link, or of another path; under the configured origin, or else the one that was asked. */
export function createAddressOf(origin: string | null) {
  const originOf = (req: Reached): string => origin ?? `${req.protocol}://${req.get('host')}`
  const addressOf = ({ link }: Pick<Sheet, 'link'>, req: Reached, path = `/s/${link}`): string =>
    `${originOf(req)}${path}`
  /** The address under which the pages are, without a path. */
  return Object.assign(addressOf, { origin: originOf })
}
