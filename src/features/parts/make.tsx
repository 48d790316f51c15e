'use client'
/** What is made by hand: a baffle plate to its drawing, a bung, a tapped port; each with its order of work and its cautions. */
import { activeVariant } from '@/plan/edit/edit'
import { lowered, unitFormatter } from '@/plan/document/words'
import { spannerRooms } from '@/plan/fit/spanner-room'
import { bungsOf } from '@/plan/fit/bungs'
import { closuresOf } from '@/plan/fit/closures'
import type { Strip } from '@/plan/fit/strips'
import { useUnits, useWorkspace } from '../workspace/store'
import { BungSpot } from './bung-spot'
import { CoverBaffles } from './cover-baffles'

type Guide = {
  readonly title: string
  readonly spot?: true
  readonly steps: readonly string[]
  readonly caution: string
}
/** Orders of work (common practice, no source). */
const GUIDES: readonly Guide[] = [
  {
    title: 'A bung in a cover',
    spot: true,
    steps: [
      'Cover off, bare, degreased twice; the spot over its inner baffle, where no rocker or chain throws oil.',
      'Offer the hose end up with the hose on: the spanner has room, the bonnet shuts.',
      'Hole to the bung’s spigot, deburred; the bung a close fit.',
      'Tack, cool, run in quarters, so that the gasket face stays flat; check it on a flat plate.',
      'Filler cap used as the outlet instead: by one school a separator in the cap spares the weld, by the other a cap that must come off for oil is no place for a hose.',
      'Water in it, air at half a bar, soap on the weld; then wash, dry, and look for chips with a light.',
    ],
    caution:
      'Fumes of oil and coatings, ultraviolet light: a welder who is licensed where the law asks that, and fresh air.',
  },
  {
    title: 'A port drilled and tapped',
    steps: [
      'Centre punch; a pilot of a third of the tap drill, then half, then the tap drill: square, and no deeper than the wall.',
      'Grease on drill and tap holds the chips; half a turn on, a quarter back.',
      'Taper thread: tap until the fitting stands three turns in by hand. Straight thread: a spot face as wide as the O-ring’s washer.',
      'Chips: the part off the engine and washed twice; what cannot come off is drilled at low pressure of air from inside, magnet and grease.',
    ],
    caution: 'Goggles. A chip in the oil ways costs the engine.',
  },
  {
    title: 'An access hole under a drain plug',
    steps: [
      'Mark the plug’s middle on the shroud with chalk, hole saw a finger wider than spanner and cup.',
      'Edge rolled or a grommet; a blanking plug kept with the car.',
    ],
    caution: 'Nothing behind the panel: no line, no loom. Look twice.',
  },
]

export function Make({ strips }: { strips: readonly Strip[] }) {
  const build = useWorkspace((s) => s.build)
  // the bung of the plan, else one for the usual -10
  const holeMm = 1000 * (bungsOf(strips)[0]?.holeM ?? 0.0153)
  const closures = closuresOf(build, activeVariant(build))
  return (
    <section aria-labelledby="make">
      <h2 id="make" className="head border-b-[1.5px] border-ink pb-1">
        Made by hand
      </h2>
      <CoverBaffles />
      {closures.length > 0 && (
        <>
          <h3 className="pt-3 text-sm">Caps and plugs</h3>
          <ul className="list-disc pl-5 text-sm">
            {closures.map((c) => (
              <li key={`${c.part.id} ${c.port}`}>
                {c.name}: {c.what}
              </li>
            ))}
          </ul>
        </>
      )}
      <SpannerRooms strips={strips} />
      {GUIDES.map((g) => (
        <details key={g.title} className="border-b border-rule">
          <summary className="min-h-11 py-2 font-bold">{g.title}</summary>
          {g.spot && <BungSpot holeMm={holeMm} />}
          <ol className="list-decimal space-y-1 pb-2 pl-5">
            {g.steps.map((s) => (
              <li key={s}>{s}</li>
            ))}
          </ol>
          <p className="pb-2 font-bold text-fix">{g.caution}</p>
        </details>
      ))}
    </section>
  )
}

/** Where a bung or fitting would sit too near to something for the spanner that turns it. */
function SpannerRooms({ strips }: { strips: readonly Strip[] }) {
  const build = useWorkspace((s) => s.build)
  const say = unitFormatter(useUnits())
  const rooms = spannerRooms(build, activeVariant(build), strips)
  if (rooms.length === 0) return null
  const tight = rooms.filter((r) => r.freeM < r.askedM)
  return (
    <>
      <h3 className="pt-3 text-sm">Room for the spanner</h3>
      {tight.length === 0 ? (
        <p className="text-sm">
          Tightest at the {lowered(rooms[0]!.at)}: {say.length(rooms[0]!.freeM)} to {rooms[0]!.to}, a hexagon of{' '}
          {say.mm(rooms[0]!.hexMm)} asks for {say.length(rooms[0]!.askedM)}. Every other fitting has more.
        </p>
      ) : (
        <ul className="list-disc pl-5 text-sm">
          {tight.map((r) => (
            <li key={r.at} className="text-fix">
              {r.at}: {r.freeM > 0 ? `only ${say.length(r.freeM)} to` : 'it lies in'} {r.to}, and a hexagon of{' '}
              {say.mm(r.hexMm)} with its spanner asks for {say.length(r.askedM)}. Another spot for the bung, a bent end,
              or screw it before that goes back.
            </li>
          ))}
        </ul>
      )}
    </>
  )
}
