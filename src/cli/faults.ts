/** ./ivent faults BUILD.json [--symptoms a,b] [--since DAY] [--list]: what is most likely wrong with a build by all that its log says, as JSON. */
import { finish } from '@/core/job'
import { isDay } from '@/plan/document/schema'
import { gradedFaults } from '@/plan/faults/graded-faults'
import { EMPTY_CASE, makeFaultFinder } from '@/plan/finder/find-faults'
import { SYMPTOM_IDS, SYMPTOMS } from '@/plan/finder/symptoms'
import { today } from '@/server/today'
import { endWith, readArguments } from './command-line'
import { buildFromFile } from './read-build-file'

const USE =
  'Use ./ivent faults BUILD.json [--symptoms a,-b] [--since 2026-05-30], a - before what was looked for and not seen; or --list for symptoms and faults'

function stop(words: string): never {
  endWith(words, 2)
}

const { values, positionals } = readArguments(
  {
    symptoms: { type: 'string', default: '' },
    since: { type: 'string' },
    list: { type: 'boolean', default: false },
  },
  USE,
)
const [file] = positionals
const build = buildFromFile(file ?? stop(USE))

if (values.list) {
  const faults = gradedFaults(build).map(({ id, name, of, kind, extent }) => ({
    id,
    name,
    part: of,
    kind,
    severity: extent && [extent.says(extent.least), extent.says(extent.most)],
  }))
  console.log(
    JSON.stringify({ symptoms: SYMPTOM_IDS.map((id) => ({ id, name: SYMPTOMS[id].name })), faults }, undefined, 2),
  )
  process.exit(0)
}

const symptoms = values.symptoms.split(',').flatMap((text) => {
  const id = text.trim().replace(/^-/, '')
  if (id === '') return []
  if (!SYMPTOM_IDS.some((s) => s === id)) stop(`There is no symptom ${id}; --list names them.`)
  return [{ id, seen: !text.trim().startsWith('-') }]
})
if (values.since !== undefined && !isDay(values.since)) stop(`--since is a day such as 2026-05-30. ${USE}`)

const { rows, sets, next, settled, columns } = finish(
  makeFaultFinder().find(build, { ...EMPTY_CASE, symptoms, since: values.since }, today()),
)
console.log(
  JSON.stringify(
    {
      read: columns.map(({ name, says, date }) => ({ name, says, date })),
      faults: rows.map((r) => ({
        id: r.id,
        name: r.name,
        part: r.of[0],
        kind: r.kinds[0] ?? 'nothing',
        kinds: r.kinds,
        severity: r.severity,
        extent: r.extent,
        odds: r.share,
        reason: r.reason,
      })),
      sets,
      settled,
      next: next.map(({ id, name, minutes, needs, caution, bits, shows }) => ({
        id,
        name,
        minutes,
        bits,
        bitsPerMinute: bits / minutes,
        needs,
        caution,
        shows,
      })),
    },
    undefined,
    2,
  ),
)
