/** Drawings to scale: what they cover, and what their files hold, by hand and by a general DXF reader. */
import Reader from 'dxf-parser'
import { boundsOf, checkSquare, rectangle, type Drawing } from './drawing'
import { dxfOf } from './dxf'
import { svgOf } from './svg'

const PLATE: Drawing = {
  title: 'Plate & <bracket>',
  marks: [
    rectangle('outline', { x0: -5, y0: 2, x1: 95, y1: 42 }),
    { kind: 'circle', layer: 'hole', at: [10, 12], r: 4 },
    {
      kind: 'line',
      layer: 'bend',
      points: [
        [30, 2],
        [30, 42],
      ],
    },
    { kind: 'text', layer: 'dimension', at: [0, 50], text: '90° "a"', size: 4 },
  ],
}

describe('what a drawing covers', () => {
  test('lines by their points, circles to their rim, words by the height of a capital and seven tenths of it a letter', () => {
    // 7 letters of 2.8 mm from 0 on, 4 mm over 50
    expect(boundsOf(PLATE)).toEqual({ x0: -5, y0: 2, x1: 95, y1: 54 })
    expect(boundsOf({ title: '', marks: [PLATE.marks[1]!] })).toEqual({ x0: 6, y0: 8, x1: 14, y1: 16 })
    const word = boundsOf({ title: '', marks: [PLATE.marks[3]!] })!
    expect([word.x0, word.y0, word.y1]).toEqual([0, 50, 54])
    expect(word.x1).toBeCloseTo(7 * 4 * 0.7, 9)
  })
  test('an empty drawing, and one with a place that is no number, cover nothing', () => {
    expect(boundsOf({ title: '', marks: [] })).toBeUndefined()
    const lost = { kind: 'circle', layer: 'hole', at: [Number.NaN, 0], r: 1 } as const
    expect(boundsOf({ title: '', marks: [PLATE.marks[0]!, lost] })).toBeUndefined()
  })
  test('a check square has its side, from where it is put', () => {
    expect(boundsOf({ title: '', marks: checkSquare(7, -64).slice(0, 1) })).toEqual({ x0: 7, y0: -64, x1: 57, y1: -14 })
    expect(boundsOf({ title: '', marks: checkSquare(0, 0, 20).slice(0, 1) })).toEqual({ x0: 0, y0: 0, x1: 20, y1: 20 })
    expect(checkSquare(0, 0, 20)[1]).toEqual(expect.objectContaining({ at: [3, 10], text: '20 mm: check' }))
  })
})

describe('as SVG', () => {
  const svg = svgOf(PLATE)
  test('a millimetre is a millimetre on paper, with a margin all round', () => {
    // 100 by 52 and ten on each side
    expect(svg).toContain('width="120mm" height="72mm" viewBox="0 0 120 72"')
  })
  test('up is up: what stands highest has the least y', () => {
    // x + 5 + 10; 54 - y + 10
    expect(svg).toContain('<circle cx="25" cy="52" r="4" stroke="#111"')
    expect(svg).toContain('<path d="M10 62L110 62L110 22L10 22Z" ')
    expect(svg).toContain('<path d="M45 62L45 22" stroke="#111" stroke-width="0.3" stroke-dasharray')
    // a capital is about seven tenths of the size that fonts are told by
    expect(svg).toContain('<text x="15" y="14" font-size="5.6"')
  })
  test('words that mean something to SVG are words', () => {
    expect(svg).toContain('<title>Plate &amp; &lt;bracket&gt;</title>')
    expect(svg).toContain('>90° &quot;a&quot;</text>')
  })
  test('nothing drawn is an empty sheet', () => {
    expect(svgOf({ title: 'none', marks: [] })).toMatch(
      /^<svg [^>]*width="30mm" height="30mm"[^>]*><title>none<\/title><\/svg>$/,
    )
  })
})

describe('as DXF', () => {
  const read = new Reader().parseSync(dxfOf(PLATE))!
  test('millimetres, each mark on the layer of its kind', () => {
    // $INSUNITS 4 is millimetres (DXF reference)
    expect(read.header.$INSUNITS).toBe(4)
    expect(read.entities.map((e) => [e.type, e.layer])).toEqual([
      ['LWPOLYLINE', 'OUTLINE'],
      ['CIRCLE', 'HOLE'],
      ['LWPOLYLINE', 'BEND'],
      ['TEXT', 'DIMENSION'],
    ])
    const layers = read.tables.layer.layers
    expect(layers.BEND!.color).not.toBe(layers.OUTLINE!.color)
  })
  test('an outline is closed and a bend is not; places are as drawn', () => {
    const [outline, hole, bend, words] = read.entities as unknown as Record<string, unknown>[]
    expect([outline!.shape, bend!.shape]).toEqual([true, false])
    const xy = (e: Record<string, unknown>) => (e.vertices as { x: number; y: number }[]).map(({ x, y }) => [x, y])
    expect(xy(outline!)).toEqual([
      [-5, 2],
      [95, 2],
      [95, 42],
      [-5, 42],
    ])
    expect(xy(bend!)).toEqual([
      [30, 2],
      [30, 42],
    ])
    expect(hole).toEqual(expect.objectContaining({ center: expect.objectContaining({ x: 10, y: 12 }), radius: 4 }))
    // a degree sign as old readers know it
    expect(words).toEqual(expect.objectContaining({ text: '90%%d "a"', textHeight: 4 }))
  })
})
