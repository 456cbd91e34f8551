import type { SeenAt } from '@calm/core/checks'
import type { Device } from '@calm/core/job'
import { applyChangeList } from './changeList'
import { addFact } from './settingFacts'
import type { Tx } from './store'

/**
 * What a device said of itself when it was reached: kept as facts beside plan and label. Its firmware goes into the
 * line-up where nobody has written one down; what somebody wrote is never overwritten.
 */
export async function noteWhatItSays(
  tx: Tx,
  jobId: string,
  device: Device,
  { identities, hardwareAddress }: SeenAt,
): Promise<void> {
  if (identities.length > 1) return
  const fact = (setting: string, text: string) =>
    text === ''
      ? Promise.resolve()
      : addFact(tx, jobId, { deviceId: device.id, setting, standing: 'found', text, how: 'read-live' })
  await fact('heard', hardwareAddress ?? '')
  const [identity] = identities
  if (!identity) return
  await fact('says', identity.text)
  await fact('product-code', identity.productCode)
  await fact('firmware', identity.revision)
  if (device.firmwareFound === '' && identity.revision !== '' && device.firmwareRelation !== 'any')
    await applyChangeList(tx, jobId, [
      {
        op: 'set',
        table: 'device',
        id: device.id,
        version: device.version,
        fields: { firmwareFound: identity.revision },
      },
    ])
}
