/** Forms that the end of a port or piece can have, and what goes between them: data with their sources; a builder adds a row. */

/** How an end is joined. Sizes are in the key: barb-12.7, flare-10, boss-10, pipe-3/8, metric-M18x1.5, quick-9.49, tube-15.9, hole-19. */
export const FORM_KINDS = {
  barb: 'barb for hose',
  tube: 'plain tube',
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

/**
 * Dash sizes of hose and fitting: bore of braided hose, least bore through a male flare (SAE J514; from memory), hexagon, mm; torque of the
 * nut of an aluminium flare, N m (FAA AC 43.13-1B, flared tube connections, aluminium; from memory).
 */
export const DASHES: readonly {
  readonly dash: number
  readonly hoseMm: number
  readonly boreMm: number
  readonly hexMm: number
  readonly torqueNm: readonly [low: number, high: number]
}[] = [
  { dash: 4, hoseMm: 5.6, boreMm: 4.4, hexMm: 14, torqueNm: [4.5, 7.3] },
  { dash: 6, hoseMm: 8.7, boreMm: 7.5, hexMm: 17.5, torqueNm: [8.5, 14.1] },
  { dash: 8, hoseMm: 11.1, boreMm: 9.9, hexMm: 22, torqueNm: [16.9, 28.2] },
  { dash: 10, hoseMm: 14.3, boreMm: 12.3, hexMm: 25.4, torqueNm: [22.6, 39.5] },
  { dash: 12, hoseMm: 17.5, boreMm: 15.5, hexMm: 31.8, torqueNm: [33.9, 56.5] },
  { dash: 16, hoseMm: 22.2, boreMm: 21.4, hexMm: 38.1, torqueNm: [56.5, 79.1] },
  { dash: 20, hoseMm: 28.6, boreMm: 27.4, hexMm: 50.8, torqueNm: [67.8, 101.7] },
]
export const dashOf = (dash: number) => DASHES.find((d) => d.dash === dash)

/** Barbs that are made, by the bore of the hose that goes on them, mm (inch rubber hose). */
export const BARBS = [6.3, 7.9, 9.5, 12.7, 15.9, 19, 22.2, 25.4, 32] as const
/** Inch hose as it is sold, with its bore. */
const INCHES: Readonly<Record<number, string>> = {
  6.3: '1/4 in',
  7.9: '5/16 in',
  9.5: '3/8 in',
  12.7: '1/2 in',
  15.9: '5/8 in',
  19: '3/4 in',
  22.2: '7/8 in',
  25.4: '1 in',
  32: '1 1/4 in',
}
export const barbName = (mm: number): string => (INCHES[mm] ? `${INCHES[mm]} (${mm} mm)` : `${mm} mm`)

/** Wall of a barb's nipple, twice, mm (estimate, 2.5 to 4), as in the network. */
export const BARB_LESS = 3.2

/** Tubes of quick connectors, mm, and the hose that their barb takes (SAE J2044; from memory). */
export const QUICKS: readonly { readonly mm: number; readonly barbMm: number }[] = [
  { mm: 6.3, barbMm: 6.3 },
  { mm: 7.89, barbMm: 7.9 },
  { mm: 9.49, barbMm: 9.5 },
  { mm: 11.8, barbMm: 12.7 },
  { mm: 15.82, barbMm: 15.9 },
  { mm: 19.05, barbMm: 19 },
]

/** Pipe threads, the dashes and barbs that adapters are made for (common practice, no source). */
export const PIPES: readonly {
  readonly size: string
  readonly dashes: readonly number[]
  readonly barbs: readonly number[]
  readonly mm: number
}[] = [
  { size: '1/8', dashes: [4, 6], barbs: [6.3], mm: 10.3 },
  { size: '1/4', dashes: [4, 6, 8], barbs: [6.3, 7.9, 9.5], mm: 13.7 },
  { size: '3/8', dashes: [6, 8, 10], barbs: [9.5, 12.7], mm: 17.1 },
  { size: '1/2', dashes: [8, 10, 12], barbs: [12.7, 15.9], mm: 21.3 },
  { size: '3/4', dashes: [12, 16], barbs: [19], mm: 26.7 },
  { size: '1', dashes: [16, 20], barbs: [25.4], mm: 33.4 },
]
/** Metric ports that covers and pans have, with the dashes and barbs that adapters are made for. */
export const METRICS: readonly {
  readonly size: string
  readonly dashes: readonly number[]
  readonly barbs: readonly number[]
}[] = [
  { size: 'M12x1.5', dashes: [4, 6], barbs: [6.3, 7.9] },
  { size: 'M14x1.5', dashes: [6], barbs: [7.9, 9.5] },
  { size: 'M16x1.5', dashes: [6, 8], barbs: [9.5] },
  { size: 'M18x1.5', dashes: [8, 10], barbs: [9.5, 12.7] },
  { size: 'M20x1.5', dashes: [8, 10], barbs: [12.7] },
  { size: 'M22x1.5', dashes: [10, 12], barbs: [12.7, 15.9] },
]

/**
 * A form by its key; undefined for what is none.
 * @example formOf('flare-10').mm // 12.3
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

/** A form in words: "-10 37° flare, male", "barb, 1/2 in (12.7 mm)". */
export function formName({ kind, size, mm }: Form): string {
  if (kind === 'barb') return `barb, ${barbName(mm)}`
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
]
