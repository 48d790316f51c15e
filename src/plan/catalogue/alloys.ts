/**
 * Sheet for brackets: stiffness and density (handbook values), least inside bend radius in thicknesses at a right
 * angle (Machinery's Handbook; from memory).
 */
export type Alloy = {
  readonly key: string
  readonly name: string
  /** Pa, kg/m3 */
  readonly youngs: number
  readonly density: number
  readonly leastRadius: number
}
export const ALLOYS: readonly Alloy[] = [
  { key: 'al-5052', name: 'aluminium 5052-H32', youngs: 70e9, density: 2680, leastRadius: 1.5 },
  { key: 'al-6061', name: 'aluminium 6061-T6', youngs: 69e9, density: 2700, leastRadius: 3 },
  { key: 'steel', name: 'mild steel', youngs: 205e9, density: 7850, leastRadius: 1 },
  { key: 'stainless', name: 'stainless steel 304', youngs: 193e9, density: 8000, leastRadius: 1 },
]
