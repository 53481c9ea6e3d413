import { join } from 'node:path'
import { expect, it } from 'vitest'
import { arrowFaults, circlesIn, faultsOf, tableFaults } from './check-imports.mjs'
import { root } from './lib/setup.mjs'

const at = (path) => join(root, 'src', path)

it.each([
  ['core/claim.ts', "import { call } from '../contract/route.ts'", /core imports contract/],
  ['core/claim.ts', "import { readFileSync } from 'node:fs'", /core imports the package node:fs/],
  ['core/claim.ts', "import React from 'react'", /core imports the package react/],
  ['contract/route.ts', "import x from '../server/app.ts'", /contract imports server/],
  ['web/app.tsx', "const x = lazy(() => import('../server/app.ts'))", /web imports server/],
  ['web/app.tsx', "import Database from 'better-sqlite3'", /web imports better-sqlite3/],
  ['server/app.ts', "import { Button } from '../web/kit/Button.tsx'", /server imports web/],
  ['server/app.ts', "import { door } from '../demo/door.ts'", /server imports demo/],
  ['server/app.ts', "import React from 'react'", /server imports react/],
])('%s may not say %s', (path, text, fault) => {
  expect(faultsOf(at(path), text)).toMatchObject([expect.stringMatching(fault)])
})

it('lets the arrows run the allowed way, and tests use their tools', () => {
  expect(
    faultsOf(
      at('web/app.tsx'),
      "import { claim } from '../contract/seats.ts'\nimport { useState } from 'react'",
    ),
  ).toEqual([])
  expect(faultsOf(at('server/app.ts'), "import { decideClaim } from '../core/claim.ts'")).toEqual([])
  expect(
    faultsOf(at('core/claim.test.ts'), "import fc from 'fast-check'\nimport { it } from 'vitest'"),
  ).toEqual([])
})

it('keeps each subject of the server to its own tables', () => {
  expect(tableFaults(at('server/seats/store.ts'), 'SELECT name FROM enrolment')).toMatchObject([/roster/])
  expect(tableFaults(at('server/seats/store.ts'), 'SELECT id FROM seat JOIN sheet_group g')).toMatchObject([
    /sheets/,
  ])
  expect(tableFaults(at('server/seats/store.ts'), 'DELETE FROM seat')).toEqual([])
})

it('finds an import of the web that runs up to a room that builds on it, loaded ones too', () => {
  const up = (file, text) => arrowFaults(at(file), text)
  expect(up('web/kit/Frame.tsx', "import { PersonMenu } from '../access/PersonMenu.tsx'")).toHaveLength(1)
  expect(up('web/group/GroupPage.tsx', "const x = () => import('../instructor/FindBox.tsx')")).toHaveLength(1)
  expect(
    up('web/instructor/run/GroupRecord.tsx', "import { a } from '../ledger/LedgerPage.tsx'"),
  ).toHaveLength(1)
  expect(up('web/instructor/run/GroupRecord.tsx', "import { a } from '../record/words.ts'")).toEqual([])
  expect(up('web/app.tsx', "import { Frame } from './kit/Frame.tsx'")).toEqual([])
  expect(up('web/new/Thing.tsx', "import { a } from '../kit/Button.tsx'")).toHaveLength(1)
})

it('finds circles of files, of two or more, and none where there is none', () => {
  const texts = (edges) =>
    new Map(
      Object.entries(edges).map(([file, to]) => [
        at(`core/${file}.ts`),
        to.map((one) => `import type { A } from './${one}.ts'`).join('\n'),
      ]),
    )
  expect(circlesIn(texts({ a: ['b'], b: ['c'], c: [] }))).toEqual([])
  expect(circlesIn(texts({ a: ['b'], b: ['c'], c: ['a'], d: ['a'] }))).toEqual([
    ['a', 'b', 'c'].map((name) => at(`core/${name}.ts`)),
  ])
  expect(circlesIn(texts({ a: ['b'], b: ['a'], c: ['d'], d: ['c', 'a'] }))).toHaveLength(2)
})
