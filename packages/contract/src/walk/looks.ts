import { limits } from '@calm/core/modbus'
import Joi from 'joi'
import { address, id, line } from '../fields'

export const probeAsk = Joi.object<{
  readonly address: string
  readonly port: number
  readonly deviceId: string | null
}>({
  address: address.required(),
  port: Joi.number().integer().min(1).max(65_535).strict().required(),
  deviceId: id.allow(null).required(),
})
export const sweepAsk = Joi.object<{ readonly cidr: string }>({ cidr: line.required() })
const serialUnit = Joi.number().integer().min(limits.firstUnit).max(limits.lastSerialUnit).strict()
export const unitsAsk = Joi.object<{ readonly deviceId: string; readonly first: number; readonly last: number }>({
  deviceId: id.required(),
  first: serialUnit.required(),
  last: serialUnit.required(),
})
export interface PictureAsk {
  readonly when: 'before' | 'after'
  readonly notes: readonly string[]
  /** Field devices as another screen lists them, one in a line; left out where no list was taken. */
  readonly fieldList?: string
}
/** A picture of a label as evidence, small enough for every job, with what was read off it. */
export interface LabelKept {
  readonly deviceId: string
  /** JPEG, as a data link. */
  readonly image: string
  readonly codes: readonly { readonly format: string; readonly text: string; readonly takenFor: string }[]
}
/** As many signs as a picture of a label may have: some 110 kB of JPEG. */
export const MOST_LABEL_SIGNS = 150_000
export const labelKept = Joi.object<LabelKept>({
  deviceId: id.required(),
  image: Joi.string()
    .max(MOST_LABEL_SIGNS)
    .pattern(/^data:image\/jpeg;base64,[A-Za-z0-9+/]+=*$/, 'a picture in JPEG')
    .required(),
  codes: Joi.array()
    .items(
      Joi.object({
        format: line.max(40).required(),
        text: line.max(600).required(),
        takenFor: line.max(40).allow('').required(),
      }),
    )
    .max(40)
    .required(),
})
export const pictureAsk = Joi.object<PictureAsk>({
  when: Joi.valid('before', 'after').required(),
  notes: Joi.array().items(line.max(400)).max(100).required(),
  fieldList: Joi.string().max(200_000),
})
