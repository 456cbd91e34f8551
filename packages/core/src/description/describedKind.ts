import type { DeviceKindFacts } from '../kind'
import type { TermId } from '../terms'
import type { DeviceDescription } from './description'

const bytes = (count: number | undefined) => (count === undefined || count === 0 ? undefined : `${count} bytes`)

/** What a description says as terms at the device's end; sizes only where they are fixed. */
export function termsOfDescription(described: DeviceDescription): Readonly<Partial<Record<TermId, string>>> {
  const { isModular, inputBytes, outputBytes, configBytes, fastestMs, rates, format } = described
  const [rate] = rates
  const terms: Partial<Record<TermId, string | undefined>> = {
    ...(!isModular && { 'input-size': bytes(inputBytes), 'output-size': bytes(outputBytes) }),
    'config-size': bytes(configBytes),
    'update-interval': format === 'cip' && fastestMs !== undefined && fastestMs > 0 ? `${fastestMs} ms` : undefined,
    'bus-rate': rates.length === 1 && rate !== undefined ? `${rate / 1000} kbit/s` : undefined,
  }
  return Object.fromEntries(Object.entries(terms).filter(([, text]) => text !== undefined)) as Partial<
    Record<TermId, string>
  >
}

/**
 * A kind of the job's own, made of a description file: what the file says becomes limits and defaults; the rest is as
 * at a kind that is like it.
 * @param like the kind whose lamps, sockets and times it takes over
 */
export function kindOfDescription(
  described: DeviceDescription,
  like: DeviceKindFacts,
  id: string,
  name: string,
): DeviceKindFacts {
  const { format, revision, fileRevision, nodes, rates, node } = described
  const family = format === 'can' ? 'decimal-1-127' : format === 'type-3' ? 'decimal-0-125' : undefined
  return {
    ...like,
    id,
    name,
    ...(family && { defaultNode: { family, node: node ?? null, nodeCount: 1, isMaster: false } }),
    terms: { ...like.terms, ...termsOfDescription(described) },
    describedBy: {
      product: `${described.vendor} ${described.product}`.trim().slice(0, 120),
      ...(described.orderCode && { orderCode: described.orderCode.slice(0, 60) }),
      ...(revision && { revision: revision.slice(0, 40) }),
      ...(fileRevision && { fileRevision: fileRevision.slice(0, 40) }),
      ...(nodes && { nodes }),
      rates,
      modules: described.modules.slice(0, 500).map(({ name: module, inputBytes, outputBytes }) => ({
        name: module.slice(0, 80) || '-',
        inputBytes,
        outputBytes,
      })),
    },
  }
}
