import 'reflect-metadata'
import { randomUUID } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { gzipSync } from 'node:zlib'
import { checkPlan, formatIpv4, ipv4, ipv4FromBits, parseSubnet, type Plan } from '@calm/core/address'
import { addressPlanOf, type Job } from '@calm/core/job'
import { checkLineUp, matchColumns, readDeviceRows, tableChanges } from '@calm/core/lineUp'
import { crc16, decodeTcpResponse, encodeTcpFrame, protocolAddress, tcpUnit } from '@calm/core/modbus'
import { openDatabase } from '../packages/server/src/db'
import { largeJob, weirLane } from '../packages/server/src/demo'
import { applyChangeList, Store, writeNewJob } from '../packages/server/src/store'
import { middle, type Line } from './measured'
import { editing } from './measureEdit'
import { pointTable } from './measurePoints'
import { refreshOfPoints, rtuRead, tcpRead } from './measureLive'
import { firstContact, orders } from './measureOrder'
import { dataPath } from './measurePath'
import { terms } from './measureTerms'

const root = dirname(dirname(fileURLToPath(import.meta.url)))

/** A plan of many devices in /16 networks, with a share of each kind of mistake. */
function largePlan(count: number): Plan {
  const subnet = parseSubnet('10.20.0.0/16')
  if (!subnet.ok) throw new Error(subnet.refusal.what)
  return {
    laptop: [],
    networks: [
      {
        id: 'n',
        name: 'plant',
        subnet: subnet.value,
        gateway: ipv4('10.20.0.1'),
        dhcp: [{ first: ipv4('10.20.200.0'), last: ipv4('10.20.210.255') }],
        reserved: [],
      },
    ],
    ports: Array.from({ length: count }, (_, k) => ({
      id: `p${k}`,
      tag: `D-${k}`,
      networkId: 'n',
      // One in fifty is a duplicate, one in ninety is in the DHCP range, one in a hundred and thirty is mistyped.
      address:
        k % 130 === 7
          ? ipv4('11.20.3.4')
          : k % 90 === 5
            ? ipv4FromBits(0x0a14c800 + k)
            : ipv4FromBits(0x0a140100 + (k % 50 === 3 ? k - 1 : k)),
      gateway: k % 40 === 9 ? undefined : ipv4('10.20.0.1'),
      proven: false,
    })),
  }
}

function findings(): readonly Line[] {
  const plan = largePlan(2000)
  const found = checkPlan(plan).length
  const scratch = middle(15, () => checkPlan(plan))
  const edited: Plan = {
    ...plan,
    ports: plan.ports.map((port, k) => (k === 1000 ? { ...port, address: ipv4('10.20.7.7') } : port)),
  }
  return [
    {
      work: `findings of 2 000 devices, from scratch (${found} found)`,
      measured: `${scratch.toFixed(1)} ms`,
      target: 'under 300 ms',
    },
    {
      work: 'findings of 2 000 devices, after one edit',
      measured: `${middle(15, () => checkPlan(edited)).toFixed(1)} ms`,
      target: 'under 30 ms',
    },
  ]
}

/** The large sample job as a whole: addresses, nodes, devices; and a table of 5 000 rows taken into a job. */
async function lineUp(): Promise<readonly Line[]> {
  const job = largeJob()
  const plan = addressPlanOf(job, [])
  const edited = (k: number): Job => ({
    ...job,
    devices: job.devices.map((device, n) => (n === k ? { ...device, what: `edited ${k}` } : device)),
  })
  const rows = [
    ['Tag', 'Description', 'IP', 'Unit', 'Kind', 'Place'],
    ...Array.from({ length: 5_000 }, (_, k) => [
      `X-${k}`,
      `Device ${k}`,
      `10.60.${Math.floor(k / 250) + 10}.${(k % 250) + 2}`,
      '1',
      'Energy meter',
      `panel ${k % 40}`,
    ]),
  ]
  const empty = { ...weirLane(), networks: job.networks }
  const { match, hasHead } = matchColumns(rows)
  const readings = readDeviceRows(rows, match, hasHead, empty)
  const reading = middle(5, () => readDeviceRows(rows, match, hasHead, empty))
  const changes = tableChanges(readings, empty, null, randomUUID)
  const store = new Store(await openDatabase(':memory:'), Date.now)
  const jobId = await store.write('bench', (tx) => writeNewJob(tx, { ...empty, devices: [] }, 'begun'))
  const start = performance.now()
  await store.write('bench', (tx) =>
    applyChangeList(
      tx,
      jobId,
      changes.map((change) =>
        change.op === 'add'
          ? { ...change, fields: { ...change.fields, ...(change.table === 'port' && { networkId: null }) } }
          : change,
      ),
    ),
  )
  const written = performance.now() - start
  await store.source.destroy()
  let k = 0
  return [
    {
      work: `all findings of the large job, from scratch (${checkLineUp(job, plan).length} found)`,
      measured: `${middle(15, () => checkLineUp(job, plan)).toFixed(1)} ms`,
      target: 'under 300 ms',
    },
    {
      work: 'the same after one edit, with the plan made again',
      measured: `${middle(15, () => {
        const next = edited((k += 1))
        return checkLineUp(next, addressPlanOf(next, []))
      }).toFixed(1)} ms`,
      target: 'under 30 ms',
    },
    { work: 'table of 5 000 rows, read and judged cell by cell', measured: `${reading.toFixed(0)} ms`, target: '-' },
    {
      work: 'the same 5 000 devices and ports written in one transaction',
      measured: `${written.toFixed(0)} ms`,
      target: '-',
    },
  ]
}

