import type { BringUpAction, BringUpJob } from '../model'

/** Which earlier actions one action has to wait for, and how long after their end. */
export interface Wait {
  /** Index of the earlier action. */
  readonly after: number
  readonly seconds: number
}

/**
 * What each action of an order really waits for. Two actions keep their order when one changes what the other stands
 * on: the same group, the laptop's subnets or cable, an address that both concern. What is put on, or restarts, needs
 * its start-up time before it is set or looked at; whatever does not need it goes on meanwhile.
 */
export function precedenceOf(job: BringUpJob, actions: readonly BringUpAction[]): readonly (readonly Wait[])[] {
  const facts = factsOf(job, actions)
  return actions.map((_, later) => {
    const waits: Wait[] = []
    for (let earlier = 0; earlier < later; earlier += 1) {
      const a = facts[earlier] as Facts
      const b = facts[later] as Facts
      if (!keepOrder(a, b)) continue
      waits.push({ after: earlier, seconds: lagBetween(a, b) })
    }
    return waits
  })
}

interface Facts {
  readonly kind: BringUpAction['kind']
  readonly group: string
  readonly device: string
  readonly usesLaptop: boolean
  readonly movesLaptop: boolean
  /** Addresses in force that come or go by it. */
  readonly concerns: ReadonlySet<number>
  /** Seconds until what it started answers. */
  readonly startUp: ReadonlyMap<string, number>
}

function factsOf(job: BringUpJob, actions: readonly BringUpAction[]): readonly Facts[] {
  const devices = new Map(job.devices.map((device) => [device.id, device]))
  const touched = new Map<string, Set<number>>()
  for (const device of job.devices)
    touched.set(
      device.id,
      new Set([device.target.address as number, ...(device.present ? [device.present.address as number] : [])]),
    )
  for (const action of actions) if (action.kind === 'set') touched.get(action.deviceId)?.add(action.to.address)
  const addressesOf = (ids: readonly string[]) => new Set(ids.flatMap((id) => [...(touched.get(id) ?? [])]))
  return actions.map((action): Facts => {
    const none = {
      usesLaptop: false,
      movesLaptop: false,
      concerns: new Set<number>(),
      startUp: new Map<string, number>(),
    }
    switch (action.kind) {
      case 'laptop':
      case 'cable': {
        const into = action.kind === 'cable' ? action.into : ''
        const concerns = devices.has(into) ? addressesOf([into]) : none.concerns
        return { ...none, kind: action.kind, group: '', device: into, movesLaptop: true, concerns }
      }
      case 'lead-out':
      case 'lead-in':
        return {
          ...none,
          kind: action.kind,
          group: devices.get(action.deviceId)?.groupId ?? '',
          device: action.deviceId,
          concerns: addressesOf([action.deviceId]),
        }
      case 'verify':
      case 'set': {
        const device = devices.get(action.deviceId)
        const set = action.kind === 'set'
        const restarts =
          set && device?.effect === 'self-restart' ? [[action.deviceId, device.startUpSeconds] as const] : []
        return {
          ...none,
          kind: action.kind,
          group: device?.groupId ?? '',
          device: action.deviceId,
          usesLaptop: !set || device?.access === 'over-ip',
          concerns: set && !action.pending ? addressesOf([action.deviceId]) : none.concerns,
          startUp: new Map(restarts),
        }
      }
      default: {
        const members = job.devices.filter((device) => device.groupId === action.groupId)
        return {
          ...none,
          kind: action.kind,
          group: action.groupId,
          device: '',
          concerns: addressesOf(members.map((device) => device.id)),
          startUp: new Map(
            action.kind === 'group-on' ? members.map((device) => [device.id, device.startUpSeconds] as const) : [],
          ),
        }
      }
    }
  })
}

function keepOrder(a: Facts, b: Facts): boolean {
  if (a.movesLaptop && (b.movesLaptop || b.usesLaptop)) return true
  if (b.movesLaptop && a.usesLaptop) return true
  if (a.device !== '' && a.device === b.device) return true
  const power = (facts: Facts) => facts.kind === 'group-on' || facts.kind === 'group-off'
  if (a.group !== '' && a.group === b.group && (power(a) || power(b))) return true
  for (const address of a.concerns) if (b.concerns.has(address)) return true
  return false
}

function lagBetween(a: Facts, b: Facts): number {
  if (b.kind !== 'set' && b.kind !== 'verify') return 0
  return a.startUp.get(b.device) ?? 0
}
