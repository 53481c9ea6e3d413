/** The zone of this device. */
export const HERE = Intl.DateTimeFormat().resolvedOptions().timeZone

/** Every zone that this browser knows, the one given first. */
export const zonesWith = (first: string): string[] => [
  ...new Set([first, HERE, ...Intl.supportedValuesOf('timeZone'), 'UTC']),
]
