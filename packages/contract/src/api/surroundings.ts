import type { BenchLaptopView, FrontAct, LaptopInterface, Me, StandInView } from '../live'
import { faults, me, newPasscode, session } from '../requests'
import { benchLaptop, frontAct } from '../walk'
import type Joi from 'joi'
import type { Fronts, SerialPorts } from './answers'
import { del, DONE, get, LOOKED, post, put } from './endpoint'

/** What is around the jobs: health, the laptop, the bench, who is at the page. */
export const surroundingsApi = {
  health: get<{ readonly ok: true; readonly upSeconds: number; readonly bench: boolean }>()('/health'),
  laptop: get<readonly LaptopInterface[]>()('/laptop'),
  serialPorts: get<SerialPorts>()('/serial-ports'),
  bench: get<readonly StandInView[]>()('/bench'),
  setFaults: put<readonly StandInView[]>()('/bench/:tag', faults),
  fronts: get<Fronts>()('/bench-fronts'),
  act: post<Fronts>()('/bench-fronts/:tag', frontAct as Joi.Schema as Joi.ObjectSchema<FrontAct>, LOOKED),
  setBenchLaptop: put<Fronts>()('/bench-laptop', benchLaptop as Joi.ObjectSchema<BenchLaptopView>),
  deliver: post<Fronts>()('/bench-deliver', undefined, LOOKED),
  me: get<Me>()('/me'),
  setMe: put<Me>()('/me', me),
  logIn: post<undefined>()('/session', session, DONE),
  logOut: del<undefined>()('/session'),
  setPasscode: put<undefined>()('/passcodes/:role', newPasscode, DONE),
}
