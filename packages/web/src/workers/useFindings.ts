import { laptopAddresses } from '@calm/core/address'
import type { LaptopInterface } from '@calm/contract'
import type { Finding } from '@calm/core/findings'
import { addressPlanOf, type Job, ladderFor } from '@calm/core/job'
import { wrap, type Remote } from 'comlink'
import { useEffect, useState } from 'react'
import type { FindingsApi } from './findings.worker'

let shared: Remote<FindingsApi> | undefined

function findingsWorker(): Remote<FindingsApi> {
  shared ??= wrap<FindingsApi>(new Worker(new URL('./findings.worker.ts', import.meta.url), { type: 'module' }))
  return shared
}

/** Findings of the job as it stands; those of the state before stay until the new ones are there. */
export function useFindings(
  job: Job | undefined,
  interfaces: readonly LaptopInterface[] | undefined,
): readonly Finding[] {
  const [findings, setFindings] = useState<readonly Finding[]>([])
  useEffect(() => {
    if (!job) return
    let current = true
    // What was edited is on the screen before its findings are looked for.
    const begin = setTimeout(() => {
      void findingsWorker()
        // Handshakes are many and not looked at; what is proven stands in the plan.
        .find({ ...job, handshakes: [] }, addressPlanOf(job, laptopAddresses(interfaces ?? []), ladderFor))
        .then((found) => {
          if (current) setFindings(found)
        })
    })
    return () => {
      current = false
      clearTimeout(begin)
    }
  }, [job, interfaces])
  return findings
}
