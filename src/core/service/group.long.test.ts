/** What cars of a kind say of the next, over simulated shops. */
import { uniforms } from '../random'
import { evidenceOf, nextOfGroup } from './group'
import { learn } from './learn'
import { nextFilling } from './next-filling'
import { normalQuantile } from './normal'
import { BLANK, PRIOR_SIGMA, SCATTER } from './prior'

const { exp, log, sqrt } = Math
test('simulated shops: the twentieth car’s first band holds as often as it says, and is narrower than without the others', () => {
  const [SHOPS, NEXT, CARS, EMPTYINGS] = [120, 10, 19, 2]
  const uniform = uniforms(20)
  const normal = () => normalQuantile(uniform())
  const rate = { oil: 1, water: 0 }
  const blank = nextFilling(learn([]), rate)
  let [inside, width, errors, without] = [0, 0, 0, 0]
  for (let shop = 0; shop < SHOPS; shop++) {
    const common = 0.62 * normal()
    const between = 0.43 * exp(0.4 * normal())
    // an interval strays by Student's t of 4 degrees: a normal over the root of a mean of four squares
    const strays = () => {
      const squares = Array.from({ length: 4 }, () => normal() ** 2).reduce((s, x) => s + x, 0)
      return SCATTER.median * (normal() / sqrt(squares / 4))
    }
    const taught = Array.from({ length: CARS }, () => {
      const car = common + between * normal()
      const found = () => ({ predicted: { oil: 3e-5, water: 0 }, oil: { found: 3e-5 * exp(car + strays()) } })
      return evidenceOf(BLANK.oil, learn(Array.from({ length: EMPTYINGS }, found)).oil)!
    })
    const known = learn([], { ...BLANK, oil: nextOfGroup(taught, PRIOR_SIGMA) })
    const band = nextFilling(known, rate)
    width += log(band.high / band.low)
    for (let n = 0; n < NEXT; n++) {
      const found = exp(common + between * normal() + strays())
      if (found >= band.low && found <= band.high) inside++
      errors += Math.abs(log(found / band.mid))
      without += Math.abs(log(found / blank.mid))
    }
  }
  const trials = SHOPS * NEXT
  expect(inside / trials).toBeGreaterThan(0.75)
  expect(inside / trials).toBeLessThan(0.87)
  expect(width / SHOPS / log(blank.high / blank.low)).toBeLessThan(0.8)
  expect(errors / without).toBeLessThan(0.8)
})
