import type Joi from 'joi'
import {
  faults,
  me,
  newDecision,
  newEvidence,
  newForced,
  newJob,
  newPasscode,
  readingEvidence,
  session,
  versionOnly,
} from '../requests'
import {
  benchLaptop,
  frontAct,
  labelKept,
  newFact,
  newRun,
  newTemporary,
  orderPut,
  pictureAsk,
  probeAsk,
  settingsPut,
  stepNamed,
  stepSettling,
  stretchSettling,
  sweepAsk,
  unitsAsk,
} from '../walk'
import { api, type Endpoint } from '../api'

type BodyOf<E> = E extends Endpoint<string, infer B> ? B : never

/** What may be sent to each endpoint; left out where nothing is, or where the route reads the body by itself. */
export const bodies: { readonly [K in keyof typeof api]?: Joi.Schema<BodyOf<(typeof api)[K]>> } = {
  beginJob: newJob,
  addForced: newForced,
  releaseForced: versionOnly,
  addEvidence: newEvidence,
  recordReading: readingEvidence,
  decide: newDecision,
  putOrder: orderPut,
  putSettings: settingsPut,
  settleStep: stepSettling,
  settleStretch: stretchSettling,
  reopenStep: stepNamed,
  beginWait: stepNamed,
  check: stepNamed,
  nothingAnswers: probeAsk,
  probe: probeAsk,
  beginSweep: sweepAsk,
  units: unitsAsk,
  addFact: newFact,
  addTemporary: newTemporary,
  putBack: versionOnly,
  addRun: newRun,
  removeRun: versionOnly,
  keepLabel: labelKept,
  takePicture: pictureAsk,
  setFaults: faults,
  act: frontAct,
  setBenchLaptop: benchLaptop,
  setMe: me,
  logIn: session,
  setPasscode: newPasscode,
}

const byEndpoint = new Map<unknown, Joi.Schema>(
  Object.entries(bodies).map(([name, schema]) => [api[name as keyof typeof api], schema]),
)

/** The schema of what is sent to an endpoint. */
export const schemaOf = (endpoint: Endpoint): Joi.Schema | undefined => byEndpoint.get(endpoint)
