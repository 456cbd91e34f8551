import { api, type Endpoint, type Fronts, type ParamsOf } from '@calm/contract/api'
import type { BenchLaptopView, FrontAct } from '@calm/contract/live'
import type { LabelKept, NewFact, StepSettling, StretchSettling } from '@calm/contract/walk'
import type { OrderSettings, RunFacts } from '@calm/core/procedure'
import type { BringUpAction } from '@calm/core/sequence'
import { useMutation, useQuery, useQueryClient, type QueryClient } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import { call } from './client'
import { refreshJob } from './queries'

const walkKey = (jobId: string) => ['job', jobId, 'walk']

export const useWalk = (jobId: string) =>
  useQuery({ queryKey: walkKey(jobId), queryFn: () => call(api.walk, { jobId }) })

/** Fetches a walk again that went on without a line in the log. */
export const refreshWalk = (client: QueryClient, jobId: string): Promise<void> =>
  client.invalidateQueries({ queryKey: walkKey(jobId) })

export const useLaptopState = (jobId: string) =>
  useQuery({
    queryKey: ['laptop-state', jobId],
    queryFn: () => call(api.laptopState, { jobId }),
    refetchInterval: 1_500,
  })

export const useKeepsakes = (jobId: string) =>
  useQuery({
    queryKey: ['job', jobId, 'keepsakes'],
    queryFn: () => call(api.keepsakes, { jobId }),
  })

export const useSweep = (jobId: string) =>
  useQuery({
    queryKey: ['sweep', jobId],
    queryFn: () => call(api.sweep, { jobId }),
    refetchInterval: (query) => (query.state.data && !query.state.data.done ? 300 : false),
  })

export const useListening = (jobId: string) =>
  useQuery({
    queryKey: ['listening', jobId],
    queryFn: () => call(api.listening, { jobId }),
    refetchInterval: (query) => (query.state.data?.state === 'listening' ? 700 : false),
  })

/** How one act stands: still on its way, or refused. */
interface ActState {
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
  return useMemo(() => {
    const at = { jobId }
    const say = (about: string, state: ActState) => setStates((before) => ({ ...before, [about]: state }))
    const send = async <P extends string, B, A>(
      about: string,
      endpoint: Endpoint<P, B, A>,
      params: ParamsOf<P>,
      body?: B | string,
    ): Promise<A> => {
      say(about, { busy: true, problem: null })
      try {
        const answer = await call(endpoint, params, body)
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
      settle: (said: StepSettling) => send(said.stepKey, api.settleStep, at, said),
      stretch: (said: StretchSettling) => send('stretch', api.settleStretch, at, said),
      reopen: (stepKey: string) => send(stepKey, api.reopenStep, at, { stepKey }),
      wait: (stepKey: string) => send(stepKey, api.beginWait, at, { stepKey }),
      /** @param _talks whether a device is asked by it; looking at the laptop itself asks nobody */
      check: (stepKey: string, _talks = true) => send(stepKey, api.check, at, { stepKey }),
      saveOrder: (version: number, order: readonly BringUpAction[]) =>
        send('order', api.putOrder, at, { version, order }),
      saveSettings: (version: number, settings: OrderSettings) =>
        send('order', api.putSettings, at, { version, settings }),
      addFact: (fact: NewFact) => send('facts', api.addFact, at, fact),
      addTemporary: (what: string, putBack: string) => send('temporary', api.addTemporary, at, { what, putBack }),
      back: (id: string, version: number) => send('temporary', api.putBack, { id }, { version }),
      keepLabel: (kept: LabelKept) => send('label', api.keepLabel, at, kept),
      takePicture: (when: 'before' | 'after', notes: readonly string[], fieldList?: string) =>
        send('pictures', api.takePicture, at, { when, notes, ...(fieldList !== undefined && { fieldList }) }),
      importRuns: (text: string) => send('runs', api.importRuns, at, text),
      addRun: (facts: RunFacts) => send('runs', api.addRun, at, { facts }),
      removeRun: (id: string, version: number) => send('runs', api.removeRun, { id }, { version }),
      whyNothing: (address: string, port: number, deviceId: string | null) =>
        call(api.nothingAnswers, at, { address, port, deviceId }),
      probe: (address: string, port: number, deviceId: string | null) =>
        call(api.probe, at, { address, port, deviceId }),
      units: (deviceId: string, first: number, last: number) => call(api.units, at, { deviceId, first, last }),
      stopSweep: async () => {
        await call(api.stopSweep, at)
        await client.invalidateQueries({ queryKey: ['sweep', jobId] })
      },
      listen: async () => {
        client.setQueryData(['listening', jobId], await call(api.beginListening, at))
      },
      stopListening: async () => {
        await call(api.stopListening, at)
        await client.invalidateQueries({ queryKey: ['listening', jobId] })
      },
      sweep: async (cidr: string) => {
        await call(api.beginSweep, at, { cidr })
        await client.invalidateQueries({ queryKey: ['sweep', jobId] })
      },
    }
  }, [client, jobId, states])
}

export type WalkActs = ReturnType<typeof useWalkActs>

export const useFronts = (often: boolean) =>
  useQuery({
    queryKey: ['fronts'],
    queryFn: () => call(api.fronts, {}),
    refetchInterval: often ? 500 : false,
  })

export function useFrontActs() {
  const client = useQueryClient()
  const send = useMutation({
    mutationFn: (ask: () => Promise<Fronts>) => ask(),
    onSuccess: (fronts) => client.setQueryData(['fronts'], fronts),
  })
  return {
    problem: send.error,
    act: (tag: string, act: FrontAct) => send.mutate(() => call(api.act, { tag }, act)),
    setLaptop: (view: BenchLaptopView) => send.mutate(() => call(api.setBenchLaptop, {}, view)),
    deliver: () => send.mutate(() => call(api.deliver, {}, {})),
  }
}
