import type { LineMedium, RequestKind, School } from './model'

/** Electrical kinds of lines, with the family of nodes that is usual on them. */
export const lineMedia: Readonly<
  Record<LineMedium, { readonly name: string; readonly family: string; readonly settings: string }>
> = {
  'rs-485-two-wire': { name: 'RS-485, two-wire', family: 'decimal-1-247', settings: '9600 8N1' },
  'rs-485-four-wire': { name: 'RS-485, four-wire', family: 'decimal-1-247', settings: '9600 8N1' },
  'rs-232': { name: 'RS-232', family: 'decimal-1-247', settings: '9600 8N1' },
  'rs-422': { name: 'RS-422', family: 'decimal-1-247', settings: '9600 8N1' },
  'field-bus': { name: 'Field bus', family: 'decimal-0-125', settings: '500 kbit/s' },
  'motion-bus': { name: 'Motion bus', family: 'decimal-1-64', settings: '100 Mbit/s' },
  'token-bus': { name: 'Token bus', family: 'octal-0-77', settings: '156 kbit/s' },
  backplane: { name: 'Backplane', family: 'decimal-0-63', settings: '' },
}

export interface SchoolFacts {
  readonly name: string
  readonly consequences: readonly string[]
}

/** Two schools on where an address lives, each with what follows from it. @source common practice, no source */
export const schools: Readonly<Record<School, SchoolFacts>> = {
  static: {
    name: 'Static in the device',
    consequences: [
      'Works without any server, and survives one that is lost.',
      'A swapped unit has its factory address until somebody sets it on site.',
      'The plan is the only list: nobody else knows that an address is taken.',
    ],
  },
  'dhcp-reservation': {
    name: 'Reservation by hardware address',
    consequences: [
      'A swapped unit needs no tool, only its hardware address in the server’s list.',
      'Without the server a restarted device has no address.',
      'One list, owned by whoever runs the server; each hardware address must be known.',
    ],
  },
}

/** What is asked of others, with who is usually asked. */
export const requestKinds: Readonly<Record<RequestKind, { readonly name: string; readonly toWhom: string }>> = {
  range: { name: 'Addresses or a range', toWhom: 'network owner' },
  reservation: { name: 'DHCP reservation', toWhom: 'network owner' },
  'grid-setting': { name: 'Grid setting', toWhom: 'grid operator' },
  'order-code': { name: 'Order code', toWhom: 'buyer' },
  other: { name: 'Something else', toWhom: '' },
}
