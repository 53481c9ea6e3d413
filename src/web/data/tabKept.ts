/** Where a tab keeps what survives a reload: its session storage. */
export type TabStorage = Pick<Storage, 'getItem' | 'setItem' | 'removeItem' | 'key' | 'length'>

/** Forgets everything in a tab's storage whose name begins so. */
export function forgetKept(storage: TabStorage | null, prefix: string): void {
  if (!storage) return
  const keys = Array.from({ length: storage.length }, (_, i) => storage.key(i) ?? '')
  for (const key of keys) if (key.startsWith(prefix)) storage.removeItem(key)
}
