import { kindFacts } from '@calm/core/kind'
import { settingOf, type Job } from '@calm/core/job'
import { isSettled, isTypeable, type WalkStep } from '@calm/core/procedure'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useMemo, useState } from 'react'
import { api } from '@calm/contract/api'
import { call, ProblemError, useFronts } from '../../../api'
import { Button, Choice, Field, Problems } from '../../../ui'
import type { ViewProps } from '../viewProps'
import { NextToType } from './nextToType'
import { useConsole, type MenuMessage } from './useConsole'

const USUAL_LINE = '9600 8N1'

/** A console in the page: serial port or TCP, with what is to be typed next beside it. */
export function ConsoleView({ job, contact, acts }: ViewProps) {
  const { choices, isReady } = useWays(job)
  const ports = usePorts()
  const [chosen, setChosen] = useState<string | undefined>(undefined)
  const choice = chosen ?? choices[0]?.value ?? 'typed'
  const [typed, setTyped] = useState('')
  const [typedLine, setLine] = useState<string | undefined>(undefined)
  const step = nextStep(job, contact.stops, choice)
  const device = job.devices.find((each) => each.id === step?.deviceId)
  const line = typedLine ?? ((device && kindFacts(device.kind, job.kinds).menu?.line) || USUAL_LINE)
  const via = choice === 'typed' ? viaOf(typed, line) : choice.startsWith('serial:') ? `${choice}:${line}` : choice
  const [sent, setSent] = useState(0)
  useEffect(() => setSent(0), [step?.key])

  const sendByHand = (index: number) => {
    const text = step?.step.type?.[index]
    if (text === undefined || !isTypeable(text)) return
    session.type(`${text}\r`)
    setSent(index + 1)
  }
  // What the menu said settles the step: nobody ticks what the program saw.
  const onMenu = (message: MenuMessage) => {
    if (message.state !== 'done' || step?.key !== message.stepKey) return
    const settle =
      step.step.kind === 'check'
        ? acts.check(step.key)
        : acts.settle({
            stepKey: step.key,
            state: 'done',
            note: message.said,
            seen: step.record?.version ?? 0,
          })
    void Promise.resolve(settle).catch(() => undefined)
  }
  const session = useConsole({
    jobId: job.id,
    via,
    deviceId: step?.deviceId ?? '',
    onNext: () => (step?.menu ? session.doStep(step.key) : sendByHand(sent)),
    onMenu,
  })
  return (
    <div className="flex min-h-0 flex-1 flex-col overflow-y-auto px-6 pt-4 pb-8">
      <div className="my-2 flex flex-wrap items-end gap-x-4.5 gap-y-3">
        <Choice label="Console over" value={choice} choices={choices} onChange={setChosen} />
        {choice === 'typed' && <Field label="Port or address:port" value={typed} typed onChange={setTyped} />}
        {!choice.startsWith('bench:') && <Field label="Line" value={line} typed onChange={setLine} />}
        {session.open ? (
          <Button onClick={session.close}>Close and keep the text</Button>
        ) : (
          <Button look="act" disabled={!isReady || (choice === 'typed' && typed.trim() === '')} onClick={session.begin}>
            Open
          </Button>
        )}
      </div>
      {ports.data?.note && <p className="note">{ports.data.note}</p>}
      {session.problem && <Problems reason={new ProblemError(422, [session.problem])} />}
      {step && <Problems reason={acts.of(step.key).problem} />}
      <div className="grid min-h-80 flex-1 grid-cols-[minmax(0,1fr)_340px] gap-6 max-phone:grid-cols-1">
        <div
          ref={session.box}
          className="min-h-80 overflow-hidden rounded-sm border border-rule-strong bg-well p-2"
          aria-label="Console"
        />
        <NextToType session={session} step={step} sent={sent} onSend={sendByHand} />
      </div>
    </div>
  )
}

const usePorts = () => useQuery({ queryKey: ['serial-ports'], queryFn: () => call(api.serialPorts, {}) })

/** Ways to a console: the serial sockets of the bench, the ports of this laptop, or what is typed. */
function useWays(job: Job) {
  const fronts = useFronts(job.mode === 'bench')
  const ports = usePorts()
  const choices = useMemo(
    () => [
      ...(job.mode === 'bench' ? (fronts.data?.fronts.filter((front) => front.console) ?? []) : []).map((front) => ({
        value: `bench:${front.tag}`,
        label: `serial socket of ${front.tag} (stand-in)`,
      })),
      ...(ports.data?.ports ?? []).map((port) => ({
        value: `serial:${port.path}`,
        label: `${port.path} ${port.about}`,
      })),
      { value: 'typed', label: 'another port or address' },
    ],
    [job.mode, fronts.data, ports.data],
  )
  // Before the lists are there nobody knows which way would be opened.
  return { choices, isReady: !ports.isLoading && !fronts.isLoading }
}

/** What goes over this socket next: the open steps of its device, else of whatever has a serial menu. */
function nextStep(job: Job, stops: ViewProps['contact']['stops'], choice: string): WalkStep | undefined {
  const speaks = (deviceId: string | null) => {
    const device = job.devices.find((each) => each.id === deviceId)
    if (choice.startsWith('bench:')) return device?.tag === choice.slice('bench:'.length)
    return device !== undefined && settingOf(job, device).way === 'serial-menu'
  }
  return stops
    .flatMap((stop) => stop.steps)
    .find((each) => (each.menu ?? each.step.type) && !isSettled(each) && speaks(each.deviceId))
}

/** @example viaOf('10.20.40.61:23', '9600 8N1') is over TCP, '/dev/ttyUSB0' over a serial port */
function viaOf(typed: string, line: string): string {
  const text = typed.trim()
  return /^[\d.]+:\d+$/.test(text) ? `tcp:${text}` : `serial:${text}:${line}`
}
