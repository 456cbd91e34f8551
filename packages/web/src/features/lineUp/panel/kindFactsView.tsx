import { useState } from 'react'
import { formatNode, nodeFamily, type BusNode } from '@calm/core/bus'
import type { Job } from '@calm/core/job'
import { kindFacts, lampWords, restartRules, waysOfSetting, type DeviceKindFacts } from '@calm/core/kind'

/** What is known of a kind, folded until it is asked for. */
export function KindFacts({ job, kind }: { job: Job; kind: string }) {
  const facts = kindFacts(kind, job.kinds)
  const [isOpen, setOpen] = useState(false)
  return (
    <details onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="cursor-pointer text-row">What is known of: {facts.name}</summary>
      {isOpen && <KindFactList facts={facts} />}
    </details>
  )
}

function defaultWords({ defaultAddress, defaultNode }: DeviceKindFacts): string {
  const address =
    defaultAddress.kind === 'fixed'
      ? `${defaultAddress.address}/${defaultAddress.prefix}`
      : defaultAddress.kind === 'lease'
        ? 'asks for a lease'
        : 'no address before it is set'
  if (!defaultNode || defaultNode.node === null) return address
  return `${address}; node ${formatNode(defaultNode.node as BusNode, nodeFamily(defaultNode.family))}`
}

export function KindFactList({ facts }: { facts: DeviceKindFacts }) {
  return (
    <div className="mt-2 grid gap-1.25 text-row">
      <p>
        <b>Out of the box</b> {defaultWords(facts)}
      </p>
      <p>
        <b>Set by</b> {waysOfSetting[facts.setting].name.toLowerCase()}. {waysOfSetting[facts.setting].say}
      </p>
      <p>
        <b>In force</b> {restartRules[facts.effective].say}
      </p>
      <p>
        <b>Starts in</b> {facts.startUpSeconds} s, hands-on {facts.handsOnSeconds} s
      </p>
      <Facts name="Before power" list={facts.beforePower} />
      <Facts
        name="Lamps"
        list={facts.lamps.map((each) => `${each.lamp} ${lampWords(each.pattern)}: ${each.means.toLowerCase()}`)}
      />
      <Facts
        name="Sockets"
        list={facts.sockets.map(
          (each) =>
            `${each.name}: ${each.use}${each.looksLikeNetwork && !each.isNetwork ? '. Not a network socket' : ''}`,
        )}
      />
      <Facts name="Limits" list={facts.limits} />
      <p className="note">Usual for the kind. The manual counts.</p>
    </div>
  )
}

function Facts({ name, list }: { name: string; list: readonly string[] }) {
  return list.length === 0 ? null : (
    <>
      <b>{name}</b>
      <ul className="grid gap-0.5 pl-3.5 [list-style:'–_']">
        {list.map((each) => (
          <li key={each}>{each}</li>
        ))}
      </ul>
    </>
  )
}
