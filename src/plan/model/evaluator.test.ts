/** Evaluators: answers are those of a fresh one, whatever was asked before, and two side by side know nothing of each other. */
import { analyse } from '../analyse'
import { uniforms } from '@/core/random'
import { ENGINE_CLASSES } from '../catalogue/engines'
import { setField, setLine } from '../edit/edit-builders'
import { activeVariant } from '../edit/edit'
import { newBuild } from '../schools/new-build'
import { SCHOOLS } from '../schools/schools'
import { after } from '../testing'
import { capacityOf } from './capacity'
import { makeEvaluator } from './evaluator'

const DAY = '2026-01-01'
/** Builds that are alike in much: classes, schools, sizes and weather in turn. */
const builds = SCHOOLS.slice(0, 8).flatMap((school, k) => {
  const engineClass = ENGINE_CLASSES.filter((e) => e.cylinders > 2)[k % 3]!.key
  const b = newBuild({ name: 'x', engineClass, use: 'street', ambientC: 10, units: 'metric', school: school.key })
  const hose = activeVariant(b).lines.find((l) => l.kind === 'hose')!
  return [b, after(b, setLine(hose.id, { lengthMm: 900 })), after(b, setField(['site', 'ambientC'], -5))]
})

test('in any order, one evaluator or two in turn, answers are those of a fresh one', () => {
  const fresh = builds.map((b) => analyse(b, DAY))
  const random = uniforms(7)
  const [one, two] = [makeEvaluator(), makeEvaluator()]
  for (let n = 0; n < 4 * builds.length; n++) {
    const k = Math.floor(random() * builds.length)
    expect(analyse(builds[k]!, DAY, random() < 0.5 ? one : two)).toEqual(fresh[k])
  }
})

test('what is asked once of an object is made once, by each evaluator for itself', () => {
  const [one, two] = [makeEvaluator(), makeEvaluator()]
  const made = one.once(capacityOf, builds[0]!)
  expect(one.once(capacityOf, builds[0]!)).toBe(made)
  expect(two.once(capacityOf, builds[0]!)).not.toBe(made)
  expect(two.once(capacityOf, builds[0]!)).toEqual(made)
})
