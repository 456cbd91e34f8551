import { formatIpv4 } from '@calm/core/address'
import { PLUG_SHOWS, portOf, presentOf } from '@calm/core/procedure'
import { useState } from 'react'
import { Choice, Glyph, Problems, Button } from '../../../ui'
import type { ViewProps } from '../viewProps'

/** Which physical box answers at an address: pull a plug and see whether it goes. Kept as evidence. */
export function WhichBox({
  job,
  record,
  acts,
  start = '',
}: Pick<ViewProps, 'job' | 'record' | 'acts'> & { readonly start?: string }) {
  const withAddress = job.devices.flatMap((device) => {
    const present = presentOf(job, record, device)
    return present ? [{ device, address: formatIpv4(present.address) }] : []
  })
  const [id, setId] = useState(
    (withAddress.find(({ device }) => device.id === start) ?? withAddress[0])?.device.id ?? '',
  )
  const [state, setState] = useState<'rest' | 'watching' | 'went' | 'stayed'>('rest')
  const [say, setSay] = useState('')
  const [problem, setProblem] = useState<unknown>(undefined)
  const chosen = withAddress.find((each) => each.device.id === id)
  if (!chosen) return null
  const watch = async () => {
    setProblem(undefined)
    setState('watching')
    const port = portOf(chosen.device)?.tcpPort ?? 502
    const look = () => acts.probe(chosen.address, port, chosen.device.id)
    try {
      const before = await look()
      if (!before.answers) {
        setState('stayed')
        return setSay(`Nobody answers at ${chosen.address}: plug it in and give it power first.`)
      }
      setSay(`${before.identities.join(' and ') || chosen.address} answers. Pull the plug of ${chosen.device.tag} now.`)
      for (let tries = 0; tries < 40; tries += 1) {
        await new Promise((done) => setTimeout(done, 500))
        const now = await look()
        if (now.answers && now.identities.join() === before.identities.join()) continue
        const left = now.answers ? `, ${now.identities.join(' and ')} stays` : ''
        const text = `plug pulled, ${chosen.address} went silent${left}`
        await acts.addFact({ deviceId: chosen.device.id, setting: 'identity', standing: 'found', text, how: 'seen' })
        // Where another stays, the plug does not tell who answers there.
        if (!now.answers)
          await acts.addFact({
            deviceId: chosen.device.id,
            setting: PLUG_SHOWS,
            standing: 'found',
            text: chosen.address,
            how: 'seen',
          })
        setSay(`It is ${chosen.device.tag}: ${text}.`)
        return setState('went')
      }
      setSay('It went on answering for 20 s: another box has this address.')
      setState('stayed')
    } catch (reason) {
      setProblem(reason)
      setState('rest')
    }
  }
  return (
    <section aria-label="Which box is it">
      <h2>Which box is it</h2>
      <p className="note">Pull a plug and see who goes silent. What was seen is kept with the device.</p>
      <div className="my-2 flex flex-wrap items-end gap-x-4.5 gap-y-3">
        <Choice
          label="Device"
          value={id}
          choices={withAddress.map(({ device, address }) => ({
            value: device.id,
            label: `${device.tag} at ${address}`,
          }))}
          onChange={(value) => {
            setId(value)
            setState('rest')
          }}
        />
        <Button disabled={state === 'watching'} onClick={() => void watch()}>
          Watch who goes
        </Button>
      </div>
      <Problems reason={problem} />
      {state !== 'rest' && (
        <p
          role="status"
          className={
            state === 'stayed' ? 'flex items-center gap-2 text-lead text-odds' : 'flex items-center gap-2 text-lead'
          }
        >
          <Glyph state={state === 'went' ? 'proven' : state === 'watching' ? 'waiting' : 'at-odds'} size={16} /> {say}
        </p>
      )}
    </section>
  )
}
