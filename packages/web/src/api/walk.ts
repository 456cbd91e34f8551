import type { BenchLaptopView, FrontAct, FrontView } from '@calm/contract/live'
import type { StepSettling, StretchSettling } from '@calm/contract/walk'
import type { Cause, LaptopState, OrderSettings, SweepLine, WalkRecord } from '@calm/core/procedure'
import type { BringUpAction } from '@calm/core/sequence'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
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

/** How one act stands: still on its way, or refused. */
export interface ActState {
  readonly busy: boolean
  readonly problem: unknown
}

const IDLE: ActState = { busy: false, problem: null }

/**
 * Everything that changes a walk. Each is sent at once; the walk is fetched again before it counts as done. Every act
 * has a state of its own, by what it is about: what went wrong at one step says nothing of the next.
 */
export function useWalkActs(jobId: string) {
  const client = useQueryClient()
  const [states, setStates] = useState<Readonly<Record<string, ActState>>>({})
  const at = `/jobs/${jobId}`
  return useMemo(() => {
    const say = (about: string, state: ActState) => setStates((before) => ({ ...before, [about]: state }))
    const send = async <T = unknown>(
      about: string,
      method: 'POST' | 'PUT' | 'DELETE',
      path: string,
      body?: unknown,
    ): Promise<T> => {
      say(about, { busy: true, problem: null })
      try {
        const answer = await request<T>(method, path, body)
        await refreshJob(client, jobId)
        say(about, IDLE)
        return answer
      } catch (reason) {
        await refreshJob(client, jobId).catch(() => undefined)
        say(about, { busy: false, problem: reason })
        throw reason
      }
    }
    return {
      /** How the act about something stands: a step by its key, else `order`, `facts`, `temporary`, `pictures`, `runs`. */
      of: (about: string): ActState => states[about] ?? IDLE,
      forget: (about: string) => say(about, IDLE),
      settle: (said: StepSettling) => send(said.stepKey, 'POST', `${at}/walk/steps`, said),
      stretch: (said: StretchSettling) => send('stretch', 'POST', `${at}/walk/stretch`, said),
      reopen: (stepKey: string) => send(stepKey, 'POST', `${at}/walk/reopen`, { stepKey }),
      wait: (stepKey: string) => send(stepKey, 'POST', `${at}/walk/wait`, { stepKey }),
      /** @param _talks whether a device is asked by it; looking at the laptop itself asks nobody */
      check: (stepKey: string, _talks = true) => send<CheckAnswer>(stepKey, 'POST', `${at}/walk/check`, { stepKey }),
      saveOrder: (version: number, order: readonly BringUpAction[]) =>
        send('order', 'PUT', `${at}/walk/order`, { version, order }),
      saveSettings: (version: number, settings: OrderSettings) =>
        send('order', 'PUT', `${at}/walk/settings`, { version, settings }),
      addFact: (fact: { deviceId: string; setting: string; standing: string; text: string; how: string }) =>
        send('facts', 'POST', `${at}/facts`, fact),
      addTemporary: (what: string, putBack: string) => send('temporary', 'POST', `${at}/temporary`, { what, putBack }),
      back: (id: string, version: number) => send('temporary', 'POST', `/temporary/${id}/back`, { version }),
      takePicture: (when: 'before' | 'after', notes: readonly string[]) =>
        send<{
          readonly differences: readonly { readonly tag: string; readonly kind: string; readonly say: string }[]
          readonly picture: { readonly devices: readonly { readonly tag: string; readonly answers: boolean | null }[] }
        }>('pictures', 'POST', `${at}/pictures`, { when, notes }),
      importRuns: (text: string) => send('runs', 'POST', `${at}/runs/import`, text),
      addRun: (facts: unknown) => send('runs', 'POST', `${at}/runs`, { facts }),
      removeRun: (id: string, version: number) => send('runs', 'DELETE', `/runs/${id}`, { version }),
      whyNothing: (address: string, port: number, deviceId: string | null) =>
        request<readonly Cause[]>('POST', `${at}/nothing-answers`, { address, port, deviceId }),
      probe: (address: string, port: number, deviceId: string | null) =>
        request<{ readonly answers: boolean; readonly identities: readonly string[] }>('POST', `${at}/probe`, {
          address,
          port,
          deviceId,
        }),
      units: (deviceId: string, first: number, last: number) =>
        request<UnitsFound>('POST', `${at}/units`, { deviceId, first, last }),
      sweep: async (cidr: string) => {
        await request('POST', `${at}/sweep`, { cidr })
        await client.invalidateQueries({ queryKey: ['sweep', jobId] })
      },
    }
  }, [at, client, jobId, states])
}

/** Unit ids behind a gateway that answered, and how far the search came. */
export interface UnitsFound {
  readonly units: readonly { readonly unit: number; readonly identity: string }[]
  readonly askedTo: number
  readonly complete: boolean
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
