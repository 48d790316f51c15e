/**
 * ./ivent logger BUILD.json: a logger that stands in for a real one. It plays a drive through the build's own model, with a sensor's noise,
 * drift and missed samples, and writes it as loggers do; on request something fails on the way.
 */
import { readFileSync, writeFileSync } from 'node:fs'
import { parseArgs } from 'node:util'
import { validateBuild } from '@/plan/document/validate'
import { applyEdits } from '@/plan/edit/edit'
import { faultsOf } from '@/plan/faults/faults'
import { engineModel } from '@/plan/model/engine'
import { recordingLines, WRITING_STYLES } from '@/plan/recordings/write-recording'
import {
  DRIVE_KINDS,
  DRIVE_PROFILES,
  USUAL_SENSOR,
  simulateDrive,
  type DriveKind,
} from '@/plan/studies/simulated-drive'

const USE =
  'Use ./ivent logger BUILD.json --drive KIND [--seed N] [--seconds S] [--fault ID@SECONDS] [--offset PA] [--style 0-2] ' +
  '[--csv FILE], or --list for drives and faults'

function stop(words: string): never {
  console.error(words)
  process.exit(2)
}

const { values, positionals } = parseArgs({
  args: process.argv.slice(2),
  allowPositionals: true,
  options: {
    drive: { type: 'string', default: 'street' },
    seed: { type: 'string', default: '1' },
    seconds: { type: 'string' },
    fault: { type: 'string' },
    offset: { type: 'string', default: '0' },
    style: { type: 'string', default: '0' },
    csv: { type: 'string' },
    list: { type: 'boolean', default: false },
  },
})

const number = (name: string, text: string, low: number, high: number): number => {
  const x = Number(text)
  return text !== '' && x >= low && x <= high ? x : stop(`--${name} is a number from ${low} to ${high}. ${USE}`)
}

const [file] = positionals
if (file === undefined) stop(USE)
const read = validateBuild(JSON.parse(readFileSync(file, 'utf8')))
if (!read.ok) stop(`${file} is no build: ${read.problems[0]!.path} ${read.problems[0]!.message}`)
const { build } = read
const faults = faultsOf(build)

if (values.list) {
  for (const kind of DRIVE_KINDS) console.log(`--drive ${kind.padEnd(24)} ${DRIVE_PROFILES[kind].name}`)
  for (const f of faults) console.log(`--fault ${`${f.id}@120`.padEnd(24)} ${f.name}`)
  process.exit(0)
}

/** What fails, and from when on. */
function failing(text: string) {
  const [id, at = ''] = text.split('@')
  const fault = faults.find((f) => f.id === id) ?? stop(`There is no fault ${id} in this build; --list names them.`)
  const broken = applyEdits(build, fault.edits)
  if (!broken.ok) stop(broken.reason)
  return { build: broken.value, at: number('fault ID@SECONDS', at, 0, 86_400) }
}

const kind = values.drive as DriveKind
if (!DRIVE_KINDS.includes(kind)) stop(`There is no drive ${kind}; --list names them.`)
const style = WRITING_STYLES[number('style', values.style, 0, WRITING_STYLES.length - 1)] ?? stop(USE)
const drive = simulateDrive(build, {
  kind,
  seed: number('seed', values.seed, 0, 2 ** 31),
  ...(values.seconds === undefined ? {} : { seconds: number('seconds', values.seconds, 1, 86_400) }),
  sensor: { ...USUAL_SENSOR, offsetPa: number('offset', values.offset, -50_000, 50_000) },
  fault: values.fault === undefined ? undefined : failing(values.fault),
})
const text = `${[...recordingLines(drive, style, engineModel(build).amb.pressurePa)].join('\n')}\n`
if (values.csv === undefined) process.stdout.write(text)
else writeFileSync(values.csv, text)
