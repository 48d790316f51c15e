'use client'
/** The can cut open: its stages one under the other, what each catches by droplet size, and how large it has to be. */
import { formatNumber, quantityText } from '@/core/units/format'
import { fromSi, shownUnit, unitLabel } from '@/core/units/units'
import { MAX_STAGES } from '@/plan/document/bounds'
import { STAGE_FIELDS, type Field } from '@/plan/document/fields'
import type { PartOf, StageSpec } from '@/plan/document/schema'
import { setPart } from '@/plan/edit/edit-builders'
import { atState, lowered, STATE_NAMES, unitFormatter } from '@/plan/document/words'
import { isSolved } from '@/plan/model/results'
import { dropOf } from '@/plan/catalogue/stages'
import { gradeOf, liftOf, type Grade } from '@/plan/studies/grade'
import { NumberField } from '../workspace/figures/field'
import { useJob } from '../workspace/jobs/jobs'
import { useUnits, useWorkspace } from '../workspace/store'
import { CanClogging } from './can-clogging'
import { STAGE_NAMES } from './stage-names'

const DASHES = ['6 3', '2 3', '9 3 2 3', '4 2', '1 2', '12 4'] as const

export default function CanInside({ can }: { can: PartOf<'can'> }) {
  const analysis = useWorkspace((s) => s.analysis)
  const shown = useWorkspace((s) => s.state)
  const state = analysis.states.find((s) => s.id === shown)
  const grade = state && isSolved(state) ? gradeOf(can, state, analysis.engine) : undefined
  return (
    <section aria-label={`${can.name}, cut open`}>
      <h2 className="head border-b-[1.5px] border-ink pb-1">{can.name}, cut open</h2>
      <div className="grid grid-cols-[7rem_1fr] gap-4 pt-2">
        <CutOpen can={can} />
        {grade ? (
          <Curve can={can} grade={grade} name={STATE_NAMES[shown]} />
        ) : (
          <p className="text-soft">
            {can.stages.length === 0
              ? 'It has nothing in it that separates.'
              : `No gas passes it ${shown === 'idle' || shown === 'cruise' ? 'at' : 'in'} ${STATE_NAMES[shown].toLowerCase()}.`}
          </p>
        )}
      </div>
      <LiftPicture can={can} />
      <Stages can={can} />
      <CanClogging can={can} />
      <SizeIt can={can} />
    </section>
  )
}

/** In at the top, down through the stages, oil in the bowl, out at the top. */
function CutOpen({ can }: { can: PartOf<'can'> }) {
  const rows = can.stages.length
  const each = Math.min(38, 120 / Math.max(1, rows))
  return (
    <svg
      viewBox="0 0 112 220"
      className="w-full"
      role="img"
      aria-label={`In it, from the inlet on: ${can.stages.map((s) => STAGE_NAMES[s.type]).join(', ') || 'nothing'}; then the bowl`}
    >
      <path d="M8 30h14M90 30h14" stroke="var(--ink)" strokeWidth="9" />
      <path d="M8 30h14M90 30h14" stroke="var(--paper)" strokeWidth="5" />
      <path d="M22 16h68v172q0 16-16 16H38q-16 0-16-16z" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="2" />
      <path d="M18 12h76v6H18z" fill="var(--ink)" />
      {can.stages.map((s, i) => {
        const y = 40 + i * each
        const key = `${s.type} ${i}`
        if (s.type === 'fibre')
          return (
            <g key={key}>
              <rect x="24" y={y} width="64" height={each - 6} fill="var(--well)" />
              {Array.from({ length: 9 }, (_, k) => (
                <path
                  key={k}
                  d={`M${26 + k * 7} ${y + 2}q6 ${(each - 10) / 2} 0 ${each - 10}`}
                  stroke="var(--soft)"
                  fill="none"
                />
              ))}
            </g>
          )
        if (s.type === 'cyclone')
          return (
            <path
              key={key}
              d={`M30 ${y}h52l-14 ${each - 8}H44zM34 ${y + 4}q22 10 44 0`}
              fill="none"
              stroke="var(--ink)"
              strokeWidth="1.5"
            />
          )
        if (s.type === 'settling')
          return (
            <path
              key={key}
              d={`M34 ${y + each / 2}h44M40 ${y + 4}v10m0 0l-3-4m3 4l3-4M72 ${y + 4}v10m0 0l-3-4m3 4l3-4`}
              fill="none"
              stroke="var(--soft)"
              strokeWidth="1.4"
            />
          )
        return (
          <g key={key}>
            <path
              d={`M24 ${y + each / 2}h64`}
              stroke="var(--ink)"
              strokeWidth="3"
              strokeDasharray={s.jets > 1 ? '7 5' : '26 12'}
            />
            <path d={`M56 ${y}v${each / 2 - 3}`} stroke="var(--vacuum)" strokeWidth="1.6" />
          </g>
        )
      })}
      <path d="M24 172h64v16q0 14-14 14H38q-14 0-14-14z" fill="var(--oil-laden)" />
    </svg>
  )
}

