import { browserSupportsWebAuthn, startAuthentication, startRegistration } from '@simplewebauthn/browser'
import type { Me } from '../../contract/session.ts'
import {
  addPasskey,
  passkeyToMake,
  passkeyToUse,
  type SignIns,
  signInByPasskey,
} from '../../contract/signIns.ts'
import { call } from '../data/call.ts'

type Asking = Parameters<typeof startAuthentication>[0]['optionsJSON']
type Making = Parameters<typeof startRegistration>[0]['optionsJSON']

/** Whether this browser can use passkeys at this address: one with a name, over TLS or on this machine. */
export function passkeysPossible(): boolean {
  return browserSupportsWebAuthn() && isSecureContext && !/^[\d.]+$|^\[/.test(location.hostname)
}

/** Asks the browser for a passkey and signs in with it. Null where the person thought better of it. */
export async function enterByPasskey(): Promise<Me | null> {
  const optionsJSON = (await call(passkeyToUse, {})) as unknown as Asking
  const response = await startAuthentication({ optionsJSON }).catch(broughtNothing)
  return response && call(signInByPasskey, {}, { response })
}

/** Has the browser make a passkey and keeps its public half. Null where the person thought better of it. */
export async function makePasskey(name: string): Promise<SignIns | null> {
  const optionsJSON = (await call(passkeyToMake, {})) as unknown as Making
  const response = await startRegistration({ optionsJSON }).catch(broughtNothing)
  return response && call(addPasskey, {}, { name, response })
}

/** The browser's question was closed, or nothing was chosen in time: no fault. Anything else is one. */
function broughtNothing(error: unknown): null {
  const { name, cause } = error as { name?: string; cause?: { name?: string } }
  if ([name, cause?.name].some((one) => one === 'NotAllowedError' || one === 'AbortError')) return null
  throw error
}
