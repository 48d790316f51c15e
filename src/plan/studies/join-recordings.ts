/** Crankcase and engine from two loggers: laid over each other by what both log, or by what the engine's own log predicts of the crankcase. */
import { finish } from '@/core/job'
import { align, type Alignment, type TimedSeries } from '@/core/recording/alignment'
import { fail, ok, type Result } from '@/core/result'
import type { Build } from '../document/schema'
import { engineModel } from '../model/engine'
import { layBeside } from '../recordings/lay-beside'
import type { LoggerRecording } from '../recordings/read-recording'
import { ROLE_FACTS, type ColumnRole } from '../recordings/roles'
import { toSiOf } from '../recordings/si'
import { driveMap, predictedOver } from './drive-map'

/** Below this the two do not move together: of what both log, and of a crankcase against what is predicted of it. */
const [LEAST_SHARED, LEAST_PREDICTED] = [0.9, 0.65]
/** What two loggers may both have, in the order in which it tells their times. */
const SHARED: readonly ColumnRole[] = ['rpm', 'manifold', 'crankcase', 'throttle', 'roadSpeed']

export type JoinedRecording = Alignment & {
  readonly recorded: LoggerRecording
  /** what showed how they lie, in words */
  readonly by: string
}

function seriesOf(r: LoggerRecording, role: ColumnRole, ambientPa: number): TimedSeries | undefined {
  const channel = r.channels.find((c) => c.role === role)
  return channel && { seconds: r.seconds, values: Float64Array.from(channel.values, toSiOf(channel, ambientPa)) }
}

/** The crankcase that the plan predicts of an engine's log. */
function predictedSeries(build: Build, r: LoggerRecording, ambientPa: number): TimedSeries | undefined {
  const [rpm, manifold] = [seriesOf(r, 'rpm', ambientPa), seriesOf(r, 'manifold', ambientPa)]
  if (!rpm || !manifold) return undefined
  const drive = {
    seconds: r.seconds,
    rpm: Float32Array.from(rpm.values),
    manifoldPa: Float32Array.from(manifold.values, (p) => p + ambientPa),
  }
  return { seconds: r.seconds, values: predictedOver(finish(driveMap(build)), drive) }
}

/** Lays a second recording beside a first; fails with words where nothing in both moves together. */
export function joinRecordings(build: Build, first: LoggerRecording, second: LoggerRecording): Result<JoinedRecording> {
  const ambientPa = engineModel(build).amb.pressurePa
  const shared = SHARED.find((role) => [first, second].every((r) => r.channels.some((c) => c.role === role)))
  const pair = shared
    ? ([seriesOf(first, shared, ambientPa), seriesOf(second, shared, ambientPa)] as const)
    : ([
        predictedSeries(build, first, ambientPa) ?? seriesOf(first, 'crankcase', ambientPa),
        seriesOf(second, 'crankcase', ambientPa) ?? predictedSeries(build, second, ambientPa),
      ] as const)
  if (!pair[0] || !pair[1])
    return fail(
      'One of the two needs the crankcase’s pressure and the other the engine’s speed and manifold pressure, or both the same of them.',
    )
  const found = align(pair[0], pair[1])
  if (!found || found.match < (shared ? LEAST_SHARED : LEAST_PREDICTED))
    return fail('Nothing in both moves together: they are not of the same drive, or a column was taken for another.')
  const by = shared
    ? `${ROLE_FACTS[shared].label.toLowerCase()}, which both have`
    : 'the crankcase as the engine’s log predicts it'
  return ok({ ...found, by, recorded: layBeside(first, second, found) })
}
