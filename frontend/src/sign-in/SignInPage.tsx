import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { answered, api, ProblemError, type Schemas } from '../api/client'
import { BrandMark } from '../frame/Brand'
import { type Person, sessionOptions } from '../frame/session'
import { useTheme } from '../frame/useTheme'
import { Button } from '../ui/Button'
import { ProblemNote } from '../ui/ProblemNote'
import { TextField } from '../ui/TextField'

interface SignInPageProps {
  session: Schemas['SessionAnswer']
  /** Whose session ended, where the page that they were on waits behind this one. */
  ended?: Person
}

export function SignInPage({ session, ended }: SignInPageProps) {
  const [code, setCode] = useState(ended?.code ?? '')
  const [password, setPassword] = useState('')
  const [factor, setFactor] = useState('')
  const queries = useQueryClient()
  useTheme()
  useEffect(() => {
    const before = document.title
    document.title = 'Sign in · Cork Post'
    return () => {
      document.title = before
    }
  }, [])
  const signIn = useMutation({
    mutationFn: (body: Schemas['SignIn']) => answered(api.POST('/api/session', { body })),
    onSuccess: (signedIn) => queries.setQueryData(sessionOptions.queryKey, signedIn),
  })
  const asksFactor = signIn.error instanceof ProblemError && signIn.error.status === 401
  return (
    <main className="mx-auto flex min-h-full max-w-3xl flex-col justify-center gap-10 p-8">
      <header className="flex items-end justify-between border-b-3 border-edge pb-3 [border-bottom-style:double]">
        <div>
          <BrandMark />
          <h1 className="mt-6 text-[26px] leading-8 font-semibold">{session.practice}</h1>
          <p className="text-quiet">
            {session.is_demo
              ? 'A practice on made-up books: nothing here is anybody’s.'
              : 'Sign in to review, correct and sign off your clients’ books.'}
          </p>
        </div>
        <Flourish />
      </header>
      {ended && (
        <p role="status" className="border-l-4 border-cork bg-sheet px-3 py-2">
          <strong>{ended.name}, your session has ended</strong>: it ends after thirty minutes
          without a sign of life, and with a sign-out in another window or a new password. What you
          typed is kept on the page behind this one: sign in, and go on. What was not yet posted or
          sent, is not; do it again then.
        </p>
      )}
      <div className="grid gap-12 sm:grid-cols-[280px_1fr]">
        <form
          className="space-y-4"
          onSubmit={(event) => {
            event.preventDefault()
            signIn.mutate({ code, password, factor })
          }}
        >
          <TextField
            label="Your code"
            value={code}
            autoFocus={!ended}
            autoComplete="username"
            autoCapitalize="characters"
            required
            onChange={(event) => setCode(event.target.value)}
          />
          <TextField
            label="Password"
            type="password"
            autoFocus={Boolean(ended)}
            value={password}
            autoComplete="current-password"
            required
            onChange={(event) => setPassword(event.target.value)}
          />
          {(asksFactor || factor) && (
            <TextField
              label="Code of your device, or a recovery code"
              autoComplete="one-time-code"
              autoFocus
              value={factor}
              onChange={(event) => setFactor(event.target.value)}
            />
          )}
          <ProblemNote problem={signIn.error} />
          <Button look="post" type="submit" className="w-full" disabled={signIn.isPending}>
            Sign in
          </Button>
        </form>
        {session.is_demo && (
          <DemoStaff
            staff={session.sign_ins}
            onChoose={(person) => {
              setCode(person.code)
              setPassword(person.password)
              signIn.mutate({ code: person.code, password: person.password, factor: '' })
            }}
          />
        )}
      </div>
    </main>
  )
}

interface DemoStaffProps {
  staff: Schemas['DemoSignIn'][]
  onChoose: (person: Schemas['DemoSignIn']) => void
}

function DemoStaff({ staff, onChoose }: DemoStaffProps) {
  return (
    <section aria-label="Staff of the demo practice">
      <h2 className="mb-1 font-sans font-semibold text-deep">Come in as</h2>
      <ul className="border-t border-edge">
        {staff.map((person) => (
          <li
            key={person.code}
            className="grid grid-cols-[44px_1fr_auto] items-center border-b border-rule py-1.5"
          >
            <span className="font-semibold text-quiet">{person.code}</span>
            <span>
              {person.name}
              <span className="block text-[13px] text-quiet">
                {person.role} · password {person.password}
              </span>
            </span>
            <Button onClick={() => onChoose(person)} aria-label={`Come in as ${person.name}`}>
              Come in
            </Button>
          </li>
        ))}
      </ul>
    </section>
  )
}

/** Three wavy lines and a ring: a cancelled stamp's corner, for looks only. */
function Flourish() {
  return (
    <svg
      aria-hidden="true"
      width="170"
      height="86"
      viewBox="0 0 170 86"
      fill="none"
      strokeWidth="2"
      className="stroke-cork"
    >
      <circle cx="42" cy="43" r="38" />
      <circle cx="42" cy="43" r="25" strokeWidth="1.2" />
      {[22, 34, 46, 58].map((y) => (
        <path key={y} d={`M84 ${y}c9-7 17 7 26 0s17-7 26 0 17 7 30 0`} />
      ))}
    </svg>
  )
}
