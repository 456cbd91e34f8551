import Joi from 'joi'
import { address, finite, line, tag } from '../fields'

const flag = Joi.boolean().strict()
export const frontAct = Joi.alternatives(
  Joi.object({ act: Joi.valid('power', 'plug').required(), on: flag.required() }),
  Joi.object({ act: Joi.valid('press').required(), id: line.required(), seconds: finite.min(0).max(600).required() }),
  Joi.object({ act: Joi.valid('turn').required(), id: line.required(), value: line.required() }),
)
export const benchLaptop = Joi.object({
  addresses: Joi.array()
    .items(
      Joi.object({ address: address.required(), prefix: Joi.number().integer().min(1).max(30).strict().required() }),
    )
    .max(2)
    .required(),
  cable: tag.required(),
  speed: Joi.valid(1, 5, 20, 100).required(),
})
