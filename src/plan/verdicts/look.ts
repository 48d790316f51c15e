/** Small ways to look at a case that the rules share. */
import { HOSE_BORES } from '../catalogue/hoses'
import type { Line } from '../document/schema'
import type { SolvedState } from '../model/results'
import type { Case } from './verdict'

/** The item of which there is most, the first of equals. */
export function worst<T>(items: readonly T[], of: (t: T) => number): T | undefined {
  let found: T | undefined
  let most = -Infinity
  for (const item of items) {
    const much = of(item)
    if (found !== undefined && much <= most) continue
    found = item
    most = much
  }
  return found
}
export const hosesOf = (c: Case): Line[] => c.variant.lines.filter((l) => l.kind === 'hose')
export const nextBores = (mm: number) => HOSE_BORES.filter((b) => b.mm > mm + 0.05)

/** Flow in kg/s below which a valve or line counts as shut. */
export const SHUT = 1e-7
export const flowIn = (s: SolvedState, id: string): number => s.passages[id]?.flow ?? 0
export const isJoined = (c: Case, part: string): boolean =>
  c.variant.lines.some((l) => l.from.part === part || l.to.part === part)
/** A line that ends at the part, and whether it is named as leading to it. */
export function lineAt(c: Case, part: string): { readonly line: Line; readonly towards: boolean } | undefined {
  const line = c.variant.lines.find((l) => l.from.part === part || l.to.part === part)
  return line && { line, towards: line.to.part === part }
}
