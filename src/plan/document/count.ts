/** How much a document holds, counted before anything walks it: what a small file repeats a million times must not freeze what reads it. */
import {
  MAX_BENDS,
  MAX_ENDS,
  MAX_BONNET,
  MAX_KEEP_OUTS,
  MAX_LEARNED,
  MAX_LINES,
  MAX_LOG,
  MAX_MOUNTS,
  MAX_PARTS,
  MAX_POINTS,
  MAX_PORTS,
  MAX_SPOTS,
  MAX_STAGES,
  MAX_STOCK,
  MAX_TICKS,
  MAX_VARIANTS,
  MAX_WAY,
} from './bounds'

/** What is wrong, and where a person finds it. */
export type Problem = { readonly path: string; readonly message: string }

/** Figures, texts and lists of a whole document without its log. The fullest car holds some three thousand. */
const MAX_VALUES = 20_000

export type Doc = Readonly<Record<string, unknown>>
/** Whether a value from outside is a record: no list, no null. */
export const isRecord = (x: unknown): x is Doc => x !== null && typeof x === 'object' && !Array.isArray(x)
const listAt = (doc: unknown, key: string): readonly unknown[] => {
  const found = (doc as Doc | null | undefined)?.[key]
  return Array.isArray(found) ? (found as unknown[]) : []
}

/** Figures, texts, lists and records that a value holds, itself counted; above `most` it stops counting. */
export function valuesIn(value: unknown, most: number): number {
  const open: unknown[] = [value]
  let count = 0
  while (open.length > 0 && count <= most) {
    const next = open.pop()
    count++
    if (next === null || typeof next !== 'object') continue
    for (const key in next) {
      open.push((next as Doc)[key])
      if (count + open.length > most) return most + 1
    }
  }
  return count
}

/**
 * The first list of a document that is longer than can be worked on, or that it holds too much in all; undefined where
 * it is fit to be checked.
 */
export function tooMuch(doc: Doc): Problem | undefined {
  const longer = (holder: unknown, path: string, key: string, most: number): Problem | undefined => {
    const { length } = listAt(holder, key)
    if (length <= most) return undefined
    return { path: path === '' ? key : `${path} › ${key}`, message: `has ${length}; at most ${most} can be worked on` }
  }
  const top =
    longer(doc, '', 'variants', MAX_VARIANTS) ??
    longer(doc, '', 'learned', MAX_LEARNED) ??
    longer(doc, '', 'log', MAX_LOG)
  if (top) return top
  const bay =
    longer(doc.bay, 'bay', 'spots', MAX_SPOTS) ??
    longer(doc.bay, 'bay', 'keepOuts', MAX_KEEP_OUTS) ??
    longer(doc.bay, 'bay', 'bonnet', MAX_BONNET) ??
    longer(doc.bay, 'bay', 'mounts', MAX_MOUNTS) ??
    longer(doc.fit, 'fit', 'ticks', MAX_TICKS) ??
    longer(doc.fit, 'fit', 'stock', MAX_STOCK) ??
    longer(doc.fit, 'fit', 'ends', MAX_ENDS)
  if (bay) return bay
  for (const [i, v] of listAt(doc, 'variants').entries()) {
    const at = `variants › ${i + 1}`
    const found = longer(v, at, 'parts', MAX_PARTS) ?? longer(v, at, 'lines', MAX_LINES)
    if (found) return found
    for (const [k, part] of listAt(v, 'parts').entries()) {
      const of = `${at} › parts › ${k + 1}`
      const much =
        longer(part, of, 'ports', MAX_PORTS) ??
        longer(part, of, 'stages', MAX_STAGES) ??
        longer(part, of, 'areaMm2ByKpa', MAX_POINTS)
      if (much) return much
    }
    for (const [k, line] of listAt(v, 'lines').entries()) {
      const of = `${at} › lines › ${k + 1}`
      const much = longer(line, of, 'bends', MAX_BENDS) ?? longer(line, of, 'way', MAX_WAY)
      if (much) return much
    }
  }
  let left = MAX_VALUES
  for (const key in doc) {
    if (key !== 'log') left -= valuesIn(doc[key], left)
    if (left < 0) return { path: 'the file', message: `holds more than ${MAX_VALUES} values; no car needs as many` }
  }
  return undefined
}
