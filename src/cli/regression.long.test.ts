/** No finding about a plan with a mistake in it changes unseen, by docs/regression.json; ./ivent docs regression writes it anew. */
import { readFileSync } from 'node:fs'
import { MISTAKEN_PLANS, mistakenPlanFigures, REGRESSION_FILE, type KeptFigures } from './regression'

const kept = JSON.parse(readFileSync(REGRESSION_FILE, 'utf8')) as Readonly<Record<string, KeptFigures>>

test.each(MISTAKEN_PLANS)(
  '%s, %s, with each mistake: nothing that is found or offered has changed',
  (engineClass, school) => {
    expect(mistakenPlanFigures(engineClass, school)).toEqual(kept[`mistakes: ${engineClass}, ${school}`])
  },
)
