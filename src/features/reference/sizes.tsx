'use client'
/** Sizes, searchable: dash sizes, threads, drills, bores, bend radii, sealing; and what is calculated at the bench. */
import { useState } from 'react'
import { flatLength } from '@/core/bracket/bending'
import { threadOf, threadSource } from '@/core/sizes/threads'
import type { UnitChoice } from '@/core/units/units'
import { bendRadius } from '@/plan/catalogue/bay-geometry'
import { ALLOYS } from '@/plan/catalogue/alloys'
import {
  barbName,
  BARBS,
  DASHES,
  FORM_KEYS,
  formName,
  formOf,
  METRICS,
  PIPES,
  QUICKS,
  sourceOf,
} from '@/plan/catalogue/forms'
import { HOSE_BORES } from '@/plan/catalogue/hoses'
import { BRACKET_FIELDS } from '@/plan/document/fields'
import { unitFormatter, type UnitFormatter } from '@/plan/document/words'
import { chainsTo, hoseSold } from '@/plan/fit/ends'
import { Select } from '@/ui/select'
import { WideRegion } from '@/ui/wide-region'

type Table = {
  readonly title: string
  readonly source: string
  readonly heads: readonly string[]
  readonly rows: readonly (readonly string[])[]
}

const SEALING: Table = {
  title: 'What seals what',
  source: 'common practice, no source',
  heads: ['Joint', 'Seal', 'Never'],
  rows: [
    ['37° flare', 'metal on metal, a drop of oil on the thread', 'tape or sealant on the cone'],
    ['O-ring boss', 'its O-ring, oiled; lock nut after', 'tape; a ring used twice'],
    [
      'Taper pipe thread',
      'PTFE tape or paste, with the thread, first turn bare',
      'backing off to line up; force in plastic',
    ],
    ['Pipe thread in plastic', 'tape alone, hand tight and half a turn', 'anaerobic sealant: it cracks plastic'],
    ['Metric with O-ring or washer', 'the ring or a new copper washer', 'tape'],
    ['Hose on barb', 'the hose’s own size, a clamp behind the ridge', 'a hose that is loose, whatever the clamp'],
    ['Hose under vacuum', 'reinforced hose or a spring in it', 'soft silicone: it folds'],
    ['Silicone hose and oil', 'fluorolined only', 'plain silicone: it sweats oil'],
    ['Quick connector', 'pushed till it clicks, then tugged', 'grease that is not for rubber'],
    ['Grommet', 'dry or soapy, a deburred hole', 'sealant as a cure for a hole too large'],
  ],
}

