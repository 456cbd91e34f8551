import type { Cause, LaptopState, WaitRecord, WalkRecord } from '@calm/core/procedure'
import { versionOnly } from '../requests'
import {
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
import type { Added, CheckAnswer, KeepsakeHead, PictureTaken, ProbeView, SweepView, UnitsFound } from './answers'
import { ACCEPTED, del, DONE, get, LOOKED, post, put } from './endpoint'

/** First contact: the order, the steps, waits, looks at what is there, what is kept. */
export const walkApi = {
  walk: get<WalkRecord>()('/jobs/:jobId/walk'),
  putOrder: put<undefined>()('/jobs/:jobId/walk/order', orderPut, DONE),
  putSettings: put<undefined>()('/jobs/:jobId/walk/settings', settingsPut, DONE),
  settleStep: post<undefined>()('/jobs/:jobId/walk/steps', stepSettling, DONE),
  settleStretch: post<undefined>()('/jobs/:jobId/walk/stretch', stretchSettling, DONE),
  reopenStep: post<undefined>()('/jobs/:jobId/walk/reopen', stepNamed, DONE),
  beginWait: post<WaitRecord>()('/jobs/:jobId/walk/wait', stepNamed, ACCEPTED),
  check: post<CheckAnswer>()('/jobs/:jobId/walk/check', stepNamed, LOOKED),
  laptopState: get<LaptopState>()('/jobs/:jobId/laptop'),
  nothingAnswers: post<readonly Cause[]>()('/jobs/:jobId/nothing-answers', probeAsk, LOOKED),
  probe: post<ProbeView>()('/jobs/:jobId/probe', probeAsk, LOOKED),
  beginSweep: post<SweepView>()('/jobs/:jobId/sweep', sweepAsk, ACCEPTED),
  sweep: get<SweepView | null>()('/jobs/:jobId/sweep'),
  units: post<UnitsFound>()('/jobs/:jobId/units', unitsAsk, LOOKED),
  addFact: post<undefined>()('/jobs/:jobId/facts', newFact, DONE),
  addTemporary: post<Added>()('/jobs/:jobId/temporary', newTemporary),
  putBack: post<undefined>()('/temporary/:id/back', versionOnly, DONE),
  addRun: post<Added>()('/jobs/:jobId/runs', newRun),
  /** The body is the text of a file of runs. */
  importRuns: post<{ readonly count: number }>()('/jobs/:jobId/runs/import'),
  removeRun: del<undefined>()('/runs/:id', versionOnly),
  keepsakes: get<readonly KeepsakeHead[]>()('/jobs/:jobId/keepsakes'),
  keepsake: get<KeepsakeHead & { readonly content: unknown }>()('/jobs/:jobId/keepsakes/:id'),
  takePicture: post<PictureTaken>()('/jobs/:jobId/pictures', pictureAsk),
}
