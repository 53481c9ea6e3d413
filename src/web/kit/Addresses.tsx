import { Button } from './Button.tsx'
import { toast } from './toast.ts'

/** A mail link to several people (RFC 6068). */
export function mailToAll(people: readonly { email: string }[], subject: string): string {
  const to = people.map(({ email }) => encodeURIComponent(email)).join(',')
  return `mailto:${to}?subject=${encodeURIComponent(subject)}`
}

/** Puts a text into the clipboard, and says so, or what to do otherwise. */
export async function copied(text: string, said: string, otherwise: string): Promise<void> {
  try {
    await navigator.clipboard.writeText(text)
    toast.success(said)
  } catch {
    toast.error(`The browser did not let it be copied. ${otherwise}`)
  }
}

/** Copies the addresses of several people, for whatever they are needed in. */
export function CopyAddresses({ people }: { people: readonly { email: string }[] }) {
  const copy = () =>
    copied(
      people.map(({ email }) => email).join(', '),
      'The addresses of your group mates are copied.',
      'Use “Mail to all” instead.',
    )
  return (
    <Button size="touch" onClick={() => void copy()}>
      Copy addresses
    </Button>
  )
}
