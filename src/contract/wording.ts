import { setLocale } from 'yup'

// What Yup says when no rule has words of its own. Imported once by each side, before anything is checked.
setLocale({
  mixed: {
    required: 'This is missing.',
    defined: 'This is missing.',
    notNull: 'This is missing.',
    notType: ({ type }) => `This has to be a ${type === 'object' ? 'set of named values' : type}.`,
    oneOf: 'This is none of the choices there are.',
  },
  string: { max: ({ max }) => `This holds ${max} characters at most.` },
})
