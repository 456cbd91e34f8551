import { laptopAddresses, parseIpv4 } from '@calm/core/address'
import { type AddressRule, type Job, ladderFor } from '@calm/core/job'
import { kindFacts } from '@calm/core/kind'
import type { Change } from '@calm/core/changes'
import { blockFor, renumber, type Renumbering } from '@calm/core/lineUp'
import { parseWholeNumber } from '@calm/core/units'
import { useMemo, useState } from 'react'
import { useLaptop } from '../../../api'
import {
  Button,
  Choice,
  DataTable,
  Dialog,
  Field,
  fieldLabel,
  formActions,
  formGrid,
  Glyph,
  Problems,
  Scroll,
  type TableColumn,
} from '../../../ui'
import { busiestNetwork } from '../busiestNetwork'
import type { LineUp } from '../useLineUp'

interface RenumberProps {
  readonly job: Job
  readonly lineUp: LineUp
  /** Only these; `undefined` for all of the network. */
  readonly deviceIds: readonly string[] | undefined
  readonly onClose: () => void
}

/** Addresses for many at once: by the blocks of the job, or in a row from one address; first as a preview. */
export default function RenumberDialog({ job, lineUp, deviceIds, onClose }: RenumberProps) {
  const laptop = useLaptop()
  const chosen = useMemo(() => (deviceIds ? new Set(deviceIds) : undefined), [deviceIds])
  const networkOfChosen = job.devices.find((device) => chosen?.has(device.id))?.ports[0]?.networkId
  const [networkId, setNetworkId] = useState(networkOfChosen ?? busiestNetwork(job) ?? '')
  const [what, setWhat] = useState<'missing' | 'all'>('missing')
  const [start, setStart] = useState('')
  const [blocks, setBlocks] = useState<readonly AddressRule[]>(job.addressRules)
  const [trouble, setTrouble] = useState<unknown>(undefined)
  const from = start.trim() === '' ? undefined : parseIpv4(start)
  const asPlanned = useMemo(() => ({ ...job, addressRules: blocks }), [job, blocks])
  const startAt = from?.ok ? from.value : undefined
  const preview = useMemo(
    () =>
      renumber(
        asPlanned,
        laptopAddresses(laptop.data ?? []),
        { what, networkId, deviceIds: chosen, startAt },
        ladderFor,
      ),
    [asPlanned, laptop.data, what, networkId, chosen, startAt],
  )
  const moves = preview.filter((each) => each.kind === 'moves')
  const stays = preview.filter((each) => each.kind === 'stays')
  const kinds = [...new Set(preview.map((each) => each.device.kind))]
  const blocksChanged = JSON.stringify(blocks) !== JSON.stringify(job.addressRules)
  const apply = async () => {
    const changes: Change[] = moves.map(({ port, to }) => ({
      op: 'set',
      table: 'port',
      id: port.id,
      version: port.version,
      fields: { address: to },
    }))
    if (blocksChanged)
      changes.push({ op: 'set', table: 'job', id: job.id, version: job.version, fields: { addressRules: blocks } })
    try {
      await lineUp.change(`${moves.length} addresses planned.`, changes)
      onClose()
    } catch (reason) {
      setTrouble(reason)
    }
  }
  return (
    <Dialog
      title="Plan addresses for many"
      say="A preview first. What is proven at its address, or waits for an answer, is left alone."
      open
      room="wide"
      onClose={onClose}
    >
      <div className={formGrid}>
        <Choice
          label="Network"
          value={networkId}
          choices={job.networks.map(({ id, name, cidr }) => ({ value: id, label: `${name}, ${cidr}` }))}
          onChange={setNetworkId}
        />
        <Choice
          label="For"
          value={what}
          choices={[
            { value: 'missing', label: `${chosen ? 'chosen' : 'all'} without an address` },
            { value: 'all', label: `${chosen ? 'all chosen' : 'all'}, renumbered` },
          ]}
          onChange={(next) => setWhat(next === 'all' ? 'all' : 'missing')}
        />
        <Field
          label="In a row from"
          typed
          placeholder="by the blocks below"
          value={start}
          trouble={from && !from.ok ? from.refusal : undefined}
          onChange={setStart}
        />
      </div>
      {startAt === undefined && kinds.length > 0 && <Blocks job={asPlanned} kinds={kinds} onChange={setBlocks} />}
      <Preview moves={moves} stays={stays} />
      <Problems reason={trouble} />
      <div className={formActions}>
        <Button
          look="act"
          size="tall"
          disabled={(moves.length === 0 && !blocksChanged) || (from !== undefined && !from.ok)}
          onClick={() => void apply()}
        >
          Plan {moves.length} address{moves.length === 1 ? '' : 'es'}
        </Button>
        <span className="note">Changes the plan only. One step to undo.</span>
      </div>
    </Dialog>
  )
}

