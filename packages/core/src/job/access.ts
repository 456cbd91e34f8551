/** What the controller does with a point: takes it from the device, or gives it to it. */
export type Access = 'read' | 'write' | 'read-write'

export const accessWords: Readonly<Record<Access, string>> = {
  read: 'device to controller',
  write: 'controller to device',
  'read-write': 'both ways',
}
export const accesses = Object.keys(accessWords) as readonly Access[]
