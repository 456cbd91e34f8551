import type { SettingSeen, SettingsSeen } from '@calm/contract'
import { mirrorsOf, type Handshake, type Job, type Point, type TermMirror } from '@calm/core/job'
import { mirrored, readMirror, termDefinition } from '@calm/core/terms'
import type { Refusal, Result } from '@calm/core/units'
import { hopPlan, readHop, type LiveContext } from './readHop'

/**
 * What the settings of a device stand at: its registers that mirror them, each asked once; on the bench also what the
 * stand-in has. What cannot be read, or means nothing that is known, is a reason and never a value.
 */
export async function readSettings(context: LiveContext, job: Job, handshake: Handshake): Promise<SettingsSeen> {
  const settings: SettingSeen[] = []
  for (const mirror of mirrorsOf(job, handshake)) settings.push(await readMirrored(context, job, handshake, mirror))
  const tag = job.devices.find(({ id }) => id === handshake.deviceId)?.tag
  const atStandIn = job.mode === 'bench' ? (context.bench?.settingsOf(tag ?? '') ?? []) : []
  for (const { termId, standing, text } of atStandIn)
    settings.push({
      termId,
      standing,
      ...judged(termId, text),
      origin: `the stand-in ${tag}`,
    })
  return { at: context.clock(), mode: job.mode, settings }
}

async function readMirrored(
  context: LiveContext,
  job: Job,
  handshake: Handshake,
  { termId, text }: TermMirror,
): Promise<SettingSeen> {
  const mirror = readMirror(text)
  const not = (silence: string): SettingSeen => ({ termId, standing: 'found', text: '', silence, origin: text })
  if (!mirror.ok) return not(said(mirror.refusal))
  const values: number[] = []
  for (const { place } of mirror.value) {
    // Only where it lies and as what it is read count of a point here.
    const plan = hopPlan(job, handshake, { source: place } as Point, 'device')
    const seen = await readHop(context, job, 'device', plan, 0)
    if (seen.value === null) return not(seen.silence || 'It answered no number.')
    values.push(seen.value)
  }
  const read = mirrored(mirror.value, values)
  const registers = mirror.value.map(({ place }) => place.register).join(', ')
  const origin = `register${mirror.value.length === 1 ? '' : 's'} ${registers}: ${values.join(', ')}`
  return read.ok ? { termId, standing: 'found', ...judged(termId, read.value), origin } : not(said(read.refusal))
}

/** What was read, once the term can be read from it. */
function judged(termId: SettingSeen['termId'], text: string): Pick<SettingSeen, 'text' | 'silence'> {
  const read: Result<unknown> = termDefinition(termId).parse({ text, origin: '' }, { terms: {}, end: 'device' })
  return read.ok ? { text, silence: '' } : { text: '', silence: `It shows ${text}. ${said(read.refusal)}` }
}

const said = ({ what, expected }: Refusal) => `${what} Expected ${expected}.`
