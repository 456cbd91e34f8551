import { hitRates, dice, onePoint, inexplicable } from '../packages/core/src/explain/fixtures'
import { explainPoints } from '../packages/core/src/explain'
for (const r of hitRates(100, 7)) console.log(r.name.padEnd(40), r.cases, r.first, r.alone, r.firstThree, r.found)
const roll = dice(5)
let n = 0,
  f = 0
for (let k = 0; k < 300; k++) {
  const c = inexplicable(roll)
  const [a] = explainPoints(c.questions)
  n++
  if (a!.search.verdict !== 'unexplained') {
    f++
    const e = a!.explanations[0]!
    if (f < 6) console.log(e.aspects.join(), e.accidental.toExponential(1))
  }
}
console.log('inexplicable but explained', f, n)
const cs = Array.from({ length: 50 }, () => onePoint(roll, 'shift and order', 1)).filter(Boolean)
const t = performance.now()
for (const c of cs) explainPoints(c!.questions)
console.log((performance.now() - t) / cs.length, 'ms each')
