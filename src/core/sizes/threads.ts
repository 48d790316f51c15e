/** Threads of fittings: what fits what, and the drill before the tap. The tables, with their sources, are `threads.json`. */
import { fail, ok, type Result } from '../result'
import tables from './threads.json'

export type ThreadForm = '37 degree flare' | 'O-ring boss' | 'pipe' | 'metric'
/** m; no drill where the thread is never cut by hand */
export type Thread = { readonly majorM: number; readonly pitchM: number; readonly tapDrillM: number | undefined }

const INCH = 0.0254
const MM = 1e-3

/**
 * Where the table of a form's threads comes from, in a sentence.
 *
 * @example
 * import { threadSource } from '@/core/sizes/threads'
 *
 * console.log(threadSource('metric')) // 'ISO 261; from memory.'
 */
export const threadSource = (form: 'dashes' | 'pipes' | 'metric'): string =>
  (form === 'metric' ? tables.coarse : tables[form]).source

const dashes: ReadonlyMap<string, (typeof tables.dashes.rows)[number]> = new Map(
  tables.dashes.rows.map((r) => [r.size, r]),
)
const pipes: ReadonlyMap<string, (typeof tables.pipes.rows)[number]> = new Map(
  tables.pipes.rows.map((r) => [r.size, r]),
)
const coarse: ReadonlyMap<number, number> = new Map(tables.coarse.rows.map((r) => [r.mm, r.pitchMm]))

/**
 * A thread by its form and size. Metric: drill = major - pitch (ISO 2306), the coarse pitch where none is named.
 * @param size a dash size ('-10'), a pipe size ('1/8'), or metric ('M16x1.5', 'M8')
 *
 * @example
 * import { threadOf } from '@/core/sizes/threads'
 *
 * console.log(threadOf('37 degree flare', '-10').value.majorM) // 0.022224999999999998
 */
export function threadOf(form: ThreadForm, size: string): Result<Thread> {
  const none = () => fail(`There is no ${form} thread ${size} in the tables.`)
  if (form === 'metric') {
    const m = /^M(\d+(?:\.\d+)?)(?:\s*[x×]\s*(\d+(?:\.\d+)?))?$/i.exec(size.trim())
    if (!m) return none()
    const pitch = m[2] === undefined ? coarse.get(Number(m[1])) : Number(m[2])
    if (pitch === undefined || !(pitch > 0) || pitch >= Number(m[1])) return none()
    return ok({ majorM: Number(m[1]) * MM, pitchM: pitch * MM, tapDrillM: (Number(m[1]) - pitch) * MM })
  }
  if (form === 'pipe') {
    const found = pipes.get(size)
    if (!found) return none()
    const { majorInch, perInch, drill64ths } = found
    return ok({ majorM: majorInch * INCH, pitchM: INCH / perInch, tapDrillM: (drill64ths / 64) * INCH })
  }
  const found = dashes.get(size)
  if (!found) return none()
  return ok({ majorM: (found.sixteenths / 16) * INCH, pitchM: INCH / found.perInch, tapDrillM: undefined })
}
