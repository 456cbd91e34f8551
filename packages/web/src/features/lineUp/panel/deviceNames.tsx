import type { Device, NamePlace } from '@calm/core/job'
import { Plus, Trash2 } from 'lucide-react'
import { Editable, Button } from '../../../ui'
import { readLine } from './readers'
import type { LineUp } from '../useLineUp'

/** Where a name must be the same, and what stands there; it is compared letter for letter. */
export function DeviceNames({ device, lineUp }: { device: Device; lineUp: LineUp }) {
  const places = device.namePlaces
  const put = (next: readonly NamePlace[]) => lineUp.editDevice(device, { namePlaces: next })
  const change = (at: number, fields: Partial<NamePlace>) =>
    put(places.map((place, k) => (k === at ? { ...place, ...fields } : place)))
  return (
    <section
      aria-label={`Where the name of ${device.tag} stands`}
      className="grid justify-items-start gap-1.5 text-row"
    >
      {places.map((place, k) => (
        // Places have no id of their own; they are few and keep their order.
        <div key={k} className="flex min-w-0 flex-wrap items-center gap-1.5">
          <Editable
            label={`Place ${k + 1} of the name of ${device.tag}`}
            text={place.where}
            read={readLine}
            onSave={(where) => change(k, { where })}
          />
          <Editable
            typed
            label={`Name of ${device.tag} there: ${place.where}`}
            text={place.text}
            read={readLine}
            onSave={(text) => change(k, { text })}
          />
          <Button
            look="icon"
            aria-label={`Remove place ${place.where}`}
            onClick={() => lineUp.attempt(put(places.filter((_, other) => other !== k)))}
          >
            <Trash2 size={15} />
          </Button>
        </div>
      ))}
      {device.hostName !== '' && (
        <Button
          look="plain"
          onClick={() => lineUp.attempt(put([...places, { where: 'In the project file', text: '' }]))}
        >
          <Plus size={15} aria-hidden /> A place where {device.hostName} must stand
        </Button>
      )}
    </section>
  )
}
