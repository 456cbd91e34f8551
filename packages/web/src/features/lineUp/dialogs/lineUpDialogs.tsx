import type { AskedOfOthers, Job } from '@calm/core/job'
import { lazy, Suspense, useState } from 'react'
import type { LineUp } from '../useLineUp'

// Forms bring the schemas with them; they load when they are opened.
const AddDevice = lazy(() => import('./addDevice'))
const PasteDevices = lazy(() => import('../paste/pasteDevices'))
const NetworkDialog = lazy(() => import('./networkDialog'))
const LineDialog = lazy(() => import('./lineDialog'))
const RenumberDialog = lazy(() => import('./renumberDialog'))
const KindsDialog = lazy(() => import('./kindsDialog'))
const RequestDialog = lazy(() => import('../requests/requestDialog'))

/** Which form stands above the page. */
type OpenDialog =
  | { readonly kind: 'device' | 'paste' | 'kinds' }
  | { readonly kind: 'renumber'; readonly deviceIds?: readonly string[] }
  | { readonly kind: 'network' | 'line'; readonly id?: string | undefined }
  | { readonly kind: 'request'; readonly request?: AskedOfOthers; readonly deviceIds?: readonly string[] }

export function useDialogs() {
  const [shown, setShown] = useState<OpenDialog | undefined>(undefined)
  return { shown, open: setShown, close: () => setShown(undefined) }
}

export type Dialogs = ReturnType<typeof useDialogs>

interface DialogsProps {
  readonly job: Job
  readonly lineUp: LineUp
  readonly dialogs: Dialogs
  /** The network or line that was shown is gone. */
  readonly onGone: () => void
}

/** The forms of the line-up, one at a time. */
export function LineUpDialogs({ job, lineUp, dialogs, onGone }: DialogsProps) {
  const { shown, close } = dialogs
  const remove = (work: Promise<unknown>) => {
    lineUp.attempt(work)
    close()
    onGone()
  }
  const form = () => {
    switch (shown?.kind) {
      case undefined:
        return null
      case 'device':
        return <AddDevice job={job} onClose={close} onAdd={lineUp.addDevice} />
      case 'paste':
        return <PasteDevices job={job} onClose={close} lineUp={lineUp} />
      case 'kinds':
        return <KindsDialog job={job} onClose={close} lineUp={lineUp} />
      case 'renumber':
        return <RenumberDialog job={job} onClose={close} lineUp={lineUp} deviceIds={shown.deviceIds} />
      case 'request':
        return (
          <RequestDialog
            job={job}
            onClose={close}
            lineUp={lineUp}
            request={shown.request}
            deviceIds={shown.deviceIds ?? []}
          />
        )
      case 'network': {
        const network = job.networks.find((each) => each.id === shown.id)
        return (
          <NetworkDialog
            network={network}
            onRemove={() => network && remove(lineUp.removeNetwork(network))}
            onClose={close}
            onSave={(fields) => (network ? lineUp.editNetwork(network, fields) : lineUp.addNetwork(fields))}
          />
        )
      }
      case 'line': {
        const line = job.lines.find((each) => each.id === shown.id)
        return (
          <LineDialog
            line={line}
            onRemove={() => line && remove(lineUp.removeRow(`Line ${line.name} removed.`, 'line', line))}
            onClose={close}
            onSave={(fields) =>
              line
                ? lineUp.set(`Line ${fields.name} changed.`, 'line', line, { ...fields })
                : lineUp.addRow(`Line ${fields.name} added.`, 'line', { ...fields })
            }
          />
        )
      }
    }
  }
  return <Suspense>{form()}</Suspense>
}
