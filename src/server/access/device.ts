const BROWSERS: readonly (readonly [RegExp, string])[] = [
  [/Edg(e|A|iOS)?\//, 'Edge'],
  [/OPR\/|Opera/, 'Opera'],
  [/SamsungBrowser\//, 'Samsung Internet'],
  [/Firefox\/|FxiOS\//, 'Firefox'],
  [/Chrome\/|CriOS\/|Chromium\//, 'Chrome'],
  [/Safari\//, 'Safari'],
]
const SYSTEMS: readonly (readonly [RegExp, string])[] = [
  [/iPhone/, 'iPhone'],
  [/iPad/, 'iPad'],
  [/Android/, 'Android'],
  [/Windows/, 'Windows'],
  [/Mac OS X|Macintosh/, 'Mac'],
  [/CrOS/, 'ChromeOS'],
  [/Linux|X11/, 'Linux'],
]

/** What kind of browser a `User-Agent` header speaks of, for its person to know it again: `Firefox on Windows`. */
export function deviceWords(userAgent: string): string {
  const named = (list: typeof BROWSERS) => list.find(([sign]) => sign.test(userAgent))?.[1]
  const [browser, system] = [named(BROWSERS), named(SYSTEMS)]
  if (browser && system) return `${browser} on ${system}`
  return browser ?? system ?? 'Another program'
}
