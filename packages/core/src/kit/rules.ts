import { versionFits } from '../identity'
import { settingOf, type Device, type Job } from '../job'
import { kindFacts } from '../kind'
import { breakerOf, runOfDevice, type WalkRecord } from '../procedure'

/** Where in the bag it belongs. */
export const kitParts = {
  leads: 'Leads and adapters',
  safety: 'For safe work',
  files: 'Files and tools',
  papers: 'Codes and papers',
} as const
export type KitPart = keyof typeof kitParts

/** Something to take along, and for whom. */
export interface KitNeed {
  readonly what: string
  /** Tags, breakers or lines that it is for; blank where it is for all. */
  readonly whom: readonly string[]
}

/** What is looked at to know what to take. */
export interface KitAbout {
  readonly job: Job
  readonly record: WalkRecord
  /** Devices that are walked. */
  readonly devices: readonly Device[]
}

export interface KitRule {
  readonly id: string
  readonly part: KitPart
  readonly needs: (about: KitAbout) => readonly KitNeed[]
}

const tagsOf = (devices: readonly Device[]) => devices.map(({ tag }) => tag)

/** One need for the devices that something holds for; none where it holds for none. */
const forThose =
  (what: string, holds: (device: Device, about: KitAbout) => boolean) =>
  (about: KitAbout): readonly KitNeed[] => {
    const those = about.devices.filter((device) => holds(device, about))
    return those.length > 0 ? [{ what, whom: tagsOf(those) }] : []
  }

/** Devices by what is said of each; in the order in which it is said first. */
function grouped(about: KitAbout, saysOf: (device: Device) => readonly string[]): readonly KitNeed[] {
  const groups = new Map<string, string[]>()
  for (const device of about.devices)
    for (const what of new Set(saysOf(device))) groups.set(what, [...(groups.get(what) ?? []), device.tag])
  return [...groups].map(([what, whom]) => ({ what, whom }))
}

const stepsOf = ({ job, record }: KitAbout, device: Device) => runOfDevice(job, record, device)?.steps ?? []
const wayOf = ({ job }: KitAbout, device: Device) => settingOf(job, device).way

/** Adapters by the medium of a line. @source common practice, no source */
const lineAdapters: Readonly<Record<string, string>> = {
  'rs-232': 'Serial adapter RS-232, with a straight and a crossed lead',
  'rs-422': 'Serial adapter RS-422, four wires',
  'rs-485-two-wire': 'Serial adapter RS-485, two wires and common; two terminators of 120 ohms',
  'rs-485-four-wire': 'Serial adapter RS-485, four wires; two terminators of 120 ohms',
  'token-bus': 'Terminators and a tee of the token bus',
  'field-bus': 'Terminators and a plug of the field bus',
}

/**
 * What to take along, by what asks for it. A rule says what it is sure of from the job; a size or a voltage that no plan
 * has is said to be as marked, never guessed.
 *
 * @source common practice, no source
 */
