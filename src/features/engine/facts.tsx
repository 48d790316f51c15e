'use client'
/** The engine as the builder knows it: facts, condition, use, place. */
import type { ReactNode } from 'react'
import { ENGINE_CLASSES } from '@/plan/catalogue/engines'
import { ENGINE_FIELDS } from '@/plan/document/fields'
import { setField } from '@/plan/edit/edit-builders'
import { setFreshAir } from '@/plan/edit/fresh-air'
import { crankcaseCc, defaultOf, pistonPhaseDeg, pulsates } from '@/plan/model/engine'
import { freshAirOf, freshHoleMm, type FreshAir } from '@/plan/catalogue/fresh-air'
import { PopoverButton } from '@/ui/popover'
import { Select } from '@/ui/select'
import { NumberField } from '../workspace/figures/field'
import { useWorkspace } from '../workspace/store'
import { FactChoice, Fact, type FactOption } from './fact-fields'
import { MeasuredBlowBy } from './measured-blow-by'
import { Place } from './place'
import { BenchFields } from './bench'
import { UsePanel } from './use'

const LAYOUTS: readonly FactOption<string>[] = [
  { value: 'inline', name: 'Inline or single' },
  { value: 'vee', name: 'Vee' },
  { value: 'flat', name: 'Flat' },
]
const INDUCTIONS: readonly FactOption<string>[] = [
  { value: 'na', name: 'Naturally aspirated' },
  { value: 'turbo', name: 'Turbocharged' },
  { value: 'super', name: 'Supercharged' },
]
const INJECTIONS: readonly FactOption<string>[] = [
  { value: 'port', name: 'Port', about: 'fuel washes the valves' },
  { value: 'direct', name: 'Direct', about: 'valves stay unwashed' },
  { value: 'dual', name: 'Port and direct' },
]
const RINGS: readonly FactOption<string>[] = [
  { value: 'tight', name: 'Tight', about: 'fresh, small gaps: 0.5 % of air' },
  { value: 'normal', name: 'Normal', about: '1.0 %' },
  { value: 'loose', name: 'Loose forged', about: '1.8 %' },
  { value: 'worn', name: 'Worn', about: '3.5 %' },
]
const SUMPS: readonly FactOption<string>[] = [
  { value: 'wet', name: 'Wet' },
  { value: 'dry', name: 'Dry', about: 'scavenge pumps to a tank' },
]
const PISTONS: readonly FactOption<string>[] = [
  { value: 'even', name: 'Two up, two down', about: 'they cancel' },
  { value: 'paired', name: 'Move in pairs', about: 'paired pins, big bang: they pump the crankcase' },
]
const FRESH_AIRS: readonly FactOption<FreshAir>[] = [
  { value: 'wide', name: 'Open hose', about: 'idle reads a breath below zero' },
  { value: 'metered', name: 'Metered hole', about: 'drilled, 3 to 6 mm' },
  { value: 'checked', name: 'Small hole, check beside it', about: 'the check lets full load out' },
  { value: 'regulator', name: 'Diaphragm regulator', about: 'holds 1 to 4 kPa of vacuum' },
]
const FUEL_NAMES: readonly FactOption<string>[] = [
  { value: 'petrol', name: 'Petrol' },
  { value: 'e85', name: 'E85', about: 'a third more water' },
  { value: 'ethanol', name: 'Ethanol', about: 'half as much again' },
  { value: 'methanol', name: 'Methanol', about: 'nearly twice the water' },
]
const PICK_UPS: readonly FactOption<string>[] = [
  { value: 'unbaffled', name: 'Open', about: 'cams throw oil at it' },
  { value: 'baffled', name: 'Baffled' },
  { value: 'multipass', name: 'Multi-pass baffle' },
]

export function Facts() {
  return (
    <div className="space-y-5 pb-6">
      <Section id="facts" title="Facts" beside={<StartFromClass />}>
        <EngineFacts />
      </Section>
      <Section id="condition" title="Condition">
        <div className="grid grid-cols-2 gap-x-4 gap-y-2">
          <FactChoice of="rings" label="Rings" options={RINGS} />
          <BlowByTimes />
          <FactChoice of="pickUp" label="Breather pick-up" options={PICK_UPS} />
          <Oil />
        </div>
        <MeasuredBlowBy />
      </Section>
      <Section id="duty" title="Use, in hours of each kind">
        <UsePanel />
      </Section>
      <Section id="bench" title="What there is to build with">
        <Bench />
      </Section>
      <Section id="place" title="Where it is driven">
        <Place />
      </Section>
    </div>
  )
}

function Bench() {
  const bench = useWorkspace((s) => s.build.bench)
  const act = useWorkspace((s) => s.act)
  return <BenchFields bench={bench} onChange={(to) => act(setField(['bench'], to))} />
}

