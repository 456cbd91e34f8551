// Loaded into a measured server: how long its event loop was held, by the clock and by its own processor time.
// A virtual machine stops whole threads now and then; only the second figure is the program's. SIGUSR2 begins anew.
import { readFileSync, writeFileSync } from 'node:fs'

const EVERY_MS = 5
const schedule = `/proc/self/task/${process.pid}/schedstat`
/** Milliseconds that the main thread has computed so far; Linux counts them. */
const computed = () => Number(readFileSync(schedule, 'utf8').split(' ')[0]) / 1e6

let before = { wall: performance.now(), own: computed() }
let longest = { wall: 0, own: 0, ticks: 0 }
setInterval(() => {
  const now = { wall: performance.now(), own: computed() }
  longest = {
    wall: Math.max(longest.wall, now.wall - before.wall - EVERY_MS),
    own: Math.max(longest.own, now.own - before.own),
    ticks: longest.ticks + 1,
  }
  before = now
}, EVERY_MS)
process.on('SIGUSR2', () => (longest = { wall: 0, own: 0, ticks: 0 }))
process.on('exit', () => writeFileSync(process.env.LOOP_PROBE ?? '/dev/null', JSON.stringify(longest)))
