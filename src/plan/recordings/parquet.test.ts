/** Kept as Parquet and read back: whole, and as plain rows by their columns' names, as any reader of the format finds them. */
import { parquetReadObjects } from 'hyparquet'
import { packRecording, unpackRecording } from './parquet'
import { readLoggerFile } from './read-recording'

const file =
  'Date,Time,Crankcase (kPa),MAP (kPa),RPM,Note,Note\n2026-05-30,14:00:00,-0.25,35,800,1,2\n2026-05-30,14:00:01,,36,810,3,4\nx,y,1,2,3,4,5\n'
const read = () => {
  const found = readLoggerFile(file)
  if (!found.ok) throw new Error(found.reason)
  return found.value
}

test('everything of a recording comes back as it was', async () => {
  expect(await unpackRecording(packRecording(read()))).toEqual({ ok: true, value: read() })
})

test('any reader of the format finds its columns by their names', async () => {
  const rows = await parquetReadObjects({ file: packRecording(read()) })
  expect(rows).toEqual([
    { seconds: 0, Crankcase: -0.25, MAP: 35, RPM: 800, Note: 1, 'Note 5': 2 },
    { seconds: 1, Crankcase: Number.NaN, MAP: 36, RPM: 810, Note: 3, 'Note 5': 4 },
  ])
})

test('what is no kept recording is refused', async () => {
  const whole = new Uint8Array(packRecording(read()))
  for (const bytes of [
    new ArrayBuffer(0),
    new TextEncoder().encode('PAR1 hello PAR1').buffer,
    whole.slice(0, -20).buffer,
  ])
    expect(await unpackRecording(bytes)).toMatchObject({ ok: false })
})
