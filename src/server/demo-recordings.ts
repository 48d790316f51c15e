/** Recordings that the demo's builds have kept: a sound drive, and one on which something happens. */
import { applyEdits } from '@/plan/edit/edit'
import { RECORDING_TYPE } from '@/plan/document/bounds'
import type { Build } from '@/plan/document/schema'
import { gradedFaults } from '@/plan/faults/graded-faults'
import { engineModel } from '@/plan/model/engine'
import { packRecording } from '@/plan/recordings/parquet'
import { readLoggerFile } from '@/plan/recordings/read-recording'
import { recordingLines, WRITING_STYLES } from '@/plan/recordings/write-recording'
import { simulateDrive, USUAL_SENSOR, type DriveOptions } from '@/plan/studies/simulated-drive'
import type { StoredFiles } from './files'

type DemoDrive = Omit<DriveOptions, 'fault'> & {
  readonly name: string
  readonly fault?: { readonly id: string; readonly share: number; readonly at: number }
}
const DRIVES: Readonly<Record<string, readonly DemoDrive[]>> = {
  Heron: [
    {
      name: 'Coast road, May',
      kind: 'hill',
      seed: 14,
      seconds: 210,
      hz: 10,
      sensor: { ...USUAL_SENSOR, offsetPa: 60 },
    },
    {
      name: 'Coast road, November',
      kind: 'hill',
      seed: 31,
      seconds: 240,
      hz: 10,
      sensor: { ...USUAL_SENSOR, offsetPa: 60 },
      fault: { id: 'breather-flat', share: 0.02, at: 128 },
    },
  ],
}

/** What a build of the demo has kept of its logger. */
export function demoRecordings(build: Build): StoredFiles {
  const attachments = (DRIVES[build.name] ?? []).map(({ name, fault, ...options }) => {
    const failing = fault && gradedFaults(build).find((f) => f.id === fault.id)
    const broken = failing && applyEdits(build, failing.editsAt(fault.share))
    const drive = simulateDrive(build, {
      ...options,
      fault: broken?.ok ? { build: broken.value, at: fault!.at } : undefined,
    })
    const text = [...recordingLines(drive, WRITING_STYLES[0]!, engineModel(build).amb.pressurePa)].join('\n')
    const read = readLoggerFile(text)
    if (!read.ok) throw new Error(read.reason)
    const base64 = Buffer.from(packRecording(read.value)).toString('base64')
    return { name: `${name}.parquet`, type: RECORDING_TYPE, about: 'recording', base64 }
  })
  return { recordings: [], attachments }
}
