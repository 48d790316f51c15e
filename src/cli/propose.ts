/** ./ivent propose BUILD.json [--wishes FILE] [--plans 20000] [--seed 1] [--hold circuit]: the few plans worth choosing between, as JSON. */
import { finish } from '@/core/job'
import { propose } from '@/plan/proposals/propose'
import { readWishes, WALL_NAMES, wishesOf } from '@/plan/proposals/wishes'
import { today } from '@/server/today'
import { endWith, readArguments } from './command-line'
import { buildFromFile, readJsonFile } from './read-build-file'

const USE = `Use ./ivent propose BUILD.json [--wishes FILE] [--plans 20000] [--seed 1] [--hold circuit]; the file of wishes is JSON with any of
  sealed, badEnd (true or false), refused (drill, weld, coverOff, panOff, lift), mostPrice, mostHours, mostLooks, keepCan;
  --hold circuit keeps the circuit of the plan as it stands and frees its sizes`

function stop(words: string): never {
  endWith(words, 2)
}

const { values, positionals } = readArguments(
  {
    wishes: { type: 'string' },
    plans: { type: 'string', default: '20000' },
    seed: { type: 'string', default: '1' },
    hold: { type: 'string' },
  },
  USE,
)
const [file] = positionals
const build = buildFromFile(file ?? stop(USE))
const number = (name: string, text: string, low: number, high: number): number => {
  const x = Number(text)
  return text !== '' && Number.isInteger(x) && x >= low && x <= high
    ? x
    : stop(`--${name} is a whole number from ${low} to ${high}. ${USE}`)
}
const asked = values.wishes === undefined ? undefined : readWishes(readJsonFile(values.wishes), build)
if (asked && !asked.ok) stop(`${values.wishes}: ${asked.reason}`)
const wishes = asked?.value ?? wishesOf(build)

if (values.hold !== undefined && values.hold !== 'circuit') stop(`--hold takes circuit. ${USE}`)

const {
  offers,
  dots: _dots,
  walls,
  ...found
} = finish(
  propose(build, wishes, today(), {
    plans: number('plans', values.plans, 1, 200_000),
    seed: number('seed', values.seed, 0, 2 ** 31),
    hold: values.hold === 'circuit' ? 'circuit' : undefined,
  }),
)
console.log(
  JSON.stringify(
    {
      wishes,
      ...found,
      walls: walls.map((w) => ({ ...w, says: WALL_NAMES[w.wall] })),
      offers: offers.map(({ measure, genome: _genome, ...o }) => ({
        ...o,
        measure: measure.total,
        badEndPa: measure.facts.highest,
        worst: measure.facts.worstFailure?.name,
      })),
    },
    undefined,
    2,
  ),
)
