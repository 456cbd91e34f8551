import type { VersionRelation } from '../identity'
import { ok, refusal } from '../units'
import type { DeviceColumn } from './column'
import { tagOf } from './placeColumns'
import { relationWords } from './rules'

/** The version that is needed, with how to compare: `at least 2.10`, `not above SUP-801`. */
export const firmwareNeeded: DeviceColumn = {
  id: 'firmwareNeeded',
  name: 'Firmware needed',
  heads: ['firmwareneeded', 'fwneeded', 'minimumfirmware', 'firmwaremin'],
  typed: true,
  text: (device, job) => {
    const measure = device.firmwareOfId === null ? device.firmwareNeeded : tagOf(job, device.firmwareOfId)
    if (device.firmwareRelation === 'any') return measure === '' ? '' : `${relationWords.any} ${measure}`
    return `${relationWords[device.firmwareRelation]} ${measure}`.trim()
  },
  read: (text, job, device) => {
    const typed = text.trim()
    const { relation, measure } = relationIn(typed)
    const other = job.devices.find((each) => each.tag === measure)
    if (other && other.id === device?.id)
      return refusal('row.firmware-self', 'A device is no measure for itself.', measure, 'another device, or a version')
    if (typed !== '' && measure === '' && relation !== 'any')
      return refusal('row.firmware-blank', 'It says how to compare, but not with what.', typed, 'at least 2.10')
    return ok({
      device: { firmwareRelation: relation, firmwareNeeded: other ? '' : measure, firmwareOfId: other?.id ?? null },
    })
  },
}

function relationIn(text: string): { readonly relation: VersionRelation; readonly measure: string } {
  const forms: readonly (readonly [RegExp, VersionRelation])[] = [
    [/^(at least|>=|≥|from|min\.?)\s*/i, 'at-least'],
    [/^(not above|at most|<=|≤|max\.?)\s*/i, 'not-above'],
    [/^(equal to|equal|=|==)\s*/i, 'equal'],
    [/^(does not matter|any)\s*/i, 'any'],
  ]
  for (const [form, relation] of forms) if (form.test(text)) return { relation, measure: text.replace(form, '').trim() }
  return { relation: text === '' ? 'any' : 'at-least', measure: text }
}
