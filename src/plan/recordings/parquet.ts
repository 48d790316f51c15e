/** A recording as Parquet, the open format of compressed columns: how it is kept beside the build, and given out. */
import { parquetMetadata, parquetRead } from 'hyparquet'
import { parquetWriteBuffer } from 'hyparquet-writer'
import { fail, ok, type Result } from '@/core/result'
import type { ColumnMeaning } from './columns'
import { meaningOf, type LoggerChannel, type LoggerRecording } from './read-recording'
import { COLUMN_ROLES } from './roles'

/** Under this key stands what the columns are, and what was not read of the file. */
const KEY = 'ivent'
const SECONDS = 'seconds'
const ROWS_TOGETHER = 100_000

type About = Omit<LoggerRecording, 'seconds' | 'channels'> & { readonly columns: readonly ColumnMeaning[] }

/**
 * As the bytes of a Parquet file: seconds in double, every channel in single precision under its own name, in the file's own units.
 *
 * @example
 * import { readLoggerFile } from '@/plan/recordings/read-recording'
 * import { packRecording } from '@/plan/recordings/parquet'
 *
 * const read = readLoggerFile('Time,RPM\n0,800\n1,900\n')
 * console.log(String.fromCodePoint(...new Uint8Array(packRecording(read.value)).slice(0, 4))) // 'PAR1'
 */
export function packRecording({ seconds, channels, ...rest }: LoggerRecording): ArrayBuffer {
  const about: About = { ...rest, columns: channels.map(meaningOf) }
  // two columns of one name would be one
  const names = channels.map((c, k) =>
    channels.findIndex((d) => d.name === c.name) === k ? c.name : `${c.name} ${k + 1}`,
  )
  return parquetWriteBuffer({
    columnData: [
      { name: SECONDS, data: seconds, type: 'DOUBLE', nullable: false },
      ...channels.map((c, k) => ({ name: names[k]!, data: c.values, type: 'FLOAT' as const, nullable: false })),
    ],
    statistics: false,
    rowGroupSize: ROWS_TOGETHER,
    kvMetadata: [{ key: KEY, value: JSON.stringify(about) }],
  })
}

const isMeaning = (x: unknown): x is ColumnMeaning => {
  const { name, unit, role, gauge } = (x ?? {}) as Partial<Record<keyof ColumnMeaning, unknown>>
  return (
    typeof name === 'string' &&
    typeof unit === 'string' &&
    typeof gauge === 'boolean' &&
    COLUMN_ROLES.some((r) => r === role)
  )
}

/** A recording from the bytes that `packRecording` made; fails where they are none. */
export async function unpackRecording(bytes: ArrayBuffer): Promise<Result<LoggerRecording>> {
  const NONE = 'This is no recording that was kept here, or it is damaged.'
  try {
    const metadata = parquetMetadata(bytes)
    const text = metadata.key_value_metadata?.find((m) => m.key === KEY)?.value
    const { columns, ...about } = JSON.parse(text ?? '{}') as Partial<About>
    const rows = Number(metadata.num_rows)
    if (!columns?.every(isMeaning) || metadata.schema.length !== columns.length + 2 || rows < 2) return fail(NONE)
    const names = metadata.schema.slice(1).map((s) => s.name)
    const seconds = new Float64Array(rows)
    const channels = columns.map((c): LoggerChannel => ({ ...c, values: new Float32Array(rows) }))
    await parquetRead({
      file: bytes,
      onChunk: ({ columnName, columnData, rowStart }) => {
        const k = names.indexOf(columnName)
        const into = k === 0 ? seconds : channels[k - 1]!.values
        into.set(columnData as ArrayLike<number>, rowStart)
      },
    })
    return ok({ ...(about as Omit<About, 'columns'>), seconds, channels })
  } catch {
    return fail(NONE)
  }
}
