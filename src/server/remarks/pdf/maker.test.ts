import { expect, it } from 'vitest'
import type { PdfJob } from './job.ts'
import { createPdfMaker } from './maker.ts'

const job: PdfJob = { title: 'Report', owner: 'Tempeh', under: [], parts: [] }

it('makes PDFs one after the other, two of one person at most, and the others go on', async () => {
  const { make } = createPdfMaker({ warn: () => {} })
  const asked = await Promise.allSettled([make(job, 1), make(job, 1), make(job, 1), make(job, 2)])
  expect(asked.map(({ status }) => status)).toEqual(['fulfilled', 'fulfilled', 'rejected', 'fulfilled'])
  const [, , refused] = asked
  expect(refused?.status === 'rejected' && refused.reason.code).toBe('too-busy')
  const [first] = asked
  expect(first?.status === 'fulfilled' && Buffer.from(first.value.slice(0, 5)).toString('latin1')).toBe(
    '%PDF-',
  )
})

it('gives one up that takes too long, and says so', async () => {
  const { make } = createPdfMaker({ warn: () => {} }, 1)
  await expect(make(job, 1)).rejects.toMatchObject({ code: 'pdf-not-made' })
})
