import { laptopTexts, type LaptopState } from '@calm/core/procedure'
import type { HostAddress } from '@calm/core/sequence'
import { formatIpv4 } from '@calm/core/address'
import { Copy } from 'lucide-react'
import { useState } from 'react'
import { useFrontActs, useFronts } from '../../api'

/** Text to copy, with the button that copies it. */
export function CopyLine({ text, label }: { text: string; label?: string }) {
  const [copied, setCopied] = useState(false)
  const copy = () =>
    void navigator.clipboard
      ?.writeText(text)
      .then(() => setCopied(true))
      .catch(() => setCopied(false))
  return (
    <div className="copy-line">
      {label && <span className="note">{label}</span>}
      <code className="typed">{text}</code>
      <button type="button" className="quiet" onClick={copy} aria-label={`Copy ${text}`}>
        <Copy size={15} aria-hidden /> {copied ? 'Copied' : 'Copy'}
      </button>
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
    <div className="laptop-texts">
      {bench && benchLaptop ? (
        <p>
          <button
            type="button"
            className="quiet"
            onClick={() => acts.setLaptop({ ...benchLaptop, addresses: [{ address, prefix: to.prefix }] })}
          >
            Set the bench laptop to {address}/{to.prefix}
          </button>
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
    <div className="laptop-list">
      <h3>This laptop</h3>
      <ul>
        {laptop.interfaces
          .filter((adapter) => !adapter.loopback)
          .map((adapter) => (
            <li key={`${adapter.name}${adapter.address}`}>
              <span className="typed">
                {adapter.address}/{adapter.prefix}
              </span>
              <span className="note">
                {adapter.name}
                {adapter.wireless ? ', wireless' : ''}
                {adapter.link === false ? ', no link' : ''}
              </span>
            </li>
          ))}
        {laptop.interfaces.every((adapter) => adapter.loopback) && <li>No adapter has an address.</li>}
      </ul>
      {laptop.notes.map((note) => (
        <p key={note} className="note">
          {note}
        </p>
      ))}
    </div>
  )
}
