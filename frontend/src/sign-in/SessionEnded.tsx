import { Dialog as Radix } from 'radix-ui'
import type { Schemas } from '../api/client'
import type { Person } from '../frame/session'
import { KeysLayer } from '../ui/keys'
import { SignInPage } from './SignInPage'

interface SessionEndedProps {
  session: Schemas['SessionAnswer']
  worker: Person
}

/** Signing in again over the page that one was on, which keeps all that was typed, and any window on it. */
export function SessionEnded({ session, worker }: SessionEndedProps) {
  return (
    <Radix.Root open>
      <Radix.Portal>
        <Radix.Content
          aria-describedby={undefined}
          className="fixed inset-0 z-[100] overflow-auto bg-paper outline-none"
          onEscapeKeyDown={(event) => event.preventDefault()}
          onOpenAutoFocus={(event) => event.preventDefault()}
        >
          <Radix.Title className="sr-only">Your session has ended</Radix.Title>
          <KeysLayer>
            <SignInPage session={session} ended={worker} />
          </KeysLayer>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  )
}