function codec(): readonly Line[] {
  const sent = {
    transaction: 7,
    unit: tcpUnit(1),
    request: { code: 3 as const, address: protocolAddress(0), count: 125 },
  }
  const answer = encodeTcpFrame(7, 1, Uint8Array.from([3, 250, ...new Array(250).fill(0x5a)]))
  const each = middle(9, () => {
    for (let k = 0; k < 2000; k += 1) decodeTcpResponse(sent, answer)
  })
  const bytes = new Uint8Array(1 << 20)
  return [
    {
      work: 'one answer of 125 registers judged and decoded',
      measured: `${((each / 2000) * 1000).toFixed(1)} us`,
      target: '-',
    },
    { work: 'CRC over 1 MB', measured: `${middle(9, () => crc16(bytes)).toFixed(1)} ms`, target: '-' },
  ]
}

interface Chunk {
  readonly file: string
  readonly imports?: readonly string[]
  readonly isEntry?: boolean
}

/** What the browser fetches before the first page stands, and before the line-up stands. */
function pageSize(): readonly Line[] {
  const web = join(root, 'dist', 'web')
  const manifest: Readonly<Record<string, Chunk>> = JSON.parse(
    readFileSync(join(web, '.vite', 'manifest.json'), 'utf8'),
  )
  const collect = (key: string, into: Set<string>) => {
    const chunk = manifest[key]
    if (!chunk || into.has(chunk.file)) return into
    into.add(chunk.file)
    for (const next of chunk.imports ?? []) collect(next, into)
    return into
  }
  const size = (...routes: readonly string[]) => {
    const files = new Set<string>()
    for (const key of Object.keys(manifest)) if (manifest[key]?.isEntry || routes.includes(key)) collect(key, files)
    const bytes = [...files].reduce(
      (sum, file) => sum + gzipSync(readFileSync(join(web, file)), { level: 9 }).length,
      0,
    )
    return `${(bytes / 1000).toFixed(0)} kB`
  }
  return [
    {
      work: 'compressed JavaScript of the first route',
      measured: size('src/features/start/index.ts'),
      target: 'under 250 kB',
    },
    {
      work: 'compressed JavaScript when first contact is opened first',
      measured: size('src/features/firstContact/index.ts'),
      target: 'under 250 kB',
    },
    {
      work: 'compressed JavaScript when the line-up is opened first',
      measured: size('src/features/lineUp/index.ts'),
      target: 'under 250 kB',
    },
  ]
}

const lines = [
  ...findings(),
  ...orders(),
  ...terms(),
  ...dataPath(),
  ...(await lineUp()),
  ...codec(),
  ...(await tcpRead()),
  ...(await refreshOfPoints()),
  ...(await rtuRead()),
  ...(await editing()),
  ...(await pointTable()),
  ...(await firstContact()),
  ...pageSize(),
]
const widths = [
  Math.max(...lines.map((line) => line.work.length)),
  Math.max(...lines.map((line) => line.measured.length)),
]
console.log(
  `Node ${process.versions.node}, ${process.platform} ${process.arch}, bench address ${formatIpv4(ipv4('127.20.40.50'))}`,
)
for (const line of lines)
  console.log(`${line.work.padEnd(widths[0] ?? 0)}  ${line.measured.padStart(widths[1] ?? 0)}  ${line.target}`)
process.exit(0)