function Curve({ can, grade, name }: { can: PartOf<'can'>; grade: Grade; name: string }) {
  const [W, H, L, B] = [420, 210, 34, 34]
  const first = grade.points[0]!.d
  const last = grade.points.at(-1)!.d
  const x = (um: number) => L + ((W - 8 - L) * Math.log(um / (first * 1e6))) / Math.log(last / first)
  const y = (e: number) => 10 + (1 - e) * (H - 10 - B)
  const half = grade.d50 === undefined ? 'none' : `${(grade.d50 * 1e6).toPrecision(2)} micrometres`
  const line = (of: (p: Grade['points'][number]) => number) =>
    `M${grade.points.map((p) => `${x(p.d * 1e6)} ${y(of(p))}`).join('L')}`
  return (
    <figure>
      <svg
        viewBox={`0 0 ${W} ${H}`}
        className="w-full"
        role="img"
        aria-label={`Share caught by droplet size, ${name.toLowerCase()}: half of ${half}`}
      >
        <path d={`${line((p) => p.all)}L${W - 8} ${y(0)}H${L}Z`} fill="var(--oil-clean)" opacity="0.45" />
        {[0, 0.5, 1].map((e) => (
          <g key={e}>
            <path d={`M${L} ${y(e)}H${W - 8}`} stroke="var(--rule)" />
            <text x={L - 4} y={y(e) + 4} textAnchor="end" fontSize="11" fill="var(--soft)">
              {e * 100}
            </text>
          </g>
        ))}
        {[0.1, 0.3, 1, 3, 10, 30].map((d) => (
          <text key={d} x={x(d)} y={H - 18} textAnchor="middle" fontSize="11" fill="var(--soft)">
            {d}
          </text>
        ))}
        <text x={W - 8} y={H - 4} textAnchor="end" fontSize="11" fill="var(--soft)">
          droplet, µm
        </text>
        {can.stages.map((s, i) => (
          <path
            key={`${s.type} ${i}`}
            d={line((p) => p.stages[i]!)}
            fill="none"
            stroke="var(--soft)"
            strokeDasharray={DASHES[i % DASHES.length]}
          />
        ))}
        <path d={line((p) => p.all)} fill="none" stroke="var(--oil-laden)" strokeWidth="2.5" />
        {/* mist and splash as they come to it */}
        {[0.9, 11].map((d, i) => (
          <g key={d}>
            <path d={`M${x(d)} ${y(0)}V${y(1)}`} stroke="var(--ink)" strokeDasharray="1 3" />
            <text x={x(d) + 3} y={y(0) - 4} fontSize="11" fill="var(--ink)">
              {i === 0 ? 'mist' : 'splash'}
            </text>
          </g>
        ))}
      </svg>
      <figcaption className="text-xs text-soft">
        Caught of each size, %, {name.toLowerCase()}: thick all together, dashed each stage alone. What lies above the
        curve passes.
      </figcaption>
    </figure>
  )
}

