import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { answered, api, type Schemas } from '../api/client'

/** Starts long work as soon as it is shown, once, and follows it until it is done, refused or failed. */
export function useJob(begin: () => Promise<Schemas['JobStarted']>) {
  const queries = useQueryClient()
  const [job, setJob] = useState<string | null>(null)
  const start = useMutation({ mutationFn: begin, onSuccess: (started) => setJob(started.job) })
  const { mutate } = start
  const sent = useRef(false)
  useEffect(() => {
    if (!sent.current) {
      sent.current = true
      mutate()
    }
  }, [mutate])
  const { data: progress } = useQuery({
    queryKey: ['job', job],
    queryFn: () => answered(api.GET('/api/jobs/{job}', { params: { path: { job: job ?? '' } } })),
    enabled: job !== null,
    refetchInterval: (query) =>
      /done|refused|failed/.test(query.state.data?.state ?? '') ? false : 300,
  })
  const isDone = progress?.state === 'done'
  useEffect(() => {
    if (isDone) queries.invalidateQueries({ predicate: (query) => query.queryKey[0] !== 'job' })
  }, [isDone, queries])
  return { progress, problem: start.error }
}
