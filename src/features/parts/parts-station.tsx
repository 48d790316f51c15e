'use client'
/** Parts: every line as it is made, what to buy, cut, drill and bend for it. */
import { Printer } from 'lucide-react'
import { FORM_KEYS, formName, formOf } from '@/plan/catalogue/forms'
import { setLine } from '@/plan/edit/edit-builders'
import { activeVariant } from '@/plan/edit/edit'
import { lowered, unitFormatter } from '@/plan/document/words'
import { noteForm } from '@/plan/fit/fit-builders'
import { couplingsOf, type Coupling } from '@/plan/fit/couplings'
import { hosesToShare } from '@/plan/fit/lists'
import { stripsOf, type Strip, type StripEnd } from '@/plan/fit/strips'
import type { LineEnd } from '@/plan/document/schema'
import { Select } from '@/ui/select'
import { WideRegion } from '@/ui/wide-region'
import { useAssumed } from '../workspace/figures/assumed'
import { useUnits, useWorkspace } from '../workspace/store'
import { Bracket } from './bracket'
import { Buy } from './buy'
import { CutList } from './cut-list'
import { Make } from './make'
import { OwnFittings } from './own-fittings'
import { StripPicture } from './strip-picture'

export function PartsStation() {
  const build = useWorkspace((s) => s.build)
  const select = useWorkspace((s) => s.select)
  const selected = useWorkspace((s) => s.selected)
  const variant = activeVariant(build)
  const strips = stripsOf(build, variant)
  const made = strips.filter((s) => !s.kept)
  const shown = strips.find((s) => selected?.kind === 'line' && s.line.id === selected.id) ?? made[0] ?? strips[0]
  const shares = hosesToShare(strips)
  const cans = variant.parts.filter((p) => p.kind === 'can')
  if (!shown)
    return (
      <div className="px-4 py-10">
        <h2 className="text-lg">There is no hose in this plan</h2>
        <p className="mt-2 text-soft">Join parts at the Circuit; then they are made here.</p>
      </div>
    )
  return (
    <div className="print-flow space-y-4 px-4 py-2">
      <section aria-labelledby="strip">
        <div className="flex flex-wrap items-baseline justify-between gap-x-4 border-b-[1.5px] border-ink pb-1">
          <h2 id="strip" className="head">
            {shown.line.name}, {lowered(shown.ends[0].part.name)} to {lowered(shown.ends[1].part.name)}
          </h2>
          <button type="button" className="link-button no-print inline-flex items-center gap-1" onClick={() => print()}>
            <Printer size={16} aria-hidden /> Print
          </button>
        </div>
        <WideRegion label={`${shown.line.name}, piece by piece`}>
          <StripPicture strip={shown} />
        </WideRegion>
        <Why strip={shown} />
        <nav aria-label="Lines of this plan" className="no-print mt-1 flex flex-wrap gap-x-4">
          {strips.map((s) => (
            <button
              key={s.line.id}
              type="button"
              aria-current={s === shown}
              className={s === shown ? 'min-h-9 font-bold' : 'link-button min-h-9'}
              onClick={() => select({ kind: 'line', id: s.line.id })}
            >
              {s.line.name}
              {s.kept ? ' (kept)' : s.ends.some((e) => !e.chain.ok) || s.hose?.ok === false ? ' (open)' : ''}
            </button>
          ))}
        </nav>
      </section>
      {made.length === 0 ? (
        <p className="text-soft">Every hose of this plan is the maker’s own: there is nothing to cut.</p>
      ) : (
        <>
          <Buy />
          {shares.map((s) => (
            <p key={s} className="border-l-4 border-blue bg-blue-wash px-2 py-1">
              {s}
            </p>
          ))}
          <CutList />
          <Couplings />
          <OwnFittings />
        </>
      )}
      {cans.map((c) => (
        <Bracket key={c.id} canId={c.id} name={c.name} />
      ))}
      <Make strips={strips} />
    </div>
  )
}

/** Bodies that stand mouth to mouth: what joins them, or why nothing does. */
function Couplings() {
  const build = useWorkspace((s) => s.build)
  const say = unitFormatter(useUnits())
  const couplings = couplingsOf(build, activeVariant(build))
  if (couplings.length === 0) return null
  const how = (c: Coupling): string =>
    ({
      neck: 'on the filler neck, by its own seal',
      seat: 'pushed into a new grommet',
      mouth: 'clamped on by its own neck',
      sleeve: `a hand’s width of ${say.mm(c.hose?.mm ?? 0)} hose between two clamps`,
    })[c.kind]
  return (
    <section aria-labelledby="couplings">
      <h2 id="couplings" className="head border-b-[1.5px] border-ink pb-1">
        Joined without a hose
      </h2>
      <ul className="list-disc pl-5 text-sm">
        {couplings.map((c) => {
          const [a, b] = c.ends
          const bad = c.ends.flatMap((e) => (e.chain?.ok === false ? [e.chain.reason] : []))
          return (
            <li key={c.line.id} className={bad.length > 0 ? 'text-fix' : ''}>
              {a.part.name}, {lowered(a.port)}, to {lowered(b.part.name)}, {lowered(b.port)}: {bad[0] ?? how(c)}.
            </li>
          )
        })}
      </ul>
    </section>
  )
}