/** How near the gas comes to tearing caught oil off again, state by state, and the diameter that would just do. */
function LiftPicture({ can }: { can: PartOf<'can'> }) {
  const analysis = useWorkspace((s) => s.analysis)
  const units = useUnits()
  const say = unitFormatter(units)
  const speedUnit = shownUnit('speed', units)
  const lift = liftOf(can, analysis.states, analysis.engine)
  if (!lift) return null
  const most = lift.states.reduce((m, s) => Math.max(m, s.velocity / s.limit), 1.25)
  const tears = lift.states.filter((s) => s.velocity > s.limit)
  return (
    <figure className="mt-3">
      <figcaption className="text-sm font-bold">Gas through its section, and where it tears oil off again</figcaption>
      <div className="mt-1 space-y-0.5">
        {lift.states.map((s) => (
          <div key={s.id} className="grid grid-cols-[4.5rem_1fr_7rem] items-center gap-2 text-xs">
            <span className="text-soft">{STATE_NAMES[s.id]}</span>
            <span aria-hidden className="relative block h-3 bg-well">
              <span
                className="absolute inset-y-0 left-0"
                style={{
                  width: `${(100 * s.velocity) / s.limit / most}%`,
                  background: s.velocity > s.limit ? 'var(--stop)' : 'var(--vacuum)',
                }}
              />
              <span className="absolute -inset-y-0.5 border-l-2 border-ink" style={{ left: `${100 / most}%` }} />
            </span>
            <span className="fig whitespace-nowrap text-right">
              {formatNumber(fromSi('speed', s.velocity, speedUnit), 2)} of{' '}
              {formatNumber(fromSi('speed', s.limit, speedUnit), 2)} {unitLabel(speedUnit)}
            </span>
          </div>
        ))}
      </div>
      <p className="pt-1 text-xs text-soft">
        {tears.length > 0
          ? `Past the bar gas takes caught oil on with it ${tears.map((s) => atState(s.id)).join(', ')}: it wants ${say.length(lift.leastDiameterM)} inside, and has ${say.length(lift.diameterM)}.`
          : `Nothing is torn off: ${say.length(lift.leastDiameterM)} inside would just do, it has ${say.length(lift.diameterM)}.`}
      </p>
    </figure>
  )
}

/** Dimensions of every stage, open to edit: drop and capture follow. */
function Stages({ can }: { can: PartOf<'can'> }) {
  const act = useWorkspace((s) => s.act)
  const put = (stages: readonly StageSpec[], burst?: string) => {
    const nippleMm = can.ports.find((p) => p.id === 'in')?.boreMm ?? 12.7
    // a drop that was measured is the can's own and stays
    const drop = can.measured?.includes('dropKpaAt100') ? {} : dropOf(stages, nippleMm)
    act(setPart(can.id, { stages: [...stages], ...drop, model: 'own' }), `${can.name}: what is in it`, burst)
  }
  const change = (i: number, key: string, value: number) =>
    put(can.stages.map((s, k) => (k === i ? { ...s, [key]: value } : s)) as StageSpec[], `stage ${can.id} ${i} ${key}`)
  const earlier = (i: number) => put(can.stages.map((s, k) => can.stages[k === i ? i - 1 : k === i - 1 ? i : k] ?? s))
  return (
    <div className="mt-2 grid gap-x-6 sm:grid-cols-2">
      {can.stages.map((s, i) => (
        <fieldset key={`${s.type} ${i}`} className="min-w-0">
          <legend className="text-sm font-bold">
            {i + 1} · {STAGE_NAMES[s.type]}{' '}
            {i > 0 && (
              <button type="button" className="link-button font-normal" onClick={() => earlier(i)}>
                before the last
              </button>
            )}{' '}
            <button
              type="button"
              className="link-button font-normal"
              aria-label={`Take ${STAGE_NAMES[s.type]}, stage ${i + 1}, out`}
              onClick={() => put(can.stages.filter((_, k) => k !== i))}
            >
              out
            </button>
          </legend>
          <div className="grid grid-cols-2 gap-2">
            {Object.entries(STAGE_FIELDS[s.type] as Readonly<Record<string, Field>>).map(([key, field]) => (
              <NumberField
                key={key}
                field={field}
                label={field.label}
                value={(s as unknown as Record<string, number>)[key]}
                onChange={(v) => {
                  if (v !== undefined) change(i, key, v)
                }}
              />
            ))}
          </div>
        </fieldset>
      ))}
      {can.stages.length < MAX_STAGES && (
        <p className="flex flex-wrap gap-x-3 sm:col-span-2">
          Put in:
          {(Object.keys(STAGE_NAMES) as StageSpec['type'][]).map((type) => (
            <button
              key={type}
              type="button"
              className="link-button"
              onClick={() => put([...can.stages, ordinary(type, can.faceCm2)])}
            >
              {STAGE_NAMES[type]}
            </button>
          ))}
        </p>
      )}
    </div>
  )
}

