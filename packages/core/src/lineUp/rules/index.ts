import { firmware, kindUnknown, orderCode, serialNumberTwice } from './identity'
import { hostNameForm, hostNameTwice, namePlaces } from './names'
import { reservationWithoutMac, settingOutOfReach, unitDiffers } from './setting'
import type { DeviceRule } from './subject'

/** What is looked for at every device, beside its addresses and nodes. */
export const deviceRules: readonly DeviceRule[] = [
  settingOutOfReach,
  reservationWithoutMac,
  unitDiffers,
  orderCode,
  firmware,
  serialNumberTwice,
  hostNameForm,
  hostNameTwice,
  namePlaces,
  kindUnknown,
]

export { relationWords } from './identity'
export { aboutDevice, indexJob } from './subject'
