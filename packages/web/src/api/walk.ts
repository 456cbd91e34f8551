import type { BenchLaptopView, FrontAct, FrontView } from '@calm/contract/live'
import type { StepSettling, StretchSettling } from '@calm/contract/walk'
import type { Cause, LaptopState, OrderSettings, SweepLine, WalkRecord } from '@calm/core/procedure'
import type { BringUpAction } from '@calm/core/sequence'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { request } from './client'
import { refreshJob } from './queries'

export interface CheckAnswer {
  readonly ok: boolean
  readonly say: string
  readonly how: 'read-live' | 'computed'
}

export interface SweepView {
  readonly cidr: string
  readonly looked: number
  readonly total: number
  readonly done: boolean
  readonly milliseconds: number
  readonly packetsPerSecond: number
  readonly lines: readonly SweepLine[]
}

export interface KeepsakeHead {
  readonly id: string
  readonly deviceId: string | null
  readonly kind: string
  readonly title: string
  readonly who: string
  readonly at: number
}

const walkKey = (jobId: string) => ['job', jobId, 'walk']

export const useWalk = (jobId: string) =>
  useQuery({ queryKey: walkKey(jobId), queryFn: () => request<WalkRecord>('GET', `/jobs/${jobId}/walk`) })

export const useLaptopState = (jobId: string) =>
  useQuery({
    queryKey: ['laptop-state', jobId],
    queryFn: () => request<LaptopState>('GET', `/jobs/${jobId}/laptop`),
    refetchInterval: 1_500,
  })

export const useKeepsakes = (jobId: string) =>
  useQuery({
    queryKey: ['job', jobId, 'keepsakes'],
    queryFn: () => request<readonly KeepsakeHead[]>('GET', `/jobs/${jobId}/keepsakes`),
  })

export const useSweep = (jobId: string) =>
  useQuery({
    queryKey: ['sweep', jobId],
    queryFn: () => request<SweepView | null>('GET', `/jobs/${jobId}/sweep`),
    refetchInterval: (query) => (query.state.data && !query.state.data.done ? 300 : false),
  })

/** Everything that changes a walk. Each is sent at once; the walk is fetched again before it counts as done. */
export function useWalkActs(jobId: string) {
  const client = useQueryClient()
  const send = useMutation({
    mutationFn: ({ method, path, body }: { method: 'POST' | 'PUT' | 'DELETE'; path: string; body?: unknown }) =>
      request<unknown>(method, path, body),
    onSettled: () => refreshJob(client, jobId),
  })
  const at = `/jobs/${jobId}`
  return {
    problem: send.error,
    busy: send.isPending,
    forget: send.reset,
    settle: (said: StepSettling) => send.mutateAsync({ method: 'POST', path: `${at}/walk/steps`, body: said }),
    stretch: (said: StretchSettling) => send.mutateAsync({ method: 'POST', path: `${at}/walk/stretch`, body: said }),
    reopen: (stepKey: string) => send.mutateAsync({ method: 'POST', path: `${at}/walk/reopen`, body: { stepKey } }),
    wait: (stepKey: string) => send.mutateAsync({ method: 'POST', path: `${at}/walk/wait`, body: { stepKey } }),
    check: (stepKey: string) =>
      send.mutateAsync({ method: 'POST', path: `${at}/walk/check`, body: { stepKey } }) as Promise<CheckAnswer>,
    saveOrder: (version: number, order: readonly BringUpAction[]) =>
      send.mutateAsync({ method: 'PUT', path: `${at}/walk/order`, body: { version, order } }),
    saveSettings: (version: number, settings: OrderSettings) =>
      send.mutateAsync({ method: 'PUT', path: `${at}/walk/settings`, body: { version, settings } }),
    addFact: (fact: { deviceId: string; setting: string; standing: string; text: string; how: string }) =>
      send.mutateAsync({ method: 'POST', path: `${at}/facts`, body: fact }),
    addTemporary: (what: string, putBack: string) =>
      send.mutateAsync({ method: 'POST', path: `${at}/temporary`, body: { what, putBack } }),
    back: (id: string, version: number) =>
      send.mutateAsync({ method: 'POST', path: `/temporary/${id}/back`, body: { version } }),
    takePicture: (when: 'before' | 'after', notes: readonly string[]) =>
      send.mutateAsync({ method: 'POST', path: `${at}/pictures`, body: { when, notes } }) as Promise<{
        readonly differences: readonly { readonly tag: string; readonly kind: string; readonly say: string }[]
        readonly picture: { readonly devices: readonly { readonly tag: string; readonly answers: boolean | null }[] }
      }>,
    importRuns: (text: string) => send.mutateAsync({ method: 'POST', path: `${at}/runs/import`, body: text }),
    addRun: (facts: unknown) => send.mutateAsync({ method: 'POST', path: `${at}/runs`, body: { facts } }),
    removeRun: (id: string, version: number) =>
      send.mutateAsync({ method: 'DELETE', path: `/runs/${id}`, body: { version } }),
    whyNothing: (address: string, port: number, deviceId: string | null) =>
      request<readonly Cause[]>('POST', `${at}/nothing-answers`, { address, port, deviceId }),
    probe: (address: string, port: number, deviceId: string | null) =>
      request<{ readonly answers: boolean; readonly identities: readonly string[] }>('POST', `${at}/probe`, {
        address,
        port,
        deviceId,
      }),
    units: (deviceId: string, first: number, last: number) =>
      request<readonly { readonly unit: number; readonly identity: string }[]>('POST', `${at}/units`, {
        deviceId,
        first,
        last,
      }),
    sweep: async (cidr: string) => {
      await request('POST', `${at}/sweep`, { cidr })
      await client.invalidateQueries({ queryKey: ['sweep', jobId] })
    },
  }
}

export type WalkActs = ReturnType<typeof useWalkActs>

interface Fronts {
  readonly fronts: readonly FrontView[]
  readonly laptop: BenchLaptopView | null
}

export const useFronts = (often: boolean) =>
  useQuery({
    queryKey: ['fronts'],
    queryFn: () => request<Fronts>('GET', '/bench-fronts'),
    refetchInterval: often ? 500 : false,
  })

export function useFrontActs() {
  const client = useQueryClient()
  const send = useMutation({
    mutationFn: ({ method, path, body }: { method: 'POST' | 'PUT'; path: string; body?: unknown }) =>
      request<Fronts>(method, path, body),
    onSuccess: (fronts) => client.setQueryData(['fronts'], fronts),
  })
  return {
    problem: send.error,
    act: (tag: string, act: FrontAct) =>
      send.mutate({ method: 'POST', path: `/bench-fronts/${encodeURIComponent(tag)}`, body: act }),
    setLaptop: (view: BenchLaptopView) => send.mutate({ method: 'PUT', path: '/bench-laptop', body: view }),
    deliver: () => send.mutate({ method: 'POST', path: '/bench-deliver', body: {} }),
  }
}
