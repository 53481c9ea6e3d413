import { Button } from './Button.tsx'
import { toast } from './toast.ts'

/** A mail link to several people (RFC 6068). */
export function mailToAll(people: readonly { email: string }[], subject: string): string {
  const to = people.map(({ email }) => encodeURIComponent(email)).join(',')
  return `mailto:${to}?subject=${encodeURIComponent(subject)}`
}

/** Copies the addresses of several people, for whatever they are needed in. */
export function CopyAddresses({ people }: { people: readonly { email: string }[] }) {
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(people.map(({ email }) => email).join(', '))
      toast.success('The addresses of your group mates are copied.')
    } catch {
      toast.error('The browser did not let the addresses be copied. Use “Mail to all” instead.')
    }
  }
  return (
    <Button size="touch" onClick={() => void copy()}>
      Copy addresses
    </Button>
  )
}
