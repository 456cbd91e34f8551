import { newRow, problemsOf, type Problem } from '@calm/contract'
import { schools, type Network, type School } from '@calm/core/job'
import { useState } from 'react'
import { Dialog, Field, Problems } from '../../ui'
import type { NetworkFields } from './useLineUp'

const newNetwork = newRow('network')

const blank = { name: '', cidr: '', gateway: '', vlan: '', dhcp: '', reserved: '' }
type Form = typeof blank & { readonly school: School }

const formOf = (network: Network | undefined): Form =>
  network
    ? { ...network, gateway: network.gateway ?? '', vlan: network.vlan === null ? '' : String(network.vlan) }
    : { ...blank, school: 'static' }

const fieldsOf = (form: Form) => ({
  name: form.name.trim(),
  cidr: form.cidr.trim(),
  gateway: form.gateway.trim() || null,
  vlan: form.vlan.trim() === '' ? null : /^\d+$/.test(form.vlan.trim()) ? Number(form.vlan) : form.vlan,
  dhcp: form.dhcp.trim(),
  reserved: form.reserved.trim(),
  school: form.school,
})

interface NetworkDialogProps {
  readonly network: Network | undefined
  readonly onSave: (fields: NetworkFields) => Promise<unknown>
  readonly onRemove: () => void
  readonly onClose: () => void
}

/** A network: its block, its gateway, and which parts of it are given away or kept back. */
export default function NetworkDialog({ network, onSave, onRemove, onClose }: NetworkDialogProps) {
  const [form, setForm] = useState(() => formOf(network))
  const [problems, setProblems] = useState<readonly Problem[]>([])
  const [trouble, setTrouble] = useState<unknown>(undefined)
  const save = async (event: React.FormEvent) => {
    event.preventDefault()
    const { error, value } = newNetwork.validate(fieldsOf(form), { abortEarly: false, convert: false })
    if (error) return setProblems(problemsOf(error))
    setProblems([])
    try {
      await onSave(value as NetworkFields)
      onClose()
    } catch (reason) {
      setTrouble(reason)
    }
  }
  const field = (name: keyof Form, label: string, example: string) => (
    <Field
      label={label}
      typed={name !== 'name'}
      placeholder={example}
      value={form[name]}
      trouble={problems.find((problem) => problem.where === name)}
      onChange={(value) => setForm((before) => ({ ...before, [name]: value }))}
    />
  )
  return (
    <Dialog
      title={network ? `Network ${network.name}` : 'Add a network'}
      say="As its owner gave it. Ask, when in doubt."
      open
      onClose={onClose}
    >
      <form onSubmit={(event) => void save(event)} noValidate>
        <div className="form-grid">
          {field('name', 'Name', 'process')}
          {field('cidr', 'Network', '10.20.40.0/24')}
          {field('gateway', 'Gateway', 'none')}
          {field('vlan', 'VLAN', 'none')}
          <div className="whole">{field('dhcp', 'DHCP ranges', '10.20.40.150-10.20.40.199')}</div>
          <div className="whole">{field('reserved', 'Reserved ranges', '10.20.40.2-10.20.40.9')}</div>
          <fieldset className="whole schools">
            <legend className="field-label">Where addresses live</legend>
            {(Object.keys(schools) as School[]).map((school) => (
              <label key={school}>
                <input
                  type="radio"
                  name="school"
                  checked={form.school === school}
                  onChange={() => setForm((before) => ({ ...before, school }))}
                />
                <span>
                  {schools[school].name}
                  <span className="note">{schools[school].consequences.join(' ')}</span>
                </span>
              </label>
            ))}
          </fieldset>
        </div>
        <Problems reason={trouble} />
        <div className="form-actions">
          <button type="submit" className="act tall">
            Save
          </button>
          {network && (
            <button type="button" className="plain" onClick={onRemove}>
              Remove {network.name}
            </button>
          )}
        </div>
      </form>
    </Dialog>
  )
}
