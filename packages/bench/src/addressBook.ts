import { createServer, type Server } from 'node:net'

/** Where a planned address is served on the bench: 10.20.40.50 on 127.20.40.50, in the first block. */
export function benchHost(plannedAddress: string, block = 0): string {
  const [, second = 0, third = 0, fourth = 0] = plannedAddress.split('.').map(Number)
  return `127.${(second + block) % 256}.${third}.${fourth}`
}

/** How many benches one machine can have at once. */
const BLOCKS = 100
/** Whoever holds this port at the block's own address has the block. */
const CLAIM_PORT = 14_502
/** A loopback address of one block alone. */
export const claimHost = (block: number) => `127.254.${block}.1`

/** A block of loopback addresses that nobody else on this machine serves stand-ins on. */
export interface AddressBlock {
  readonly block: number
  readonly release: () => Promise<void>
}

/**
 * Takes the first block of loopback addresses that is free, so that two benches on one machine never meet: each sees
 * its own stand-ins only. The claim is an open port; it ends with its owner.
 */
export async function claimBlock(): Promise<AddressBlock> {
  for (let block = 0; block < BLOCKS; block += 1) {
    const claim = await listened(claimHost(block))
    if (claim === 'elsewhere') return { block: 0, release: async () => undefined }
    if (claim !== 'taken') return { block, release: () => new Promise((done) => claim.close(() => done())) }
  }
  throw new Error(`All ${BLOCKS} blocks of loopback addresses are taken by other benches.`)
}

/** `elsewhere` where the system has one loopback address only: ports part the benches there. */
function listened(host: string): Promise<Server | 'taken' | 'elsewhere'> {
  const server = createServer((socket) => socket.destroy())
  server.unref()
  return new Promise((done) => {
    server.once('error', (error: NodeJS.ErrnoException) => done(error.code === 'EADDRINUSE' ? 'taken' : 'elsewhere'))
    server.listen(CLAIM_PORT, host, () => done(server))
  })
}