/** A stage as one would begin with it, in a can of this section (estimates). */
function ordinary(type: StageSpec['type'], faceCm2: number): StageSpec {
  switch (type) {
    case 'impactor':
      return { type, jets: 12, jetDiameterMm: 4 }
    case 'cyclone':
      return { type, inletWidthMm: 12, inletHeightMm: 20, turns: 4 }
    case 'settling':
      return { type, floorCm2: faceCm2 }
    case 'fibre':
      return { type, fibreUm: 20, solidityPct: 4, thicknessMm: 30, faceCm2 }
  }
}

/** The least can for this engine and use, design by design. */
function SizeIt({ can }: { can: PartOf<'can'> }) {
  const build = useWorkspace((s) => s.build)
  const today = useWorkspace((s) => s.today)
  const edit = useWorkspace((s) => s.edit)
  const units = useUnits()
  const say = unitFormatter(units)
  const job = useJob('size')
  const volume = (m3: number) => quantityText(m3, 'volume', units, 2)
  const { value } = job
  return (
    <div className="mt-2">
      {job.progress === undefined ? (
        <button type="button" className="link-button" onClick={() => job.start(build, can.id, today)}>
          Size the {lowered(can.name)} for this engine and use
        </button>
      ) : (
        <p role="status">
          Trying sizes, {Math.round(job.progress * 100)} %{' '}
          <button type="button" className="link-button" onClick={job.stop}>
            Stop
          </button>
        </p>
      )}
      {value?.ok === false && <p className="text-fix">{value.reason}</p>}
      {value?.ok && (
        <div className="overflow-x-auto">
          <table className="table w-full min-w-[36rem]">
            <thead>
              <tr>
                <th>Design</th>
                <th>Inside, least</th>
                <th>Bowl; a look missed</th>
                <th>To the intake</th>
                <th>Highest crankcase</th>
                <th />
              </tr>
            </thead>
            <tbody>
              {value.value.sizes.map((s) => (
                <tr key={s.key}>
                  <th scope="row" className="!text-ink">
                    {s.name}
                    {s.key === value.value.pays && (
                      <span className="block text-xs text-good">pays for its drop best</span>
                    )}
                    {s.kept < 0.97 && (
                      <span className="block text-xs text-fix">still too narrow: it fades at full load</span>
                    )}
                  </th>
                  <td>
                    Ø {say.length(s.diameterM)}, {say.length(s.heightM)} high
                  </td>
                  <td>
                    {volume(s.bowlM3)}; {volume(s.bowlMissedM3)}
                  </td>
                  <td>{say.perDistance(s.intakeOil)}</td>
                  <td>{say.pressure(s.highestPa)}</td>
                  <td>
                    <button
                      type="button"
                      className="link-button"
                      onClick={() => edit(s.edits, `${can.name}: ${s.name.toLowerCase()}, sized`)}
                    >
                      Take it
                    </button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="text-xs text-soft">
            Now {say.perDistance(value.value.now.intakeOil)} to the intake, {say.pressure(value.value.now.highestPa)} at
            most. Bowls to the next look in a heavy case of ten, and to the one after.
          </p>
        </div>
      )}
    </div>
  )
}
