import type { Cause, LaptopState, WaitRecord, WalkRecord } from '@calm/core/procedure'
import type { versionOnly } from '../requests'
import type {
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
import type {
  Added,
  CheckAnswer,
  KeepsakeHead,
  ListenView,
  PictureTaken,
  ProbeView,
  SweepView,
  UnitsFound,
} from './answers'
import { ACCEPTED, del, DONE, get, LOOKED, post, put, type Let } from './endpoint'

/** First contact: the order, the steps, waits, looks at what is there, what is kept. */
export const walkApi = {
  walk: get<WalkRecord>()('/jobs/:jobId/walk'),
  putOrder: put<undefined, Let<typeof orderPut>>()('/jobs/:jobId/walk/order', DONE),
  putSettings: put<undefined, Let<typeof settingsPut>>()('/jobs/:jobId/walk/settings', DONE),
  settleStep: post<undefined, Let<typeof stepSettling>>()('/jobs/:jobId/walk/steps', DONE),
  settleStretch: post<undefined, Let<typeof stretchSettling>>()('/jobs/:jobId/walk/stretch', DONE),
  reopenStep: post<undefined, Let<typeof stepNamed>>()('/jobs/:jobId/walk/reopen', DONE),
  beginWait: post<WaitRecord, Let<typeof stepNamed>>()('/jobs/:jobId/walk/wait', ACCEPTED),
  check: post<CheckAnswer, Let<typeof stepNamed>>()('/jobs/:jobId/walk/check', LOOKED),
  laptopState: get<LaptopState>()('/jobs/:jobId/laptop'),
  nothingAnswers: post<readonly Cause[], Let<typeof probeAsk>>()('/jobs/:jobId/nothing-answers', LOOKED),
  probe: post<ProbeView, Let<typeof probeAsk>>()('/jobs/:jobId/probe', LOOKED),
  beginSweep: post<SweepView, Let<typeof sweepAsk>>()('/jobs/:jobId/sweep', ACCEPTED),
  sweep: get<SweepView | null>()('/jobs/:jobId/sweep'),
  stopSweep: del<undefined>()('/jobs/:jobId/sweep'),
  beginListening: post<ListenView>()('/jobs/:jobId/listening', ACCEPTED),
  listening: get<ListenView | null>()('/jobs/:jobId/listening'),
  stopListening: del<undefined>()('/jobs/:jobId/listening'),
  units: post<UnitsFound, Let<typeof unitsAsk>>()('/jobs/:jobId/units', LOOKED),
  addFact: post<undefined, Let<typeof newFact>>()('/jobs/:jobId/facts', DONE),
  addTemporary: post<Added, Let<typeof newTemporary>>()('/jobs/:jobId/temporary'),
  putBack: post<undefined, Let<typeof versionOnly>>()('/temporary/:id/back', DONE),
  addRun: post<Added, Let<typeof newRun>>()('/jobs/:jobId/runs'),
  /** The body is the text of a file of runs. */
  importRuns: post<{ readonly count: number }>()('/jobs/:jobId/runs/import'),
  removeRun: del<undefined, Let<typeof versionOnly>>()('/runs/:id'),
  keepsakes: get<readonly KeepsakeHead[]>()('/jobs/:jobId/keepsakes'),
  keepsake: get<KeepsakeHead & { readonly content: unknown }>()('/jobs/:jobId/keepsakes/:id'),
  keepLabel: post<Added, Let<typeof labelKept>>()('/jobs/:jobId/labels'),
  takePicture: post<PictureTaken, Let<typeof pictureAsk>>()('/jobs/:jobId/pictures'),
}