/** Said by readings or known from elsewhere; not asked of everybody. */
function BlowByTimes() {
  const set = useWorkspace((s) => s.build.engine.blowByTimes !== undefined)
  return set && <Fact of="blowByTimes" estimate={ENGINE_FIELDS.blowByTimes.standIn} />
}

function Oil() {
  const build = useWorkspace((s) => s.build)
  return (
    <>
      <Fact of="oilLevelPct" estimate={defaultOf(build, 'oilLevelPct')} />
      <Fact of="oilC" estimate={defaultOf(build, 'oilC')} />
    </>
  )
}

function Section({
  id,
  title,
  beside,
  children,
}: {
  id: string
  title: string
  beside?: ReactNode
  children: ReactNode
}) {
  return (
    <section aria-labelledby={id}>
      <div className="mb-2 flex items-baseline justify-between border-b-[1.5px] border-ink pb-1">
        <h2 id={id} className="head">
          {title}
        </h2>
        {beside}
      </div>
      {children}
    </section>
  )
}

function EngineFacts() {
  const build = useWorkspace((s) => s.build)
  const { engine } = build
  const charged = engine.induction !== 'na'
  return (
    <div className="grid grid-cols-2 gap-x-4 gap-y-2">
      <Fact of="cylinders" />
      <FactChoice of="layout" label="Layout" options={LAYOUTS} />
      <Fact of="displacementCc" />
      <Fact of="boreMm" />
      <Fact of="compression" />
      <FactChoice of="injection" label="Injection" options={INJECTIONS} />
      <FactChoice of="induction" label="Induction" options={INDUCTIONS} />
      {charged ? <Fact of="boostKpa" /> : <FactChoice of="sump" label="Sump" options={SUMPS} />}
      <FactChoice of="fuel" label="Fuel" options={FUEL_NAMES} standIn="petrol" />
      <Fact of="idleRpm" />
      <Fact of="ratedRpm" />
      <Fact of="idleManifoldKpa" estimate={defaultOf(build, 'idleManifoldKpa')} />
      <Fact of="inletDepressionKpa" estimate={defaultOf(build, 'inletDepressionKpa')} />
      <Fact of="inletFouling" estimate={defaultOf(build, 'inletFouling')} />
      <FreshAirFacts />
      {charged && <FactChoice of="sump" label="Sump" options={SUMPS} />}
      {pulsates(engine) && <Fact of="crankcaseCc" estimate={crankcaseCc(engine)} />}
      {engine.cylinders === 4 && <FactChoice of="pistons" label="Pistons" options={PISTONS} standIn="even" />}
      {(engine.cylinders === 2 || (engine.cylinders === 4 && engine.pistons === 'paired')) && (
        <Fact of="pistonPhaseDeg" estimate={pistonPhaseDeg(engine)} />
      )}
    </div>
  )
}

/** How fresh air comes in: the plans' stock breather ports follow. */
function FreshAirFacts() {
  const engine = useWorkspace((s) => s.build.engine)
  const act = useWorkspace((s) => s.act)
  const kind = freshAirOf(engine)
  return (
    <>
      <div>
        <span className="block text-xs text-soft" aria-hidden>
          Fresh air comes in by
        </span>
        <Select
          label="Fresh air comes in by"
          value={kind}
          options={FRESH_AIRS}
          onChange={(freshAir) => act([setFreshAir({ freshAir })], undefined, 'engine freshAir')}
        />
      </div>
      {(kind === 'metered' || kind === 'checked') && (
        <NumberField
          field={ENGINE_FIELDS.freshHoleMm}
          value={engine.freshHoleMm}
          estimate={freshHoleMm({ ...engine, freshHoleMm: undefined })}
          onChange={(hole) =>
            act([setFreshAir({ freshAir: kind, freshHoleMm: hole })], undefined, 'engine freshHoleMm')
          }
        />
      )}
    </>
  )
}

function StartFromClass() {
  const act = useWorkspace((s) => s.act)
  return (
    <PopoverButton
      label="Engine classes"
      button="Start from a class"
      buttonClass="link-button"
      panelClass="max-h-[60vh] w-80 overflow-auto p-1"
      align="end"
    >
      {(close) =>
        ENGINE_CLASSES.map(({ key, name, ...facts }) => (
          <button
            type="button"
            key={key}
            className="menu-item w-full text-left hover:bg-blue-wash"
            onClick={() => {
              close()
              act([setField(['engine'], { ...facts, overrides: {} }), setField(['about'], name)], `Engine: ${name}`)
            }}
          >
            {name}
          </button>
        ))
      }
    </PopoverButton>
  )
}
