/** Threads of fittings: what fits what, and the drill before the tap. */
import { fail, ok, type Result } from '../result'

export type ThreadForm = '37 degree flare' | 'O-ring boss' | 'pipe' | 'metric'
/** m; no drill where the thread is never cut by hand */
export type Thread = { readonly majorM: number; readonly pitchM: number; readonly tapDrillM: number | undefined }

const INCH = 0.0254
const MM = 1e-3

/**
 * Straight threads of 37 degree flare ends and O-ring bosses by dash size: major inches, threads an inch (SAE J514,
 * J1926; from memory).
 */
const DASH: Readonly<Record<string, readonly [major: number, perInch: number]>> = {
  '-4': [7 / 16, 20],
  '-6': [9 / 16, 18],
  '-8': [3 / 4, 16],
  '-10': [7 / 8, 14],
  '-12': [1 + 1 / 16, 12],
  '-16': [1 + 5 / 16, 12],
  '-20': [1 + 5 / 8, 12],
}
/**
 * Taper pipe threads: outside diameter of the pipe, threads an inch (ASME B1.20.1; from memory), and the drill, inches
 * (common practice, no source).
 */
const PIPE: Readonly<Record<string, readonly [major: number, perInch: number, drill: number]>> = {
  '1/8': [0.405, 27, 21 / 64],
  '1/4': [0.54, 18, 7 / 16],
  '3/8': [0.675, 18, 37 / 64],
  '1/2': [0.84, 14, 45 / 64],
  '3/4': [1.05, 14, 59 / 64],
  '1': [1.315, 11.5, 1 + 5 / 32],
}
/** Pitches of coarse metric threads, mm (ISO 261; from memory). */
const COARSE: Readonly<Record<string, number>> = {
  '3': 0.5,
  '4': 0.7,
  '5': 0.8,
  '6': 1,
  '8': 1.25,
  '10': 1.5,
  '12': 1.75,
  '14': 2,
  '16': 2,
  '18': 2.5,
  '20': 2.5,
  '22': 2.5,
  '24': 3,
}

/**
 * A thread by its form and size. Metric: drill = major - pitch (ISO 2306), the coarse pitch where none is named.
 * @param size a dash size ('-10'), a pipe size ('1/8'), or metric ('M16x1.5', 'M8')
 * @example threadOf('37 degree flare', '-10').value.majorM // 0.022225
 */
export function threadOf(form: ThreadForm, size: string): Result<Thread> {
  const none = () => fail(`There is no ${form} thread ${size} in the tables.`)
  if (form === 'metric') {
    const m = /^M(\d+(?:\.\d+)?)(?:\s*[x×]\s*(\d+(?:\.\d+)?))?$/i.exec(size.trim())
    if (!m) return none()
    const pitch = m[2] === undefined ? COARSE[m[1]!] : Number(m[2])
    if (pitch === undefined || !(pitch > 0) || pitch >= Number(m[1])) return none()
    return ok({ majorM: Number(m[1]) * MM, pitchM: pitch * MM, tapDrillM: (Number(m[1]) - pitch) * MM })
  }
  if (form === 'pipe') {
    const found = Object.hasOwn(PIPE, size) ? PIPE[size] : undefined
    return found ? ok({ majorM: found[0] * INCH, pitchM: INCH / found[1], tapDrillM: found[2] * INCH }) : none()
  }
  const found = Object.hasOwn(DASH, size) ? DASH[size] : undefined
  return found ? ok({ majorM: found[0] * INCH, pitchM: INCH / found[1], tapDrillM: undefined }) : none()
}
