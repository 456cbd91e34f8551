import type { Faults } from '@calm/contract'
import { api, type Endpoint, type ParamsOf } from '@calm/contract/api'
import { applyChanges, type Change } from '@calm/core/changes'
import { rowKinds, type Job } from '@calm/core/job'
import { useMutation, useQuery, useQueryClient, type QueryClient } from '@tanstack/react-query'
import { call, thisPage } from './client'

const jobKey = (jobId: string) => ['job', jobId]

export const useJobs = () => useQuery({ queryKey: ['jobs'], queryFn: () => call(api.jobs, {}) })

export const useJob = (jobId: string) => useQuery({ queryKey: jobKey(jobId), queryFn: () => call(api.job, { jobId }) })

export const useLaptop = () =>
  useQuery({
    queryKey: ['laptop'],
    queryFn: () => call(api.laptop, {}),
    refetchInterval: 5_000,
  })

export const useMe = () => useQuery({ queryKey: ['me'], queryFn: () => call(api.me, {}), staleTime: Infinity })

export const useJobLog = (jobId: string) =>
  useQuery({ queryKey: [...jobKey(jobId), 'log'], queryFn: () => call(api.log, { jobId }) })

export const useFromFile = (jobId: string) =>
  useQuery({ queryKey: [...jobKey(jobId), 'from-file'], queryFn: () => call(api.fromFile, { jobId }) })

export const useRecord = (jobId: string) =>
  useQuery({
    queryKey: [...jobKey(jobId), 'record'],
    queryFn: () => call(api.record, { jobId }),
  })

export const useBench = () =>
  useQuery({
    queryKey: ['bench'],
    queryFn: () => call(api.bench, {}),
    refetchInterval: 1_000,
  })

export function useSetFaults() {
  const client = useQueryClient()
  return useMutation({
    mutationFn: ({ tag, faults }: { tag: string; faults: Faults }) => call(api.setFaults, { tag }, faults),
    onSuccess: (list) => client.setQueryData(['bench'], list),
  })
}

/** What an act is about, and what is said of it. */
interface Act<P extends string, B> {
  readonly params: ParamsOf<P>
  readonly body?: B
}

/** Something that is done to a job and is no change of its rows: evidence, decisions, forced values. */
export function useAct<P extends string, B, A>(jobId: string, endpoint: Endpoint<P, B, A>) {
  const client = useQueryClient()
  return useMutation({
    mutationFn: ({ params, body }: Act<P, B>) => call(endpoint, params, body),
    onSettled: () => refreshJob(client, jobId),
  })
}

/**
 * Sends changes of rows. What comes of them stands on the screen at once, by the function by which the server computes
 * it too, and is taken back when the server refuses.
 */
export function useSendChanges(jobId: string) {
  const client = useQueryClient()
  return useMutation({
    mutationFn: (changes: readonly Change[]) =>
      call(api.change, { jobId }, { changes }, changes.every(isForeseen) ? { 'x-page': thisPage } : {}),
    onMutate: async (changes) => {
      // News of somebody else that was on its way is fetched afterwards.
      const interrupted = client.isFetching({ queryKey: jobKey(jobId), exact: true }) > 0
      await client.cancelQueries({ queryKey: jobKey(jobId), exact: true })
      const before = client.getQueryData<Job>(jobKey(jobId))
      if (before) client.setQueryData(jobKey(jobId), applyChanges(before, changes, { who: '', at: Date.now() }))
      return { before, interrupted }
    },
    onError: (_reason, _changes, context) => {
      if (context?.before) client.setQueryData(jobKey(jobId), context.before)
    },
    // What was foreseen is on the screen already; the rest is fetched before the change counts as done.
    onSettled: (_answer, reason, changes, context) => {
      if (reason) return refreshJob(client, jobId)
      if (changes.every(isForeseen) && !context?.interrupted)
        return client.invalidateQueries({ queryKey: [...jobKey(jobId), 'log'] })
      return refreshJobSoon(client, jobId)
    },
  })
}

/**
 * Whether the page knows all that comes of a change. A row that is brought back, and who said something when: the server
 * alone knows these.
 */
const isForeseen = ({ op, table }: Change): boolean => op !== 'restore' && !rowKinds[table].stamped

export function refreshJob(client: QueryClient, jobId: string) {
  return client.invalidateQueries({ queryKey: jobKey(jobId) })
}

const waiting = new Map<string, ReturnType<typeof setTimeout>>()
const SOON_MS = 400

/** Fetches the job after a moment of quiet: our own change and the news of it come one after the other. */
export function refreshJobSoon(client: QueryClient, jobId: string): void {
  clearTimeout(waiting.get(jobId))
  waiting.set(
    jobId,
    setTimeout(() => {
      waiting.delete(jobId)
      void refreshJob(client, jobId)
    }, SOON_MS),
  )
}
