import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api } from '../api/client'
import { BrandMark } from '../frame/Brand'
import { Button } from '../ui/Button'
import { ProblemNote } from '../ui/ProblemNote'
import { TextField } from '../ui/TextField'

/** Coming in for the first time: a password of one's own, set by who is to know it. */
export function InvitationPage({ invitation }: { invitation: string }) {
  const queries = useQueryClient()
  const [password, setPassword] = useState('')
  const params = { path: { invitation } }
  const { data, error } = useQuery({
    queryKey: ['invitation', invitation],
    queryFn: () => answered(api.GET('/api/account/invitations/{invitation}', { params })),
  })
  const accepting = useMutation({
    mutationFn: () =>
      answered(api.POST('/api/account/invitations/{invitation}', { params, body: { password } })),
    onSuccess: async () => {
      await queries.invalidateQueries()
      window.location.assign('/')
    },
  })
  return (
    <main className="mx-auto flex min-h-full max-w-xl flex-col justify-center gap-6 p-8">
      <BrandMark />
      <ProblemNote problem={error} />
      {data && (
        <form
          className="space-y-4"
          onSubmit={(event) => {
            event.preventDefault()
            accepting.mutate()
          }}
        >
          <h1 className="text-[26px] leading-8 font-semibold">{data.practice}</h1>
          <p>
            Welcome, {data.name}. Your code is <strong>{data.code}</strong>. Choose a password that
            only you know.
          </p>
          <input type="hidden" autoComplete="username" value={data.code} />
          <TextField
            label="Password, 12 signs or more"
            type="password"
            autoComplete="new-password"
            autoFocus
            value={password}
            onChange={(event) => setPassword(event.target.value)}
          />
          <ProblemNote problem={accepting.error} />
          <Button look="post" type="submit" disabled={!password || accepting.isPending}>
            Set it, and come in
          </Button>
        </form>
      )}
    </main>
  )
}
