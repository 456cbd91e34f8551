import { jobsApi } from './jobs'
import { proofApi } from './proof'
import { surroundingsApi } from './surroundings'
import { walkApi } from './walk'

/** Every request of the API. Its paths, bodies and answers are said here and nowhere else. */
export const api = { ...jobsApi, ...proofApi, ...walkApi, ...surroundingsApi }

export type * from './answers'
export { pathOf, type Endpoint, type ParamsOf } from './endpoint'
