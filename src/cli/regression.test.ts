/** No figure changes unseen: what is worked out today is what docs/regression.json has; ./ivent docs regression writes it anew. */
import { readFileSync } from 'node:fs'
import {
  CLASS_PLANS,
  brokenPlanFigures,
  classFigures,
  DEMO_PLANS,
  demoFigures,
  MISTAKEN_PLANS,
  REGRESSION_FILE,
  tableFigures,
  type KeptFigures,
} from './regression'

const kept = JSON.parse(readFileSync(REGRESSION_FILE, 'utf8')) as Readonly<Record<string, KeptFigures>>

test('the file has every plan, and no other', () => {
  expect(Object.keys(kept)).toEqual([
    'tables',
    ...CLASS_PLANS.map(([c, s]) => `${c}, ${s}`),
    ...DEMO_PLANS.map((b) => b.name),
    'broken plans',
    ...MISTAKEN_PLANS.map(([c, s]) => `mistakes: ${c}, ${s}`),
  ])
})

test('the tables: no figure has changed', () => {
  expect(tableFigures()).toEqual(kept['tables'])
})

test.each(CLASS_PLANS)('%s, %s: no figure has changed', (engineClass, school) => {
  expect(classFigures(engineClass, school)).toEqual(kept[`${engineClass}, ${school}`])
})

test.each(DEMO_PLANS.map((b) => [b.name, b] as const))('%s: no figure has changed', (name, build) => {
  expect(demoFigures(build)).toEqual(kept[name])
})

test('broken plans: nothing that is found or offered has changed', () => {
  expect(brokenPlanFigures()).toEqual(kept['broken plans'])
})
