import { formatIpv4, ipv4, parseSubnet } from '@calm/core/address'
import { heardBy, takeable, takenInto, type JudgedHit } from '@calm/core/discovery'
import type { Device } from '@calm/core/job'
import { devicesOfAnswers, laptopHost, presentOf } from '@calm/core/procedure'
import { useState } from 'react'
import { newId, useFronts } from '../../../api'
import { useEdit } from '../../../edit'
import { Button, button, Choice, cn, Glyph, Problems } from '../../../ui'
import { LaptopPanel } from '../walk'
import type { ViewProps } from '../viewProps'

interface HitCardProps extends Pick<ViewProps, 'job' | 'record' | 'acts' | 'laptop'> {
  readonly judged: JudgedHit
  readonly onWhich: ((deviceId: string) => void) | undefined
}

/** Somebody who was heard: who it may be, whether the laptop reaches it, and what is done about it in one action. */
export function HitCard({ job, record, acts, laptop, judged, onWhich }: HitCardProps) {
  const { hit, candidates, odds, subnet, laptopThere } = judged
  const edit = useEdit(job)
  const [isLaptop, setLaptop] = useState(false)
  const fronts = useFronts(false)
  const known = job.devices.find((device) => taken(record, device, hit.address))
  const take = async (device: Device) => {
    const { changes, facts } = takenInto(device, hit)
    if (changes.length > 0) await edit.change(`${hit.address || hit.hardwareAddress} is ${device.tag}.`, changes)
    for (const fact of facts) await acts.addFact(fact)
  }
  const add = () => {
    const answer = {
      address: hit.address,
      ports: [],
      identities: [hit.says],
      hardwareAddress: hit.hardwareAddress || null,
    }
    const line = { address: hit.address, verdict: 'unknown', tags: [], answer } as const
    edit.attempt(edit.change(`${hit.address} taken in.`, devicesOfAnswers(job, [line], newId)))
  }
  const front = fronts.data?.fronts.find(({ address }) => address !== null && address === hit.address)
  const pages =
    job.mode === 'bench' ? (front?.page ? [front.page] : []) : [`http://${hit.address}/`, `https://${hit.address}/`]
  const others = job.devices.filter(
    (device) => takeable(device) && !candidates.some(({ deviceId }) => deviceId === device.id),
  )
  const isPlanned = job.devices.some((device) => device.ports.some(({ address }) => address === hit.address))
  const into = hit.address === '' ? undefined : hostNear(job, record, hit.address, subnet)
  return (
    <li className="grid gap-1.5 border-t border-rule pt-2.5">
      <p className="flex flex-wrap items-baseline gap-x-3">
        <b className="font-typed text-lead">{hit.address || 'no address yet'}</b>
        {hit.hardwareAddress && <span className="font-typed text-note">{hit.hardwareAddress}</span>}
        <span>{hit.says}</span>
        <span className="note">{hit.by.map((by) => heardBy[by].name).join('; ')}</span>
      </p>
      {odds !== '' && (
        <p className="flex items-center gap-2 text-odds">
          <Glyph state="at-odds" size={14} /> {odds}
        </p>
      )}
      {candidates.map(({ deviceId, tag, sure, why }) => (
        <p key={deviceId} className="flex items-center gap-2 text-row">
          <Glyph state={sure ? 'proven' : 'in-hand'} size={14} /> {sure ? 'It is' : 'It may be'} {tag}: {why}.
        </p>
      ))}
      {hit.address !== '' && !laptopThere && (
        <p className="text-row">
          The laptop is in no subnet of it: it is heard, not reached. {subnet} is where it may be.
        </p>
      )}
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1.5">
        {known ? (
          <span className="note">
            Taken in: {known.tag} was found at {hit.address}.
          </span>
        ) : (
          <>
            {candidates.slice(0, 3).map(({ deviceId, tag }) => {
              const device = job.devices.find(({ id }) => id === deviceId)
              return (
                device && (
                  <Button key={deviceId} onClick={() => void take(device).catch(() => undefined)}>
                    This is {tag}
                  </Button>
                )
              )
            })}
            {others.length > 0 && (
              <Choice
                hideLabel
                className="w-52"
                label={`Which device ${hit.address || hit.hardwareAddress} is`}
                value=""
                choices={[
                  { value: '', label: candidates.length > 0 ? 'It is another one' : 'It is ...' },
                  ...others.map(({ id, tag }) => ({ value: id, label: tag })),
                ]}
                onChange={(id) => {
                  const device = others.find((each) => each.id === id)
                  if (device) void take(device).catch(() => undefined)
                }}
              />
            )}
            {hit.address !== '' && !isPlanned && <Button onClick={add}>Add it to the line-up</Button>}
          </>
        )}
        {into && !laptopThere && (
          <Button onClick={() => setLaptop((shown) => !shown)} aria-expanded={isLaptop}>
            Put the laptop there
          </Button>
        )}
        {known && onWhich && (
          <Button look="plain" onClick={() => onWhich(known.id)}>
            Which box is it
          </Button>
        )}
        {hit.address !== '' &&
          pages.map((url) => (
            <a key={url} className={cn(button({ look: 'plain' }))} href={url} target="_blank" rel="noreferrer">
              Open its page{url.startsWith('https') ? ', https' : ''}
            </a>
          ))}
      </div>
      {isLaptop && into && <LaptopPanel to={into} laptop={laptop} bench={job.mode === 'bench'} />}
      <Problems reason={edit.problem ?? acts.of('facts').problem} />
    </li>
  )
}

/** Whether somebody said already which device is at an address. */
const taken = (record: ViewProps['record'], device: Device, address: string): boolean =>
  address !== '' &&
  record.facts.some((fact) => fact.deviceId === device.id && fact.setting === 'address' && fact.text === address)

/** An address for the laptop in the subnet of a hit, which nobody has. */
function hostNear(job: ViewProps['job'], record: ViewProps['record'], address: string, subnet: string) {
  const read = parseSubnet(subnet)
  if (!read.ok) return undefined
  const others = job.devices.flatMap((device) => presentOf(job, record, device) ?? [])
  const at = { address: ipv4(address), prefix: read.value.prefix }
  const host = laptopHost(undefined, at, [...others, at])
  return formatIpv4(host.address) === address ? undefined : host
}
