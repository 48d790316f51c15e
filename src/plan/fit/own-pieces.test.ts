/** Fittings of the builder’s own: they close chains, and come back from their table as they went. */
import type { Build } from '../document/schema'
import { validateBuild } from '../document/validate'
import { newBuild } from '../schools/new-build'
import { after } from '../testing'
import { setOwnPieces } from './fit-builders'
import { chainsTo } from './ends'
import { ownPieces, type OwnPiece } from './own-pieces'
import { ownCsv, readOwn } from './own-pieces-csv'

describe('fittings of the builder’s own', () => {
  const b = newBuild({
    name: 'x',
    engineClass: 'i5-turbo',
    use: 'street',
    ambientC: 10,
    units: 'metric',
    school: 'breather-side-can',
  })
  const own = (pieces: readonly OwnPiece[]): Build => after(b, setOwnPieces([...pieces]))
  const odd = {
    id: 'odd',
    name: 'Turned sleeve',
    from: 'metric-M22x1.5',
    to: 'flare-16',
    boreMm: 18,
    joints: undefined,
  }
  const braid16 = { kind: 'braided', mm: 22.2, name: '-16', dash: 16 } as const

  test('one closes a chain that no table can, and is bought and bored like any other', () => {
    expect(chainsTo('metric-M22x1.5', braid16).ok).toBe(false)
    const [piece] = ownPieces(own([odd]))
    const chain = chainsTo('metric-M22x1.5', braid16, [piece!])
    expect(chain.ok && chain.value[0]).toMatchObject({ boreMm: 18, joints: 2, pieces: [{ name: 'Turned sleeve' }] })
    // of a form that is none it is left out, and no build is the worse for it
    expect(ownPieces(own([{ ...odd, from: 'bayonet-3' }]))).toEqual([])
    expect(validateBuild(own([odd])).ok).toBe(true)
  })

  test('a table of them comes back as it went, and a bad one is refused by line', () => {
    let n = 0
    const read = readOwn(ownCsv(own([odd])), () => `id-${++n}`)
    expect(read.ok && read.value).toEqual([{ ...odd, id: 'id-1' }])
    const bad = readOwn('name,fits_on,offers,bore_mm\nA,pipe-3/8,flare-10,11\nB,bayonet,flare-10,900\n', () => 'x')
    expect(bad.ok ? '' : bad.reason).toMatch(/Line 3.*no form/s)
    expect(bad.ok ? '' : bad.reason).toMatch(/bore is 1 to 60 mm/)
  })
})
