import { expect, it } from 'vitest'
import { deviceWords } from './device.ts'

const MOZILLA = 'Mozilla/5.0'
const ENGINE = 'AppleWebKit/537.36 (KHTML, like Gecko)'

it.each([
  // Each names others it is like, so the order of looking counts.
  [
    `${MOZILLA} (Windows NT 10.0; Win64; x64) ${ENGINE} Chrome/141.0 Safari/537.36 Edg/141.0`,
    'Edge on Windows',
  ],
  [
    `${MOZILLA} (Linux; Android 14) ${ENGINE} Chrome/141.0 Mobile Safari/537.36 EdgA/141.0`,
    'Edge on Android',
  ],
  [
    `${MOZILLA} (iPhone; CPU iPhone OS 18_0 like Mac OS X) ${ENGINE} Version/18 EdgiOS/141.0`,
    'Edge on iPhone',
  ],
  [`${MOZILLA} (X11; Linux x86_64) ${ENGINE} Chrome/140.0 Safari/537.36 OPR/120.0`, 'Opera on Linux'],
  ['Opera/9.80 (Windows NT 6.1) Presto/2.12', 'Opera on Windows'],
  [
    `${MOZILLA} (Linux; Android 13; SM-A5) ${ENGINE} SamsungBrowser/23.0 Chrome/115.0`,
    'Samsung Internet on Android',
  ],
  [`${MOZILLA} (Windows NT 10.0; rv:143.0) Gecko/20100101 Firefox/143.0`, 'Firefox on Windows'],
  [`${MOZILLA} (iPad; CPU OS 18_0 like Mac OS X) ${ENGINE} FxiOS/143.0 Safari/605.1`, 'Firefox on iPad'],
  [`${MOZILLA} (X11; CrOS x86_64 14541.0.0) ${ENGINE} Chrome/141.0 Safari/537.36`, 'Chrome on ChromeOS'],
  [`${MOZILLA} (iPhone; CPU iPhone OS 18_0 like Mac OS X) ${ENGINE} CriOS/141.0 Safari`, 'Chrome on iPhone'],
  [`${MOZILLA} (X11; Linux x86_64) ${ENGINE} Chromium/141.0`, 'Chrome on Linux'],
  [`${MOZILLA} (Macintosh; Intel Mac OS X 10_15_7) ${ENGINE} Version/18 Safari/605.1`, 'Safari on Mac'],
  [`${MOZILLA} (Darwin; Mac OS X 14) Safari/605.1`, 'Safari on Mac'],
  [`${MOZILLA} (X11; FreeBSD) Gecko Firefox/143.0`, 'Firefox on Linux'],
  ['Firefox/143.0', 'Firefox'],
  ['a script on Android', 'Android'],
  ['curl/8.0', 'Another program'],
  ['', 'Another program'],
])('%s is %s', (userAgent, words) => {
  expect(deviceWords(userAgent)).toBe(words)
})
