import { MOST_HOSTS, nearSubnets, type NearSubnet } from '@calm/core/procedure'
import type { Job } from '@calm/core/job'
import { Search } from 'lucide-react'
import { useState } from 'react'
import { useLaptopState, useSweep, useWalkActs } from '../../../api'
import { useEdit } from '../../../edit'
import { Problems, Button } from '../../../ui'
import { usePlantConsent } from '../plantConsent'
import { SweepTable } from './sweepTable'

/** Searches where this laptop is plugged in: its subnet becomes the first network, and each answer may become a row. */
export function SearchHere({ job }: { job: Job }) {
  const laptop = useLaptopState(job.id)
  const sweep = useSweep(job.id)
  const edit = useEdit(job)
  const { acts, dialog } = usePlantConsent(job, useWalkActs(job.id))
  const [problem, setProblem] = useState<unknown>(undefined)
  const near = laptop.data ? nearSubnets(laptop.data) : []
  const running = sweep.data && !sweep.data.done
  const begin = async ({ adapter, cidr }: NearSubnet) => {
    setProblem(undefined)
    if (!job.networks.some((network) => network.cidr === cidr)) {
      const fields = { name: adapter, cidr, gateway: null, vlan: null, dhcp: '', reserved: '', school: 'static' }
      await edit.addRow(`Network ${cidr} added.`, 'network', fields)
    }
    await acts.sweep(cidr)
  }
  return (
    <>
      {near.map((subnet) => (
        <Button
          key={subnet.cidr}
          look="act"
          size="tall"
          disabled={running === true || subnet.hosts > MOST_HOSTS}
          onClick={() => void begin(subnet).catch(setProblem)}
        >
          <Search size={16} aria-hidden /> Search {subnet.cidr}, where {subnet.adapter} is
        </Button>
      ))}
      {near.some(({ hosts }) => hosts > MOST_HOSTS) && (
        <p className="note">
          A search looks at most at {MOST_HOSTS} hosts. For a larger one add the part that matters as a network.
        </p>
      )}
      {laptop.data && near.length === 0 && (
        <p className="note">This laptop is plugged in nowhere now: no adapter with a link has an address.</p>
      )}
      <p className="note" role="status">
        {running && `${sweep.data?.looked} of ${sweep.data?.total} looked at`}
      </p>
      <Problems reason={problem} />
      {sweep.data?.done && <SweepTable job={job} lines={sweep.data.lines} />}
      {dialog}
    </>
  )
}
