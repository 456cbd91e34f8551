import { formatNode, nodeFamily, type BusNode } from '../bus'
import type { Device, Job } from '../job'
import { latestFact, type WalkRecord } from './record'

/** The setting under which the order code is kept that the controller's project has at a slot. */
export const PROJECT_CODE = 'project-code'

/** One slot of a rack: the parts list, the label and the project each have an order code for it; blank where not known. */
export interface RackSlot {
  readonly device: Device
  /** As it is written on the rack; blank where none is planned. */
  readonly slot: string
  readonly planned: string
  readonly found: string
  readonly project: string
}

/** The slots of the backplanes that a device is the head of, or stands in, by their numbers. */
export function rackOf(job: Job, record: WalkRecord, head: Device): readonly RackSlot[] {
  const backplanes = job.lines.filter(
    (line) => line.medium === 'backplane' && head.nodes.some((node) => node.lineId === line.id),
  )
  const slots = backplanes.flatMap((line) =>
    job.devices.flatMap((device) => {
      const node = device.nodes.find((each) => each.lineId === line.id)
      if (!node) return []
      const slot = node.node === null ? '' : formatNode(node.node as BusNode, nodeFamily(line.family))
      const project = latestFact(record, device.id, PROJECT_CODE)?.text ?? ''
      return [
        {
          device,
          slot,
          planned: device.orderCode,
          found: device.orderCodeFound,
          project,
          number: node.node ?? Infinity,
        },
      ]
    }),
  )
  return slots.sort((a, b) => a.number - b.number).map(({ number: _number, ...slot }) => slot)
}

interface RackList {
  readonly codes: readonly { readonly device: Device; readonly code: string }[]
  /** What could not be taken, each with what was found and what is expected. */
  readonly problems: readonly string[]
}

/**
 * Reads a list of modules as a programming tool copies it: the slot and the order code in each line, between tabs,
 * semicolons or commas. A head line without a number is passed over.
 */
export function readRackList(text: string, slots: readonly RackSlot[]): RackList {
  const codes: RackList['codes'][number][] = []
  const problems: string[] = []
  const taken = new Set<string>()
  text.split(/\r?\n/).forEach((line, index) => {
    if (line.trim() === '') return
    const [first = '', ...rest] = line.split(/[\t;,]/).map((cell) => cell.trim())
    const said = `Line ${index + 1}`
    if (!/^\d+$/.test(first)) {
      if (index > 0) problems.push(`${said}: "${first}" is no slot. Expected: a number, then an order code.`)
      return
    }
    const code = rest.find((cell) => cell !== '')
    const slot = slots.find((each) => each.slot !== '' && Number(each.slot) === Number(first))
    if (!slot) problems.push(`${said}: slot ${first} is not planned in this rack.`)
    else if (code === undefined) problems.push(`${said}: slot ${first} has no order code.`)
    else if (taken.has(slot.slot)) problems.push(`${said}: slot ${first} stands in the list twice. The first counts.`)
    else {
      taken.add(slot.slot)
      codes.push({ device: slot.device, code })
    }
  })
  return { codes, problems }
}

/** A stretch of a text, and whether it differs from the one it is held against. */
export interface Marked {
  readonly text: string
  readonly differs: boolean
}

/** An order code cut into what is the same as in another and what differs, letter for letter. */
export function markedAgainst(code: string, other: string): readonly Marked[] {
  const marked: { text: string; differs: boolean }[] = []
  for (let at = 0; at < code.length; at += 1) {
    const letter = code[at] ?? ''
    const differs = other !== '' && letter !== other[at]
    const last = marked.at(-1)
    if (last && last.differs === differs) last.text += letter
    else marked.push({ text: letter, differs })
  }
  return marked
}