export const kitRules: readonly KitRule[] = [
  {
    id: 'network-leads',
    part: 'leads',
    needs: ({ devices }) => {
      const wired = devices.filter((device) => device.ports.length > 0)
      return wired.length === 0
        ? []
        : [
            { what: 'Two network leads: laptop to switch, and straight into a device', whom: [] },
            { what: 'A second wired adapter for the laptop, or a small switch', whom: [] },
          ]
    },
  },
  {
    id: 'service-leads',
    part: 'leads',
    needs: (about) =>
      grouped(about, (device) =>
        kindFacts(device.kind, about.job.kinds)
          .sockets.filter(({ use }) => /to the laptop/i.test(use))
          .map(({ name, use }) => `Lead for the "${name}" socket: ${use}`),
      ),
  },
  {
    id: 'serial-menu-lead',
    part: 'leads',
    needs: (about) =>
      grouped(about, (device) =>
        wayOf(about, device) === 'serial-menu'
          ? kindFacts(device.kind, about.job.kinds)
              .sockets.filter(({ use }) => /serial/i.test(use))
              .map(({ name, use }) => `The serial lead that belongs to it, for "${name}": ${use}; a serial adapter`)
          : [],
      ),
  },
  {
    id: 'line-adapters',
    part: 'leads',
    needs: ({ job, devices }) => {
      const used = job.lines.filter((line) =>
        devices.some((device) => device.nodes.some(({ lineId }) => lineId === line.id)),
      )
      const whats = [...new Set(used.flatMap(({ medium }) => lineAdapters[medium] ?? []))]
      return whats.map((what) => ({
        what,
        whom: used.filter(({ medium }) => lineAdapters[medium] === what).map(({ name }) => name),
      }))
    },
  },
  {
    id: 'supply-adapter',
    part: 'leads',
    needs: forThose('Supply or adapter as marked on the device: its voltage and its plug', (device, { job }) =>
      kindFacts(device.kind, job.kinds).beforePower.some((text) => /supply/i.test(text) && /marked/i.test(text)),
    ),
  },
  {
    id: 'phone',
    part: 'leads',
    needs: forThose('A phone with its app, charged', (device, about) => wayOf(about, device) === 'phone-app'),
  },
  {
    id: 'lock-out',
    part: 'safety',
    needs: ({ job, devices }) => {
      const breakers = [...new Set(devices.map((device) => breakerOf(job, device)))]
      return breakers.length === 0
        ? []
        : [
            {
              what: 'Padlock and tag for each breaker; a voltage tester that was proved on a live source',
              whom: breakers,
            },
          ]
    },
  },
  {
    id: 'transformers',
    part: 'safety',
    needs: forThose('Shorting links for current transformers', (device, about) =>
      [...kindFacts(device.kind, about.job.kinds).beforePower, ...stepsOf(about, device).map(({ say }) => say)].some(
        (text) => /current.transformer/i.test(text),
      ),
    ),
  },
  {
    id: 'screwdrivers',
    part: 'safety',
    needs: forThose('Screwdriver for switches; the label of each, or a photograph', (device, about) =>
      ['rotary-switch', 'dip-switch'].includes(wayOf(about, device)),
    ),
  },
  {
    id: 'description-files',
    part: 'files',
    needs: (about) =>
      grouped(about, (device) =>
        stepsOf(about, device).some(({ id }) => id === 'description-file')
          ? ['Description file, in the revision of the programming tool']
          : [],
      ),
  },
  {
    id: 'programs',
    part: 'files',
    needs: (about) =>
      grouped(about, (device) =>
        kindFacts(device.kind, about.job.kinds).role === 'controller'
          ? ['Project of the controller, and the programming tool in its version']
          : [],
      ),
  },
  {
    id: 'firmware',
    part: 'files',
    needs: (about) =>
      grouped(about, (device) =>
        device.firmwareNeeded !== '' && !fits(device)
          ? [
              `Firmware ${device.firmwareNeeded}${device.firmwareFound === '' ? '' : `; it has ${device.firmwareFound}`}`,
            ]
          : [],
      ),
  },
  {
    id: 'tools',
    part: 'files',
    needs: forThose(
      'Discovery tool of its maker, on the laptop',
      (device, about) => wayOf(about, device) === 'discovery-tool',
    ),
  },
  {
    id: 'backups',
    part: 'files',
    needs: forThose('Room for backups in two places', (device, about) =>
      stepsOf(about, device).some(({ record }) => record === 'backup'),
    ),
  },
  {
    id: 'unit-codes',
    part: 'papers',
    needs: forThose('Code of the unit, from its rear label', (device, about) =>
      stepsOf(about, device).some(({ record }) => record === 'unit-code'),
    ),
  },
  {
    id: 'reservations',
    part: 'papers',
    needs: forThose(
      'Answer of the network owner: its reservation',
      (device, about) => wayOf(about, device) === 'dhcp-reservation',
    ),
  },
  {
    id: 'manuals',
    part: 'papers',
    needs: (about) => grouped(about, (device) => [`Manual: ${kindFacts(device.kind, about.job.kinds).name}`]),
  },
]

/** What it has is what is asked for, by its relation; a firmware that nobody read yet is taken along. */
const fits = ({ firmwareFound, firmwareRelation, firmwareNeeded }: Device): boolean =>
  firmwareFound !== '' &&
  (firmwareFound === firmwareNeeded ||
    (firmwareRelation !== 'any' && versionFits(firmwareFound, firmwareRelation, firmwareNeeded)))
