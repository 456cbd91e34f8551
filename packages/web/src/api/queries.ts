import type { Faults, LaptopInterface, Me, StandInView } from '@calm/contract'
import type { AsLeftRecord } from '@calm/core/handOver'
import type { Job } from '@calm/core/job'
import { useMutation, useQuery, useQueryClient, type QueryClient } from '@tanstack/react-query'
import { request, thisPage } from './client'

export interface JobSummary {
  readonly id: string
  readonly name: string
  readonly place: string
  readonly mode: Job['mode']
  readonly deviceCount: number
  readonly handshakeCount: number
  readonly provenCount: number
  readonly neededCount: number
}

export interface JobLog {
  readonly entries: readonly { sequence: number; at: number; who: string; what: string; hash: string }[]
  readonly whole: boolean
  readonly brokenAt: number | null
  readonly notes: readonly string[]
}

const jobKey = (jobId: string) => ['job', jobId]

export const useJobs = () =>
  useQuery({ queryKey: ['jobs'], queryFn: () => request<readonly JobSummary[]>('GET', '/jobs') })

export const useJob = (jobId: string) =>
  useQuery({ queryKey: jobKey(jobId), queryFn: () => request<Job>('GET', `/jobs/${jobId}`) })

export const useLaptop = () =>
  useQuery({
    queryKey: ['laptop'],
    queryFn: () => request<readonly LaptopInterface[]>('GET', '/laptop'),
    refetchInterval: 5_000,
  })

export const useMe = () => useQuery({ queryKey: ['me'], queryFn: () => request<Me>('GET', '/me'), staleTime: Infinity })

export const useJobLog = (jobId: string) =>
  useQuery({ queryKey: [...jobKey(jobId), 'log'], queryFn: () => request<JobLog>('GET', `/jobs/${jobId}/log`) })

export const useRecord = (jobId: string) =>
  useQuery({
    queryKey: [...jobKey(jobId), 'record'],
    queryFn: () => request<AsLeftRecord>('GET', `/jobs/${jobId}/record`),
  })

export const useBench = () =>
  useQuery({
    queryKey: ['bench'],
    queryFn: () => request<readonly StandInView[]>('GET', '/bench'),
    refetchInterval: 1_000,
  })

export function useSetFaults() {
  const client = useQueryClient()
  return useMutation({
    mutationFn: ({ tag, faults }: { tag: string; faults: Faults }) =>
      request<readonly StandInView[]>('PUT', `/bench/${encodeURIComponent(tag)}`, faults),
    onSuccess: (list) => client.setQueryData(['bench'], list),
  })
}

/** One change of a job: how it is sent, and what it makes of the job at once, before the server has answered. */
export interface JobChange {
  readonly method: 'POST' | 'PATCH' | 'PUT' | 'DELETE'
  readonly path: string
  readonly body?: unknown
  readonly foresee?: (job: Job) => Job
  /** Nothing comes of it but what was foreseen, so the job need not be fetched again. */
  readonly isWhole?: boolean
}

/** Sends changes of a job. What was foreseen is taken back when the server refuses. */
export function useJobChange(jobId: string) {
  const client = useQueryClient()
  return useMutation({
    mutationFn: ({ method, path, body, isWhole }: JobChange) =>
      request<{ id?: string } | undefined>(method, path, body, isWhole ? { 'x-page': thisPage } : {}),
    onMutate: async ({ foresee }) => {
      if (!foresee) return {}
      // News of somebody else that was on its way is fetched afterwards.
      const interrupted = client.isFetching({ queryKey: jobKey(jobId), exact: true }) > 0
      await client.cancelQueries({ queryKey: jobKey(jobId), exact: true })
      const before = client.getQueryData<Job>(jobKey(jobId))
      if (before) client.setQueryData(jobKey(jobId), foresee(before))
      return { before, interrupted }
    },
    onError: (_reason, _change, context) => {
      if (context?.before) client.setQueryData(jobKey(jobId), context.before)
    },
    // What was foreseen is on the screen already; the rest is fetched before the change counts as done.
    onSettled: (_answer, reason, { foresee, isWhole }, context) => {
      if (isWhole && !reason && !context?.interrupted)
        return client.invalidateQueries({ queryKey: [...jobKey(jobId), 'log'] })
      return foresee && !reason ? refreshJobSoon(client, jobId) : refreshJob(client, jobId)
    },
  })
}

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
