import { expect, it } from 'vitest'
import { type Description, fieldsOf, holdsOf, operationsOf } from './description.ts'

const named = {
  Person: {
    type: 'object',
    properties: {
      name: { type: 'string', maxLength: 120, description: 'How they are called.' },
      friends: { type: 'array', items: { $ref: '#/components/schemas/Person' } },
    },
    required: ['name'],
  },
}

it('gives operations with what they take and answer', () => {
  const description: Description = {
    info: { description: '' },
    paths: {
      '/api/a/{b}': {
        post: {
          operationId: 'addA',
          tags: ['a'],
          summary: 'Adds it',
          requestBody: { content: { 'application/json': { schema: { type: 'object' } } } },
          responses: { '200': { content: { '*/*': { schema: {} } } } },
        },
      },
    },
    components: { schemas: {} },
  }
  expect(operationsOf(description)).toEqual([
    {
      method: 'POST',
      path: '/api/a/{b}',
      id: 'addA',
      subject: 'a',
      summary: 'Adds it',
      description: '',
      body: { type: 'object' },
      answer: null,
    },
  ])
})

it('lists fields within fields once, and does not go round in what names itself', () => {
  const lines = fieldsOf({ type: 'array', items: { $ref: '#/components/schemas/Person' } }, named)
  expect(lines.map(({ path, needed, words }) => [path, needed, words])).toEqual([
    ['name', true, 'How they are called.'],
    ['friends', false, ''],
  ])
})

it.each([
  [{ type: 'string', minLength: 1, maxLength: 120 }, 'text, at least 1, at most 120'],
  [{ type: 'integer', minimum: 1, maximum: 5 }, 'whole number from 1 to 5'],
  [
    { anyOf: [{ type: 'integer' }, { const: 'none' }, { type: 'null' }] },
    'whole number or “none” or nothing',
  ],
  [{ type: ['string', 'null'] }, 'text or nothing'],
  [{ enum: ['read', null, 3] }, '“read” or nothing or 3'],
  [{ type: 'array', items: { $ref: '#/components/schemas/Person' } }, 'list of fields'],
  [{ $ref: '#/components/schemas/Nobody' }, 'anything'],
  [{ type: 'object' }, 'fields of any name'],
])('says what %j holds', (shape, words) => {
  expect(holdsOf(shape, named)).toBe(words)
})