function tablesIn(say: UnitFormatter): readonly Table[] {
  const thread = (form: Parameters<typeof threadOf>[0], size: string) => {
    const t = threadOf(form, size)
    return t.ok ? t.value : undefined
  }
  return [
    {
      title: 'Dash sizes',
      source: `${sourceOf('dashes')} Threads ${threadSource('dashes')}`,
      heads: ['Dash', 'Tube', 'Thread', 'Hose bore', 'Through a flare', 'Hexagon', 'Least bend'],
      rows: DASHES.map((d) => {
        const t = thread('37 degree flare', `-${d.dash}`)
        const perInch = t ? Math.round(0.0254 / t.pitchM) : 0
        return [
          `-${d.dash}`,
          `${d.dash}/16 in`,
          t ? `${say.length(t.majorM)}, ${perInch} an inch` : '–',
          say.mm(d.hoseMm),
          say.mm(d.boreMm),
          say.mm(d.hexMm),
          say.length(bendRadius(d.hoseMm / 1000)),
        ]
      }),
    },
    {
      title: 'Pipe threads and their drills',
      source: threadSource('pipes'),
      heads: ['Size', 'Outside', 'Threads an inch', 'Tap drill'],
      rows: PIPES.map(({ size }) => {
        const t = thread('pipe', size)
        if (!t) return [size, '–', '–', '–']
        return [size, say.length(t.majorM), String(Number((0.0254 / t.pitchM).toFixed(1))), say.length(t.tapDrillM!)]
      }),
    },
    {
      title: 'Metric threads and their drills',
      source: `${threadSource('metric')} Drill = major less pitch (ISO 2306).`,
      heads: ['Size', 'Pitch', 'Tap drill'],
      rows: ['M5', 'M6', 'M8', 'M10', ...METRICS.map((m) => m.size)].map((size) => {
        const t = thread('metric', size)
        return t ? [size, say.length(t.pitchM), say.length(t.tapDrillM!)] : [size, '–', '–']
      }),
    },
    {
      title: 'Quick connectors',
      source: sourceOf('quicks'),
      heads: ['Tube', 'Barb'],
      rows: QUICKS.map((q) => [`${q.mm} mm`, barbName(q.barbMm)]),
    },
    {
      title: 'Hoses that are sold, and how tight they bend',
      source: `${sourceOf('hoses')} Bend radii ${sourceOf('bends')}`,
      heads: ['Name', 'Bore', 'Least bend radius'],
      rows: HOSE_BORES.map((h) => [h.name, say.mm(h.mm), say.length(bendRadius(h.mm / 1000))]),
    },
    {
      title: 'Sheet for brackets',
      source: 'handbook values; radii Machinery’s Handbook, from memory',
      heads: ['Sheet', 'Stiffness', 'Density', 'Least radius'],
      rows: ALLOYS.map((a) => [a.name, `${a.youngs / 1e9} GPa`, `${a.density} kg/m³`, `${a.leastRadius} thicknesses`]),
    },
    SEALING,
  ]
}

