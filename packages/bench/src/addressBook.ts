/** Where a planned address is served on the bench: 10.20.40.50 on 127.20.40.50. */
export function benchHost(plannedAddress: string): string {
  return plannedAddress.replace(/^\d+/, '127')
}