/** Why each end is made so, what form its port has, what else would do, and what its bore does to the plan. */
function Why({ strip }: { strip: Strip }) {
  const units = useUnits()
  const assumed = useAssumed(['variants', useWorkspace((s) => s.build.active), 'lines', strip.line.id, 'lengthMm'])
  const say = unitFormatter(units)
  const bores = strip.ends.map((e) => (e.chain.ok ? e.chain.value.boreMm : Infinity))
  const least = Math.min(...bores, strip.hose?.ok ? strip.hose.value.mm : strip.line.boreMm)
  return (
    <>
      {strip.hose?.ok === false && <p className="text-fix">{strip.hose.reason}</p>}
      <div className="grid grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-2 md:grid-cols-2">
        {strip.ends.map((e, i) => (
          <EndWhy key={i === 0 ? 'from' : 'to'} strip={strip} end={e} which={i === 0 ? 'from' : 'to'} />
        ))}
      </div>
      <p className="mt-1 text-xs text-soft">
        Least bore on the way {say.length(least / 1000)}. Path {say.length(strip.pathM)}
        {strip.lay ? ', by the bay' : assumed ? ', an estimate: measure it' : ', as entered'}
        {strip.slackM > 0 ? `; ${say.length(strip.slackM)} of slack, since one end moves with the engine` : ''}
        {strip.clips > 0 ? `; ${strip.clips} clip${strip.clips === 1 ? '' : 's'}` : ''}.
      </p>
    </>
  )
}

function EndWhy({ strip, end, which }: { strip: Strip; end: StripEnd; which: 'from' | 'to' }) {
  const act = useWorkspace((s) => s.act)
  const units = useUnits()
  const { mm: tell } = unitFormatter(units)
  const port = `${end.end.part}.${end.end.port}`
  const counted = end.end.barbMm ?? Math.max(strip.line.boreMm - 3.2, 0.5 * strip.line.boreMm)
  const bore = end.chain.ok ? end.chain.value.boreMm : undefined
  // one more joint may be worth it for what lies in the drawer; three are not
  const best = end.chain.ok ? end.chain.value.joints : 0
  const other = end.others.find((o) => o.joints <= best + 2)
  const differs = !strip.kept && bore !== undefined && Number.isFinite(bore) && Math.abs(bore - counted) > 0.6
  const take = () => {
    const mm = Math.round(bore! * 10) / 10
    const hoseMm = strip.hose?.ok ? strip.hose.value.mm : strip.line.boreMm
    const change = (e: LineEnd) => ({ ...e, barbMm: mm })
    act(
      setLine(strip.line.id, { boreMm: hoseMm, [which]: change(strip.line[which]) }),
      `${strip.line.name}: the bore that its pieces have`,
    )
  }
  return (
    <div>
      <div className="flex flex-wrap items-center gap-x-2">
        <span className="min-w-0 flex-1 text-sm">
          {end.looked ? '' : '◇ '}
          <strong>{end.part.name}</strong>, {end.port.toLowerCase()}
        </span>
        <Select
          label={`Form of ${end.part.name}, ${end.port.toLowerCase()}`}
          className="no-print !w-48"
          value={end.form}
          options={[...(FORM_KEYS.includes(end.form) ? [] : [end.form]), ...FORM_KEYS].map((key) => ({
            value: key,
            name: formName(formOf(key)!),
          }))}
          onChange={(form) => act(noteForm(port, form), `${end.part.name}: the form of its port`)}
        />
      </div>
      {strip.kept ? (
        <p className="text-xs text-soft">The maker’s hose stays on it.</p>
      ) : end.chain.ok ? (
        <ul className="text-xs text-soft">
          {end.chain.value.pieces.map((p) => (
            <li key={p.key}>
              {p.name}: {p.why}.
            </li>
          ))}
          {end.chain.value.hoseEnd.kind === 'clamp' && (
            <li>Hose on the barb to its shoulder; nothing looser than the barb, no clamp mends that.</li>
          )}
          {other && (
            <li>
              Else: {other.pieces.map((p) => p.name).join(', ') || 'as it is'} ({other.joints} joints,{' '}
              {tell(other.boreMm)}).
            </li>
          )}
        </ul>
      ) : (
        <p className="text-xs font-bold text-fix">{end.chain.reason}</p>
      )}
      {differs && (
        <p className="no-print text-xs">
          These pieces pass {tell(bore)}, the plan counts {tell(counted)}.{' '}
          <button type="button" className="link-button" onClick={take}>
            Count this bore
          </button>
        </p>
      )}
    </div>
  )
}
