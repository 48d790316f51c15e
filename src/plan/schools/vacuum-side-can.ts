/** Vacuum-side can: a can between PCV valve and manifold; the breather line stays as the maker laid it. */
import type { Engine, Part, Variant } from '../document/schema'
import { can, direct, hose, inlet, passage, pcv, port, space } from './parts'

/** Sizes follow displacement: typical of what engines of that size carry (estimates). */
function sizes(engine: Engine): { suctionMm: number; breatherMm: number; pcv: string; passageMm: number; passages: number } {
  const cc = engine.displacementCc
  if (cc < 1000) return { suctionMm: 8.7, breatherMm: 12.7, pcv: 'small', passageMm: 9, passages: 2 }
  if (cc < 1700) return { suctionMm: 9.5, breatherMm: 14.3, pcv: 'small', passageMm: 10, passages: 3 }
  if (cc < 3000) return { suctionMm: 11.1, breatherMm: 15.9, pcv: 'medium', passageMm: 11, passages: 4 }
  return { suctionMm: 12.7, breatherMm: 19, pcv: 'large', passageMm: 12, passages: 4 }
}

/** Parts that every sealed engine has, whichever school: crankcase, passages up to the covers, manifold, inlet tract. */
function engineSide(engine: Engine, passageMm: number, passages: number): { parts: Part[]; lines: Variant['lines']; pcvCover: string; breatherCover: string } {
  const two = engine.layout !== 'inline'
  const covers = two ? [['coverL', 'Left cover', 'passageL', 'Left drain passages'], ['coverR', 'Right cover', 'passageR', 'Right drain passages']] as const : [['cover', 'Cam cover', 'passage', 'Drain passages']] as const
  const beforeWhat = engine.induction === 'turbo' ? 'Inlet, ahead of compressor' : engine.induction === 'super' ? 'Inlet, ahead of blower' : 'Inlet, ahead of throttle'
  const parts: Part[] = [space('crankcase', 'crankcase', 'Crankcase', ...covers.map((_, i) => port(`top${i + 1}`, `Passage ${i + 1}`)))]
  const lines: Variant['lines'] = []
  covers.forEach(([id, name, passageId, passageName], i) => {
    // of two banks the breather sits on the left one, towards the inlet, the PCV valve on the right one, towards the manifold
    const pcvHere = i === covers.length - 1
    const breatherHere = i === 0
    parts.push(passage(passageId, passageName, passageMm, passages), space('cover', id, name, port('below', 'From the crankcase'), ...(pcvHere ? [port('pcv', 'PCV seat')] : []), ...(breatherHere ? [port('breather', 'Breather nipple')] : [])))
    lines.push(direct(`${passageId}-in`, `${passageName}, lower end`, `crankcase.top${i + 1}`, `${passageId}.in`), direct(`${passageId}-out`, `${passageName}, upper end`, `${passageId}.out`, `${id}.below`))
  })
  parts.push(space('manifold', 'manifold', 'Intake manifold', port('vacuum', 'Vacuum port')), inlet('inlet', beforeWhat, 100, port('breather', 'Breather port')))
  return { parts, lines, pcvCover: covers[covers.length - 1]![0], breatherCover: covers[0]![0] }
}

export function vacuumSideCan(engine: Engine, id = 'a', canModel = 'baffled'): Variant {
  const s = sizes(engine)
  const side = engineSide(engine, s.passageMm, s.passages)
  return {
    id, name: 'Vacuum-side can', school: 'vacuum-side-can',
    parts: [...side.parts, pcv('pcv', 'PCV valve', s.pcv), can('can', 'Catch can', canModel)],
    lines: [
      ...side.lines,
      direct('pcv-seat', 'PCV seat', `${side.pcvCover}.pcv`, 'pcv.in'),
      hose('dirty', 'Dirty line', 'pcv.out', 'can.in', s.suctionMm, 450, [[90, 40]], [undefined, 90]),
      hose('suction', 'Suction line', 'can.out', 'manifold.vacuum', s.suctionMm, 550, [[90, 40], [90, 40]]),
      hose('breather', 'Breather line', `${side.breatherCover}.breather`, 'inlet.breather', s.breatherMm, 700, [[45, 60], [90, 50]]),
    ],
  }
}
