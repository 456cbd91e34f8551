import { claspFor, type Job } from '@calm/core/job'
import type { EndReading } from '@calm/core/terms'
import { Command, defaultFilter } from 'cmdk'
import { Dialog } from 'radix-ui'
import { useNavigate } from 'react-router'
import type { StageOnWalk } from './stages'

const item =
  'flex cursor-pointer items-baseline gap-4 rounded-sm px-2.5 py-1.75 data-[selected=true]:bg-ground data-[selected=true]:shadow-[inset_4px_0_0_var(--color-ink)]'

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
        <Dialog.Overlay className="fixed inset-0 z-20 bg-ground/72" />
        <Dialog.Content
          className="fixed top-[12vh] left-1/2 z-21 w-[min(560px,calc(100vw-32px))] -translate-x-1/2 overflow-hidden rounded-sm border-2 border-ink bg-sheet"
          aria-describedby={undefined}
        >
          <Dialog.Title className="sr-only">Find</Dialog.Title>
          <Command label="Find a tag, address or setting" filter={byWhatIsShown}>
            <Command.Input
              className="h-12 w-full border-b border-rule-strong bg-well px-4 text-lead outline-none"
              placeholder="Find a tag, address or setting"
              autoFocus
            />
            <Command.List className="max-h-[46vh] overflow-auto p-1.5 [&_[cmdk-group-heading]]:px-2.5 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:pb-0.5 [&_[cmdk-group-heading]]:text-note [&_[cmdk-group-heading]]:text-ink-soft">
              <Command.Empty className="px-3 py-3.5 text-ink-soft">Nothing of that name in this job.</Command.Empty>
              <Command.Group heading="Devices">
                {job.devices.map((device) => (
                  <Command.Item
                    className={item}
                    key={device.id}
                    value={`device ${device.id}`}
                    keywords={[`${device.tag} ${device.what} ${device.ports[0]?.address ?? ''}`]}
                    onSelect={() => go(`line-up?device=${device.id}`)}
                  >
                    <b>{device.tag}</b>
                    <span className="text-ink-soft">{device.what}</span>
                    <span className="ml-auto font-typed note font-medium">{device.ports[0]?.address ?? ''}</span>
                  </Command.Item>
                ))}
              </Command.Group>
              <Command.Group heading="Handshakes">
                {job.handshakes.flatMap((handshake) =>
                  (['terms', 'proof'] as const).map((stage) => (
                    <Command.Item
                      className={item}
                      key={handshake.id + stage}
                      value={`${stage} ${handshake.id}`}
                      keywords={[`${handshake.name} ${stage}`]}
                      onSelect={() => go(`${stage}/${handshake.id}`)}
                    >
                      <b>{handshake.name}</b>
                      <span className="ml-auto note">{stage === 'terms' ? 'Terms' : 'Proof'}</span>
                    </Command.Item>
                  )),
                )}
              </Command.Group>
              <Command.Group heading="Settings">
                {job.handshakes.flatMap((handshake) =>
                  claspFor(job, handshake).rows.map((row) => (
                    <Command.Item
                      className={item}
                      key={handshake.id + row.id}
                      value={`setting ${handshake.id} ${row.id}`}
                      keywords={[
                        `${handshake.name} ${row.name} ${shownAt(row.ends.controller)} ${shownAt(row.ends.device)}`,
                      ]}
                      onSelect={() => go(`terms/${handshake.id}`)}
                    >
                      {row.name}
                      <span className="text-ink-soft">{handshake.name}</span>
                      <span className="ml-auto font-typed note font-medium">{shownAt(row.ends.device)}</span>
                    </Command.Item>
                  )),
                )}
              </Command.Group>
              <Command.Group heading="Stages">
                {stages.map((stage) => (
                  <Command.Item
                    className={item}
                    key={stage.path}
                    value={`stage ${stage.path}`}
                    keywords={[`stage ${stage.name}`]}
                    onSelect={() => go(stage.path)}
                  >
                    {stage.name}
                    <span className="ml-auto note">{stage.key}</span>
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

/** Two handshakes may have one name: each is known by its id, which nobody searches for. */
const byWhatIsShown: typeof defaultFilter = (_id, search, keywords = []) => defaultFilter(keywords.join(' '), search)

const shownAt = (reading: EndReading): string => (reading.state === 'read' ? reading.shown : '')
