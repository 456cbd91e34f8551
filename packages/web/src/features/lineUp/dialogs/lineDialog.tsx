import { newRow } from '@calm/contract'
import { nodeFamilies } from '@calm/core/bus'
import { isSerial, lineMedia, type Line, type LineMedium } from '@calm/core/job'
import { readLineSettings } from '@calm/core/serial'
import { against, useSchemaForm } from '../../../forms'
import { Choice, Dialog, Field, formGrid, Problems, SaveRow } from '../../../ui'

type LineFields = Omit<Line, 'id' | 'version'>

interface LineDialogProps {
  readonly line: Line | undefined
  readonly onSave: (fields: LineFields) => Promise<unknown>
  readonly onRemove: () => void
  readonly onClose: () => void
}

const blank = {
  name: '',
  medium: 'rs-485-two-wire' as LineMedium,
  family: 'decimal-1-247',
  settings: '9600 8N1',
  laptopPort: '',
  timeoutMs: '',
  retries: '',
  gatewayMs: '',
}
type Form = typeof blank

const formOf = (line: Line | undefined): Form =>
  line
    ? {
        name: line.name,
        medium: line.medium,
        family: line.family,
        settings: line.settings,
        laptopPort: line.laptopPort,
        timeoutMs: shown(line.timeoutMs),
        retries: shown(line.retries),
        gatewayMs: shown(line.gatewayMs),
      }
    : blank

const shown = (value: number | null) => (value === null ? '' : String(value))
/** What is no number goes as it was typed, so that it is refused with its reason. */
const count = (text: string) => (text.trim() === '' ? null : /^\d+$/.test(text.trim()) ? Number(text) : text)

const fieldsOf = ({ name, medium, family, settings, laptopPort, ...times }: Form) => ({
  name: name.trim(),
  medium,
  family,
  settings: settings.trim(),
  laptopPort: laptopPort.trim(),
  timeoutMs: count(times.timeoutMs),
  retries: count(times.retries),
  gatewayMs: count(times.gatewayMs),
})

const check = against(newRow('line'), fieldsOf)

/** A serial line or a bus: its electrical kind, how its nodes are numbered, its settings in short. */
export default function LineDialog({ line, onSave, onRemove, onClose }: LineDialogProps) {
  const form = useSchemaForm({
    start: formOf(line),
    check,
    send: (values) => onSave(fieldsOf(values) as LineFields).then(onClose),
  })
  const settings = form.bind('settings')
  // It is said at once; what older jobs hold in words of their own is kept all the same.
  const read = isSerial(form.values) && form.values.settings.trim() !== '' && readLineSettings(form.values.settings)
  const unreadable = read && !read.ok ? read.refusal : undefined
  return (
    <Dialog title={line ? `Line ${line.name}` : 'Add a line or bus'} open onClose={onClose}>
      <form onSubmit={form.onSubmit} noValidate>
        <div className={formGrid}>
          <Field label="Name" {...form.bind('name')} />
          <Choice
            label="Electrical kind"
            value={form.values.medium}
            choices={(Object.keys(lineMedia) as LineMedium[]).map((value) => ({ value, label: lineMedia[value].name }))}
            onChange={(medium) => {
              // What is usual on it, until a person says otherwise.
              const { family, settings } = lineMedia[medium]
              form.set(line ? { medium } : { medium, family, settings })
            }}
          />
          <Choice
            label="Numbering"
            value={form.values.family}
            choices={nodeFamilies.map(({ id, name }) => ({ value: id as string, label: name }))}
            onChange={(family) => form.set({ family })}
          />
          <Field label="Settings in short" typed {...settings} trouble={settings.trouble ?? unreadable} />
          <Field
            label="Serial port of this laptop"
            typed
            placeholder="none: reached through a gateway"
            {...form.bind('laptopPort')}
          />
          {isSerial(form.values) && (
            <>
              <Field label="Waits for a unit, ms" typed placeholder="not known" {...form.bind('timeoutMs')} />
              <Field label="Tries after the first" typed placeholder="not known" {...form.bind('retries')} />
              <Field label="Time of the gateway, ms" typed placeholder="not known" {...form.bind('gatewayMs')} />
            </>
          )}
        </div>
        <p className="note">{nodeFamilies.find((each) => each.id === form.values.family)?.source}.</p>
        <Problems reason={form.trouble} />
        <SaveRow remove={line && { name: line.name, onRemove }} />
      </form>
    </Dialog>
  )
}
