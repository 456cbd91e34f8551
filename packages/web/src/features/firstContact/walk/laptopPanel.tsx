import { Button } from '../../../ui'
import { laptopTexts, type LaptopState } from '@calm/core/procedure'
import type { HostAddress } from '@calm/core/sequence'
import { formatIpv4 } from '@calm/core/address'
import { Copy } from 'lucide-react'
import { useState } from 'react'
import { useFrontActs, useFronts } from '../../../api'

/** Text to copy, with the button that copies it. */
export function CopyLine({ text, label }: { text: string; label?: string }) {
  const [copied, setCopied] = useState(false)
  const copy = () =>
    void navigator.clipboard
      ?.writeText(text)
      .then(() => setCopied(true))
      .catch(() => setCopied(false))
  return (
    <div className="flex items-stretch gap-2">
      {label && <span className="note">{label}</span>}
      <code className="rounded-sm bg-ground px-3 py-1.5 font-typed text-lead font-medium wrap-anywhere">{text}</code>
      <Button onClick={copy} aria-label={`Copy ${text}`}>
        <Copy size={15} aria-hidden /> {copied ? 'Copied' : 'Copy'}
      </Button>
    </div>
  )
}

interface LaptopPanelProps {
  readonly to: HostAddress
  readonly laptop: LaptopState | undefined
  readonly bench: boolean
}

/** What to type to put the laptop into a subnet; on the bench one button does it. */
export function LaptopPanel({ to, laptop, bench }: LaptopPanelProps) {
  const fronts = useFronts(false)
  const acts = useFrontActs()
  const adapter = laptop?.interfaces.find((each) => !each.loopback)?.name ?? 'eth0'
  const address = formatIpv4(to.address)
  const benchLaptop = fronts.data?.laptop
  return (
    <div className="grid gap-2">
      {bench && benchLaptop ? (
        <p>
          <Button onClick={() => acts.setLaptop({ ...benchLaptop, addresses: [{ address, prefix: to.prefix }] })}>
            Set the bench laptop to {address}/{to.prefix}
          </Button>
        </p>
      ) : null}
      {laptopTexts(to, adapter).map((text) => (
        <div key={text.system}>
          <p className="note">{text.system}</p>
          {text.set.map((line) => (
            <CopyLine key={line} text={line} />
          ))}
        </div>
      ))}
    </div>
  )
}

/** The laptop's adapters as the server sees them. */
export function LaptopList({ laptop }: { laptop: LaptopState | undefined }) {
  if (!laptop) return <p className="note">Reading the laptop’s adapters…</p>
  return (
    <div>
      <h3 className="text-lead font-heavy">This laptop</h3>
      <ul>
        {laptop.interfaces
          .filter((adapter) => !adapter.loopback)
          .map((adapter) => (
            <li className="flex justify-between gap-2" key={`${adapter.name}${adapter.address}`}>
              <span className="font-typed font-medium">
                {adapter.address}/{adapter.prefix}
              </span>
              <span className="note">
                {adapter.name}
                {adapter.wireless ? ', wireless' : ''}
                {adapter.link === false ? ', no link' : ''}
              </span>
            </li>
          ))}
        {laptop.interfaces.every((adapter) => adapter.loopback) && (
          <li className="flex justify-between gap-2">No adapter has an address.</li>
        )}
      </ul>
      {laptop.notes.map((note) => (
        <p key={note} className="note">
          {note}
        </p>
      ))}
    </div>
  )
}