interface BlocksProps {
  readonly job: Job
  readonly kinds: readonly string[]
  readonly onChange: (rules: readonly AddressRule[]) => void
}

const readOctet = (text: string) =>
  parseWholeNumber(text, { name: 'Last octet', min: 0, max: 255, reason: 'An octet has eight bits.' })

/** Where addresses of each kind go in this job. */
function Blocks({ job, kinds, onChange }: BlocksProps) {
  const [drafts, setDrafts] = useState<Readonly<Record<string, string>>>({})
  const put = (kind: string, text: string) => {
    setDrafts({ ...drafts, [kind]: text })
    const [low, high] = text.split(/\s*(?:-|to|\.\.)\s*/).map(readOctet)
    if (!low?.ok || !high?.ok || low.value > high.value) return
    onChange([...job.addressRules.filter((rule) => rule.kind !== kind), { kind, first: low.value, last: high.value }])
  }
  return (
    <fieldset className="grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] gap-2 pt-2">
      <legend className={fieldLabel}>Blocks of last octets</legend>
      {kinds.map((kind) => {
        const text = blockFor(job, kind).join('-')
        const draft = drafts[kind] ?? text
        return (
          <Field
            key={kind}
            label={kindFacts(kind, job.kinds).name}
            typed
            value={draft}
            trouble={
              draft.replace(/\s/g, '') === text
                ? undefined
                : { what: `"${draft}" is not a block.`, expected: 'two octets, such as 20-39' }
            }
            onChange={(next) => put(kind, next)}
          />
        )
      })}
    </fieldset>
  )
}

const SHOWN = 200

const columns: readonly TableColumn<Renumbering>[] = [
  { id: 'tag', head: 'Tag', names: true, cell: ({ device }) => device.tag, sort: ({ device }) => device.tag },
  {
    id: 'now',
    head: 'Now',
    className: 'font-typed whitespace-nowrap',
    cell: (row) => (row.kind === 'moves' ? row.from : row.port.address) ?? '–',
  },
  {
    id: 'then',
    head: 'Then',
    className: 'whitespace-nowrap',
    cell: (row) =>
      row.kind === 'moves' ? (
        <span className="font-typed">{row.to}</span>
      ) : (
        <span className="inline-flex items-center gap-1.5">
          <Glyph state={/^Proven/.test(row.because) ? 'proven' : 'parked'} size={14} /> stays
        </span>
      ),
  },
  {
    id: 'why',
    head: 'Why',
    className: 'text-ink-soft',
    cell: (row) => (row.kind === 'moves' ? (row.reasons[1] ?? row.reasons[0]) : row.because),
  },
]

function Preview({
  moves,
  stays,
}: {
  moves: readonly Extract<Renumbering, { kind: 'moves' }>[]
  stays: readonly Extract<Renumbering, { kind: 'stays' }>[]
}) {
  const rows = useMemo(() => [...moves.slice(0, SHOWN), ...stays.slice(0, SHOWN)], [moves, stays])
  return (
    <Scroll label="What changes" className="mt-3 max-h-75 border-t border-rule-strong">
      <DataTable
        name="renumbering"
        caption="What changes"
        rows={rows}
        keyOf={({ port }) => port.id}
        rowClass={(row) => (row.kind === 'stays' ? 'text-ink-soft' : undefined)}
        columns={columns}
      />
      {moves.length + stays.length === 0 && <p className="note">No device of this network.</p>}
      {moves.length + stays.length > 2 * SHOWN && <p className="note">and more</p>}\n{' '}
    </Scroll>
  )
}
