import { newRow } from '@calm/contract'
import { schools, type Network, type School } from '@calm/core/job'
import { against, useSchemaForm } from '../../../forms'
import { Dialog, Field, formGrid, Problems, Radios, SaveRow } from '../../../ui'
import type { NetworkFields } from '../useLineUp'

const blank = { name: '', cidr: '', gateway: '', vlan: '', dhcp: '', reserved: '', school: 'static' as School }
type Form = typeof blank

const formOf = (network: Network | undefined): Form =>
  network
    ? {
        name: network.name,
        cidr: network.cidr,
        gateway: network.gateway ?? '',
        vlan: network.vlan === null ? '' : String(network.vlan),
        dhcp: network.dhcp,
        reserved: network.reserved,
        school: network.school,
      }
    : blank

const fieldsOf = (form: Form) => ({
  name: form.name.trim(),
  cidr: form.cidr.trim(),
  gateway: form.gateway.trim() || null,
  vlan: form.vlan.trim() === '' ? null : /^\d+$/.test(form.vlan.trim()) ? Number(form.vlan) : form.vlan,
  dhcp: form.dhcp.trim(),
  reserved: form.reserved.trim(),
  school: form.school,
})

const check = against(newRow('network'), fieldsOf)

interface NetworkDialogProps {
  readonly network: Network | undefined
  readonly onSave: (fields: NetworkFields) => Promise<unknown>
  readonly onRemove: () => void
  readonly onClose: () => void
}

/** A network: its block, its gateway, and which parts of it are given away or kept back. */
export default function NetworkDialog({ network, onSave, onRemove, onClose }: NetworkDialogProps) {
  const form = useSchemaForm({
    start: formOf(network),
    check,
    send: (values) => onSave(fieldsOf(values) as NetworkFields).then(onClose),
  })
  return (
    <Dialog
      title={network ? `Network ${network.name}` : 'Add a network'}
      say="As its owner gave it. Ask, when in doubt."
      open
      onClose={onClose}
    >
      <form onSubmit={form.onSubmit} noValidate>
        <div className={formGrid}>
          <Field label="Name" placeholder="process" {...form.bind('name')} />
          <Field label="Network" typed placeholder="10.20.40.0/24" {...form.bind('cidr')} />
          <Field label="Gateway" typed placeholder="none" {...form.bind('gateway')} />
          <Field label="VLAN" typed placeholder="none" {...form.bind('vlan')} />
          <Field
            className="col-span-full"
            label="DHCP ranges"
            typed
            placeholder="10.20.40.150-10.20.40.199"
            {...form.bind('dhcp')}
          />
          <Field
            className="col-span-full"
            label="Reserved ranges"
            typed
            placeholder="10.20.40.2-10.20.40.9"
            {...form.bind('reserved')}
          />
          <Radios
            className="col-span-full"
            label="Where addresses live"
            value={form.values.school}
            choices={(Object.keys(schools) as School[]).map((school) => ({
              value: school,
              label: schools[school].name,
              say: schools[school].consequences.join(' '),
            }))}
            onChange={(school) => form.set({ school })}
          />
        </div>
        <Problems reason={form.trouble} />
        <SaveRow remove={network && { name: network.name, onRemove }} />
      </form>
    </Dialog>
  )
}
