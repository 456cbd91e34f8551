import type { Device, Port } from './model'

type WithoutRow<T> = Omit<T, 'id' | 'version'>

/** A device of which nothing is known but its tag and kind; what a person or a file says is laid over it. */
export const blankDevice: Omit<WithoutRow<Device>, 'position' | 'tag' | 'kind' | 'ports' | 'nodes'> = {
  what: '',
  behindId: null,
  unitId: null,
  asFound: '',
  note: '',
  place: '',
  isolation: '',
  orderCode: '',
  orderCodeFound: '',
  serialNumber: '',
  firmwareFound: '',
  firmwareNeeded: '',
  firmwareRelation: 'any',
  firmwareOfId: null,
  hostName: '',
  namePlaces: [],
  setting: null,
  effective: null,
  startUpSeconds: null,
  handsOnSeconds: null,
}

/** A port of which nothing is planned yet. */
export const blankPort: WithoutRow<Port> = {
  name: 'Ethernet',
  networkId: null,
  address: null,
  prefix: null,
  gateway: null,
  tcpPort: 502,
  mac: null,
  school: null,
}
