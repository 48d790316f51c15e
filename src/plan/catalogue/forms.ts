/** Forms that the end of a port or piece can have. The sizes that are made, with their sources, are `fittings.json`: a row added there is found. */
import tables from './fittings.json'

/** How an end is joined. Sizes are in the key: barb-12.7, flare-10, boss-10, pipe-3/8, metric-M18x1.5, quick-9.49, tube-15.9, hole-19. */
export const FORM_KINDS = {
  barb: 'barb for hose',
  tube: 'plain tube',
  stub: 'maker’s moulded hose, cut',
  flare: '37° flare, male',
  boss: 'O-ring boss',
  pipe: 'pipe thread, female',
  metric: 'metric thread with O-ring, female',
  quick: 'quick connector tube',
  hole: 'hole to be drilled',
  neck: 'filler neck',
  seat: 'seat with grommet',
  open: 'open end',
} as const
export type FormKind = keyof typeof FORM_KINDS
export type Form = { readonly key: string; readonly kind: FormKind; readonly size: string; readonly mm: number }

/** Where each table of sizes comes from, in a sentence. */
export const sourceOf = (table: Exclude<keyof typeof tables, 'about'>): string => tables[table].source

export const DASHES = tables.dashes.rows
/** Sizes of a dash size (SAE J514 thread, tube and hose bore in mm); undefined for one that the table does not hold. */
export const dashOf = (dash: number) => DASHES.find((d) => d.dash === dash)

/** Barbs that are made, by the bore of the hose that goes on them, mm. */
export const BARBS: readonly number[] = tables.barbs.rows.map((b) => b.mm)
const inches: ReadonlyMap<number, string> = new Map(tables.barbs.rows.map((b) => [b.mm, b.inch]))
/** A barb or hose as it is sold: "1/2 in (12.7 mm)". */
export function barbName(mm: number): string {
  const inch = inches.get(mm)
  return inch === undefined ? `${mm} mm` : `${inch} (${mm} mm)`
}

/** Wall of a barb's nipple, twice, mm (estimate, 2.5 to 4), as in the network. */
export const BARB_LESS = 3.2

export const QUICKS = tables.quicks.rows
export const PIPES = tables.pipes.rows
export const METRICS = tables.metrics.rows

/**
 * A form by its key; undefined for what is none.
 *
 * @example
 * import { formOf } from '@/plan/catalogue/forms'
 *
 * console.log(formOf('flare-10').mm) // 12.3
 */
export function formOf(key: string): Form | undefined {
  const cut = key.indexOf('-')
  const kind = (cut < 0 ? key : key.slice(0, cut)) as FormKind
  const size = cut < 0 ? '' : key.slice(cut + 1)
  if (!Object.hasOwn(FORM_KINDS, kind)) return undefined
  const make = (mm: number | undefined): Form | undefined => (mm === undefined ? undefined : { key, kind, size, mm })
  if (kind === 'flare' || kind === 'boss') return make(dashOf(Number(size))?.boreMm)
  if (kind === 'pipe') return make(PIPES.find((p) => p.size === size)?.mm)
  if (kind === 'metric') return make(METRICS.some((m) => m.size === size) ? Number(/\d+/.exec(size)![0]) : undefined)
  if (kind === 'neck' || kind === 'seat' || kind === 'open') return make(0)
  const mm = Number(size)
  return size !== '' && mm > 0 && mm <= 100 ? make(mm) : undefined
}

/**
 * A form in words: "-10 37° flare, male", "barb, 1/2 in (12.7 mm)".
 *
 * @example
 * import { formName, formOf } from '@/plan/catalogue/forms'
 *
 * console.log(formName(formOf('flare-10'))) // '-10 37° flare, male'
 */
export function formName({ kind, size, mm }: Form): string {
  if (kind === 'barb') return `barb, ${barbName(mm)}`
  if (kind === 'stub') return `maker’s moulded hose, cut, ${barbName(mm)}`
  if (kind === 'tube') return `plain tube, ${barbName(mm)}`
  if (kind === 'quick') return `${size} mm quick connector tube`
  if (kind === 'hole') return `hole for ${barbName(mm)}, to be drilled`
  if (kind === 'flare') return `-${size} 37° flare, male`
  if (kind === 'boss') return `-${size} O-ring boss`
  if (kind === 'pipe') return `${size} pipe thread, female`
  if (kind === 'metric') return `${size}, female, O-ring`
  return FORM_KINDS[kind]
}

/** What one port can be said to be, the usual ones. */
export const FORM_KEYS: readonly string[] = [
  ...BARBS.map((b) => `barb-${b}`),
  ...BARBS.slice(0, 8).map((b) => `tube-${b}`),
  ...QUICKS.map((q) => `quick-${q.mm}`),
  ...DASHES.map((d) => `flare-${d.dash}`),
  ...DASHES.map((d) => `boss-${d.dash}`),
  ...PIPES.map((p) => `pipe-${p.size}`),
  ...METRICS.map((m) => `metric-${m.size}`),
  ...BARBS.slice(0, 8).map((b) => `hole-${b}`),
  ...BARBS.slice(0, 8).map((b) => `stub-${b}`),
]
