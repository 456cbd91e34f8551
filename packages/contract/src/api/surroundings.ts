import type { BenchLaptopView, FrontAct, LaptopInterface, Me, StandInView } from '../live'
import type { faults, me, newPasscode, session } from '../requests'
import type { Fronts, SerialPorts } from './answers'
import { del, DONE, get, LOOKED, post, put, type Let } from './endpoint'

/** What is around the jobs: health, the laptop, the bench, who is at the page. */
export const surroundingsApi = {
  health: get<{ readonly ok: true; readonly upSeconds: number; readonly bench: boolean }>()('/health'),
  laptop: get<readonly LaptopInterface[]>()('/laptop'),
  serialPorts: get<SerialPorts>()('/serial-ports'),
  bench: get<readonly StandInView[]>()('/bench'),
  setFaults: put<readonly StandInView[], Let<typeof faults>>()('/bench/:tag'),
  fronts: get<Fronts>()('/bench-fronts'),
  act: post<Fronts, FrontAct>()('/bench-fronts/:tag', LOOKED),
  setBenchLaptop: put<Fronts, BenchLaptopView>()('/bench-laptop'),
  deliver: post<Fronts>()('/bench-deliver', LOOKED),
  me: get<Me>()('/me'),
  setMe: put<Me, Let<typeof me>>()('/me'),
  logIn: post<undefined, Let<typeof session>>()('/session', DONE),
  logOut: del<undefined>()('/session'),
  setPasscode: put<undefined, Let<typeof newPasscode>>()('/passcodes/:role', DONE),
}
