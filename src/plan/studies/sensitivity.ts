/** What a figure depends on most: each input raised by a tenth, one at a time, and everything worked out again. */
import { fromSi } from '@/core/units/units'
import { fullLoadState } from '@/core/engine/states'
import { figuresOf } from '../analyse'
import type { Build } from '../document/schema'
import { activeVariant, applyEdits, type Edit } from '../edit/edit'
import { DEFAULTS } from '../model/engine'
import { readFigure, type FigureRef } from '../explain/figures'

export type Influence = { readonly name: string; readonly from: number; readonly to: number }
const UP = 1.1

function candidates(build: Build, blowByLpm: number): { name: string; edits: Edit[] }[] {
  const variant = activeVariant(build)
  const { engine } = build
  const set = (name: string, path: (string | number)[], value: number) => ({
    name,
    edits: [{ op: 'set', path, value } as Edit],
  })
  return [
    {
      name: 'Blow-by',
      edits: [
        {
          op: 'set',
          path: ['engine', 'blowBy'],
          value: { state: fullLoadState(engine.induction), lpm: blowByLpm * UP },
        },
      ],
    },
    set(
      'Inlet depression',
      ['engine', 'inletDepressionKpa'],
      (engine.inletDepressionKpa ?? DEFAULTS.inletDepressionKpa[engine.induction]) * UP,
    ),
    set(
      'Idle manifold pressure',
      ['engine', 'idleManifoldKpa'],
      (engine.idleManifoldKpa ?? DEFAULTS.idleManifoldKpa) * UP,
    ),
    ...(engine.induction === 'na' ? [] : [set('Boost', ['engine', 'boostKpa'], engine.boostKpa * UP)]),
    ...variant.lines
      .filter((l) => l.kind === 'hose')
      .flatMap((l) => [
        { name: `${l.name}, bore`, edits: [{ op: 'line', line: l.id, set: { boreMm: l.boreMm * UP } } as Edit] },
        { name: `${l.name}, length`, edits: [{ op: 'line', line: l.id, set: { lengthMm: l.lengthMm * UP } } as Edit] },
      ]),
    ...variant.parts.flatMap((p): { name: string; edits: Edit[] }[] => {
      switch (p.kind) {
        case 'can':
          return [
            {
              name: `${p.name}, drop`,
              edits: [{ op: 'part', part: p.id, set: { dropKpaAt100: p.dropKpaAt100 * UP } }],
            },
            { name: `${p.name}, bowl`, edits: [{ op: 'part', part: p.id, set: { bowlMl: p.bowlMl * UP } }] },
          ]
        case 'passage':
        case 'restrictor':
          return [{ name: `${p.name}, bore`, edits: [{ op: 'part', part: p.id, set: { boreMm: p.boreMm * UP } }] }]
        case 'pcv':
          return [
            {
              name: `${p.name}, area`,
              edits: [{ op: 'part', part: p.id, set: { areaMm2ByKpa: p.areaMm2ByKpa.map(([dp, a]) => [dp, a * UP]) } }],
            },
          ]
        case 'regulator':
          return [
            { name: `${p.name}, set point`, edits: [{ op: 'part', part: p.id, set: { setKpa: p.setKpa * UP } }] },
            { name: `${p.name}, bore`, edits: [{ op: 'part', part: p.id, set: { boreMm: p.boreMm * UP } }] },
          ]
        case 'pump':
          return [
            {
              name: `${p.name}, displacement`,
              edits: [{ op: 'part', part: p.id, set: { ccPerTurn: p.ccPerTurn * UP } }],
            },
          ]
        case 'filter':
          return [
            {
              name: `${p.name}, drop`,
              edits: [{ op: 'part', part: p.id, set: { dropKpaAt100: p.dropKpaAt100 * UP } }],
            },
          ]
        case 'check':
          return [
            {
              name: `${p.name}, cracking pressure`,
              edits: [{ op: 'part', part: p.id, set: { crackKpa: p.crackKpa * UP } }],
            },
          ]
        default:
          return []
      }
    }),
  ]
}

/** The `most` strongest influences on a figure, strongest first; those that do not move it by a thousandth are left out. */
export function influences(build: Build, today: string, ref: FigureRef, most = 4): Influence[] {
  const now = figuresOf(build, today)
  const from = readFigure(build, now, ref)
  if (from === undefined || !Number.isFinite(from)) return []
  const full = now.states.find((s) => s.id === fullLoadState(build.engine.induction))
  return candidates(build, fromSi('gasFlow', full?.blowBy ?? 0, 'l/min'))
    .flatMap(({ name, edits }): Influence[] => {
      const then = applyEdits(build, edits)
      const to = then.ok ? readFigure(then.value, figuresOf(then.value, today), ref) : undefined
      return to === undefined || !Number.isFinite(to) || Math.abs(to - from) <= 1e-3 * Math.abs(from)
        ? []
        : [{ name, from, to }]
    })
    .toSorted((a, b) => Math.abs(b.to - b.from) - Math.abs(a.to - a.from))
    .slice(0, most)
}
