/** ./ivent recording BUILD.json FILE: what a logger's file says of a build, as JSON. */
import { createReadStream } from 'node:fs'
import { finish } from '@/core/job'
import { engineModel } from '@/plan/model/engine'
import { driveOf } from '@/plan/recordings/drive'
import { startReading } from '@/plan/recordings/read-recording'
import { reportRecording } from '@/plan/studies/recording-report'
import { endWith } from './command-line'
import { buildFromFile } from './read-build-file'

const [, , buildFile, file] = process.argv

function stop(words: string): never {
  endWith(words, 1)
}

/** Piece by piece: a file may be larger than a string can be. */
async function readFile(path: string) {
  const reading = startReading()
  for await (const piece of createReadStream(path, { encoding: 'utf8', highWaterMark: 1_000_000 }))
    if (!reading.push(String(piece))) break
  const read = reading.end()
  return read.ok ? read.value.recorded : stop(`${path}: ${read.reason}`)
}

async function report(): Promise<void> {
  if (buildFile === undefined || file === undefined) stop('Use ./ivent recording BUILD.json FILE')
  const build = buildFromFile(buildFile)
  const recorded = await readFile(file)
  const { facts, amb } = engineModel(build)
  const drive = driveOf(recorded, facts, amb)
  const { seconds, channels, bad, empty, joined, cutOff, gaps, step, startedAt } = recorded
  const about = {
    rows: seconds.length,
    seconds: seconds.at(-1),
    step,
    startedAt,
    bad,
    empty,
    joined,
    cutOff,
    gaps,
    columns: channels.map(({ name, unit, role, gauge, reason }) => ({ name, unit, role, gauge, reason })),
  }
  if (!drive.ok) {
    console.log(JSON.stringify({ file: about, problem: drive.reason }, undefined, 2))
    process.exit(1)
  }
  console.log(JSON.stringify({ file: about, ...finish(reportRecording(build, drive.value)).report }, undefined, 2))
}

void report()