export function SizeTables({ units }: { units: UnitChoice }) {
  const say = unitFormatter(units)
  const [wanted, setWanted] = useState('')
  const words = wanted.toLowerCase().split(/\s+/).filter(Boolean)
  const shown = tablesIn(say).flatMap((t) => {
    const rows = t.rows.filter((r) => words.every((w) => `${t.title} ${r.join(' ')}`.toLowerCase().includes(w)))
    return rows.length > 0 ? [{ ...t, rows }] : []
  })
  return (
    <section aria-labelledby="sizes">
      <h2 id="sizes" className="pt-8 text-xl">
        Sizes
      </h2>
      <Bench units={units} />
      <label className="mt-4 block max-w-sm">
        <span className="block text-xs text-soft">Search the tables</span>
        <input
          className="field min-h-11"
          value={wanted}
          placeholder="-10, M18, silicone…"
          onChange={(e) => setWanted(e.target.value)}
        />
      </label>
      {shown.length === 0 && <p className="mt-2 text-soft">Nothing in the tables has all of that. Fewer words?</p>}
      {shown.map((t) => (
        <WideRegion key={t.title} label={t.title}>
          <h3 className="pt-4 text-base">{t.title}</h3>
          <p className="text-xs text-soft">{t.source}</p>
          <table className="table w-full">
            <thead>
              <tr>
                {t.heads.map((h) => (
                  <th key={h}>{h}</th>
                ))}
              </tr>
            </thead>
            <tbody>
              {t.rows.map((r) => (
                <tr key={r.join()}>
                  {r.map((cell, i) => (
                    <td key={t.heads[i]} className="!whitespace-normal">
                      {cell}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </WideRegion>
      ))}
    </section>
  )
}

/** What is calculated with oily hands: what fits what, the drill for a tap, the flat length of a bend. */
function Bench({ units }: { units: UnitChoice }) {
  const say = unitFormatter(units)
  const [form, setForm] = useState('barb-19')
  const [bore, setBore] = useState(19)
  const [size, setSize] = useState('M18x1.5')
  const [bend, setBend] = useState({ one: '60', two: '90', t: '3', r: '4', angle: '90' })
  const hose = hoseSold(bore)
  const chains = hose.ok ? chainsTo(form, hose.value) : hose
  const thread = threadOf(/^m/i.test(size.trim()) ? 'metric' : 'pipe', size.trim())
  const [one, two, t, r, angle] = [bend.one, bend.two, bend.t, bend.r, bend.angle].map((x) =>
    Number(x.replace(',', '.')),
  ) as [number, number, number, number, number]
  const limits = BRACKET_FIELDS
  const sound =
    [one, two].every((v) => v >= limits.leg.min && v <= limits.leg.max) &&
    t >= limits.thickness.min &&
    t <= limits.thickness.max &&
    r >= limits.radius.min &&
    r <= limits.radius.max &&
    angle >= limits.angle.min &&
    angle <= limits.angle.max
  const flat = sound
    ? flatLength({
        legsM: [one / 1000, two / 1000],
        insideRadiusM: r / 1000,
        thicknessM: t / 1000,
        angleDeg: angle,
        kFactor: r < 2 * t ? 0.33 : 0.5,
      })
    : undefined
  return (
    <div className="mt-2 grid grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-4 md:grid-cols-3">
      <fieldset className="min-w-0">
        <legend className="text-sm font-bold">What leads from this port to that hose</legend>
        <Select
          label="Form of the port"
          value={form}
          options={FORM_KEYS.map((key) => ({ value: key, name: formName(formOf(key)!) }))}
          onChange={setForm}
        />
        <Select
          label="Hose"
          value={String(bore)}
          options={HOSE_BORES.map((h) => ({ value: String(h.mm), name: `${h.name} hose` }))}
          onChange={(v) => setBore(Number(v))}
        />
        <p role="status" className="mt-1">
          {chains.ok
            ? `${chains.value[0]!.pieces.map((p) => p.name).join(', then ') || 'Nothing: it goes on as it is'}; ${chains.value[0]!.joints} joint${chains.value[0]!.joints === 1 ? '' : 's'}, ${say.mm(chains.value[0]!.boreMm)} through.`
            : chains.reason}
        </p>
      </fieldset>
      <fieldset className="min-w-0">
        <legend className="text-sm font-bold">Drill for a tap</legend>
        <label className="block text-xs text-soft" htmlFor="tap">
          M18x1.5, or a pipe size such as 3/8
        </label>
        <input
          id="tap"
          className="field min-h-11"
          value={size}
          list="taps"
          autoComplete="off"
          onChange={(e) => setSize(e.target.value)}
        />
        <datalist id="taps">
          {[...METRICS.map((m) => m.size), ...PIPES.map((p) => p.size)].map((s) => (
            <option key={s} value={s} />
          ))}
        </datalist>
        <p role="status" className="mt-1">
          {thread.ok && thread.value.tapDrillM !== undefined ? (
            <>
              Drill <strong>{say.length(thread.value.tapDrillM)}</strong>, pitch {say.length(thread.value.pitchM)}.
            </>
          ) : (
            'No such thread in the tables.'
          )}
        </p>
      </fieldset>
      <fieldset className="min-w-0">
        <legend className="text-sm font-bold">Flat length of one bend, mm</legend>
        <div className="grid grid-cols-5 gap-2">
          {(
            [
              ['one', 'leg'],
              ['two', 'leg'],
              ['t', 'thick'],
              ['r', 'inside r'],
              ['angle', 'angle'],
            ] as const
          ).map(([key, name], i) => (
            <label key={key} className="text-xs text-soft">
              {name}
              {i < 2 ? ` ${i + 1}` : ''}
              <input
                className="field min-h-11"
                inputMode="decimal"
                value={bend[key]}
                onChange={(e) => setBend({ ...bend, [key]: e.target.value })}
              />
            </label>
          ))}
        </div>
        <p role="status" className="mt-1">
          {flat !== undefined && flat > 0 ? (
            <>
              Cut <strong>{say.length(flat)}</strong>; legs measured outside.
            </>
          ) : (
            'Legs of 1 to 2000, sheet of 0.5 to 12, a radius of 0 to 100 and an angle of 1 to 150 give an answer.'
          )}
        </p>
      </fieldset>
      <p className="text-xs text-soft md:col-span-3">Barbs that are made: {BARBS.map(barbName).join(', ')}.</p>
    </div>
  )
}
