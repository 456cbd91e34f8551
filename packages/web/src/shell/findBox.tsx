import { claspFor, type Job } from '@calm/core/job'
import type { EndReading } from '@calm/core/terms'
import { Command } from 'cmdk'
import { Dialog } from 'radix-ui'
import { useNavigate } from 'react-router'
import type { StageOnWalk } from './stages'

/** Finds a device, a handshake, an address or a stage, and goes there. */
export default function FindBox({
  job,
  stages,
  onClose,
}: {
  job: Job
  stages: readonly StageOnWalk[]
  onClose: () => void
}) {
  const navigate = useNavigate()
  const go = (path: string) => {
    onClose()
    void navigate(`/jobs/${job.id}/${path}`)
  }
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="veil" />
        <Dialog.Content className="dialog palette" aria-describedby={undefined}>
          <Dialog.Title className="visually-hidden">Find</Dialog.Title>
          <Command label="Find a tag, address or setting">
            <Command.Input placeholder="Find a tag, address or setting" autoFocus />
            <Command.List>
              <Command.Empty>Nothing of that name in this job.</Command.Empty>
              <Command.Group heading="Devices">
                {job.devices.map((device) => (
                  <Command.Item
                    key={device.id}
                    value={`${device.tag} ${device.what} ${device.ports[0]?.address ?? ''}`}
                    onSelect={() => go(`line-up?device=${device.id}`)}
                  >
                    <b>{device.tag}</b>
                    <span className="soft">{device.what}</span>
                    <span className="note typed">{device.ports[0]?.address ?? ''}</span>
                  </Command.Item>
                ))}
              </Command.Group>
              <Command.Group heading="Handshakes">
                {job.handshakes.flatMap((handshake) =>
                  (['terms', 'proof'] as const).map((stage) => (
                    <Command.Item
                      key={handshake.id + stage}
                      value={`${handshake.name} ${stage}`}
                      onSelect={() => go(`${stage}/${handshake.id}`)}
                    >
                      <b>{handshake.name}</b>
                      <span className="note">{stage === 'terms' ? 'Terms' : 'Proof'}</span>
                    </Command.Item>
                  )),
                )}
              </Command.Group>
              <Command.Group heading="Settings">
                {job.handshakes.flatMap((handshake) =>
                  claspFor(job, handshake).rows.map((row) => (
                    <Command.Item
                      key={handshake.id + row.id}
                      value={`${handshake.name} ${row.name} ${shownAt(row.ends.controller)} ${shownAt(row.ends.device)}`}
                      onSelect={() => go(`terms/${handshake.id}`)}
                    >
                      {row.name}
                      <span className="soft">{handshake.name}</span>
                      <span className="note typed">{shownAt(row.ends.device)}</span>
                    </Command.Item>
                  )),
                )}
              </Command.Group>
              <Command.Group heading="Stages">
                {stages.map((stage) => (
                  <Command.Item key={stage.path} value={`stage ${stage.name}`} onSelect={() => go(stage.path)}>
                    {stage.name}
                    <span className="note">{stage.key}</span>
                  </Command.Item>
                ))}
              </Command.Group>
            </Command.List>
          </Command>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}

const shownAt = (reading: EndReading): string => (reading.state === 'read' ? reading.shown : '')
