import { array, object, string } from 'yup'
import { plainRoute, route } from './route.ts'
import type { Me } from './session.ts'

/** Where somebody is signed in, and with what they can sign in. */
export interface SignIns {
  sessions: {
    code: string
    /** In which kind of browser, in words. */
    device: string
    begunAt: string
    /** Within the hour. */
    usedAt: string
    /** The session that asks. */
    here: boolean
  }[]
  passkeys: { code: string; name: string; addedAt: string; usedAt: string | null }[]
  /** False where the server is reached by a bare address, for which browsers make no passkeys. */
  passkeysPossible: boolean
}

/** Base64url text of an authenticator. */
const bytes = string().max(8_000)
const credential = {
  id: bytes.required(),
  rawId: bytes.required(),
  type: string()
    .oneOf(['public-key'] as const)
    .required(),
  authenticatorAttachment: string().max(40),
  clientExtensionResults: object().default({}),
}
const newPasskey = object({
  name: string().trim().required('Give it a name, by which you know it again.').max(80),
  response: object({
    ...credential,
    response: object({
      clientDataJSON: bytes.required(),
      attestationObject: bytes.required(),
      transports: array(string().required().max(40)).max(20),
    }).required(),
  }).required(),
})
const usedPasskey = object({
  response: object({
    ...credential,
    response: object({
      clientDataJSON: bytes.required(),
      authenticatorData: bytes.required(),
      signature: bytes.required(),
      userHandle: bytes,
    }).required(),
  }).required(),
})

/** Where one is signed in, and one's passkeys. */
export const signIns = plainRoute<SignIns>()('GET', '/api/me/sign-ins', 'signed-in')
/** Ends one of one's own sessions; whatever pages are open in it lose their streams. */
export const endSession = plainRoute<SignIns>()('DELETE', '/api/me/sessions/:session', 'signed-in')
/** Ends all of one's own sessions, this one too. */
export const endSessions = plainRoute<null>()('DELETE', '/api/me/sessions', 'signed-in')

/** What the browser needs to make a passkey (PublicKeyCredentialCreationOptionsJSON). */
export const passkeyToMake = plainRoute<Record<string, unknown>>()(
  'POST',
  '/api/me/passkeys/options',
  'signed-in',
)
/** Keeps a passkey that the browser made. */
export const addPasskey = route<SignIns>()('POST', '/api/me/passkeys', 'signed-in', newPasskey)
export const removePasskey = plainRoute<SignIns>()('DELETE', '/api/me/passkeys/:passkey', 'signed-in')

/** What the browser needs to ask for a passkey (PublicKeyCredentialRequestOptionsJSON). The same for everybody. */
export const passkeyToUse = plainRoute<Record<string, unknown>>()(
  'POST',
  '/api/access/passkey/options',
  'anyone',
)
/** Signs in with a passkey and sets the session cookie. */
export const signInByPasskey = route<Me>()('POST', '/api/access/passkey', 'anyone', usedPasskey)
