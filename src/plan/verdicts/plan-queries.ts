/** Small ways to look at a case that the rules share. */
import { HOSE_BORES } from '../catalogue/hoses'
import type { Line } from '../document/schema'
import type { SolvedState } from '../model/results'
import type { Case } from './verdict'

/** The item of which there is most, the first of equals. */
export function maxBy<T>(items: readonly T[], of: (t: T) => number): T | undefined {
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
/** Lines of the plan that are hoses with gas in them. */
export const hosesOf = (c: Case): Line[] => c.variant.lines.filter((l) => l.kind === 'hose')
/** Bores sold that are wider than so many mm, the next one first. */
export const nextBores = (mm: number) => HOSE_BORES.filter((b) => b.mm > mm + 0.05)

/** Flow through a part or line of a solved state, kg/s, positive as it was drawn. */
export const flowIn = (s: SolvedState, id: string): number => s.passages[id]?.flow ?? 0
/** Whether any line joins a part. */
export const isJoined = (c: Case, part: string): boolean =>
  c.variant.lines.some((l) => l.from.part === part || l.to.part === part)

/** Crankcase and covers: what is inside the engine. */
export const insideEngine = (c: Case) =>
  c.variant.parts.filter((p) => p.kind === 'crankcase' || p.kind === 'cover').map((p) => p.id)

/** One step along a way: a line, and the part that it comes to. */
export type FlowStep = { readonly line: Line; readonly part: string }

/** The shortest way along hoses and openings from a part to one that `isThere`; undefined where there is none. */
export function pathTo(c: Case, from: string, isThere: (part: string) => boolean): readonly FlowStep[] | undefined {
  const reached = new Map<string, readonly FlowStep[]>([[from, []]])
  const queue = [from]
  for (let part = queue.shift(); part !== undefined; part = queue.shift()) {
    const steps = reached.get(part)!
    if (part !== from && isThere(part)) return steps
    for (const line of c.variant.lines) {
      if (line.kind === 'drain') continue
      const other = line.from.part === part ? line.to.part : line.to.part === part ? line.from.part : undefined
      if (other === undefined || reached.has(other)) continue
      reached.set(other, [...steps, { line, part: other }])
      queue.push(other)
    }
  }
  return undefined
}
/** The shortest way along hoses and openings between two parts; undefined where there is none. */
export const pathBetween = (c: Case, from: string, to: string) => pathTo(c, from, (p) => p === to)
