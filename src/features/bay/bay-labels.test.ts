/** Names in the bay's pictures: clear of what is drawn and of one another, in the picture. */
import { overlap, type LabelBox, type Label } from '@/ui/labels'
import { bayLabels, type Drawn } from './bay-labels'

const PICTURE: LabelBox = [0, 0, 330, 300]
const bay: Drawn = {
  picture: PICTURE,
  datum: { at: [20, 30], text: 'left strut top' },
  cans: [{ id: 'can', box: [40, 100, 36, 34], text: 'Catch can' }],
  standing: [
    { id: 'pipe', box: [150, 120, 100, 24], text: 'Charge pipe', plain: true },
    { id: 'fuses', box: [90, 110, 40, 30], text: 'Fuse box', plain: true },
    { id: 'exhaust', box: [80, 190, 64, 60], text: 'Exhaust housing, 650 °C', plain: false },
  ],
  hoses: [
    {
      points: [
        [58, 100],
        [120, 70],
        [200, 80],
      ],
      half: 7,
    },
    {
      points: [
        [58, 134],
        [70, 230],
      ],
      half: 6,
    },
  ],
  marks: [{ at: [200, 80], radius: 5 }],
  bonnet: [
    [10, 40],
    [160, 44],
    [320, 60],
  ],
}
const textOf = (id: string) =>
  id === 'datum' ? bay.datum.text : ([...bay.cans, ...bay.standing].find((x) => x.id === id)?.text ?? 'bonnet')
const boxOf = (id: string, { anchor, x, y }: Label): LabelBox => {
  const w = 5.9 * textOf(id).length
  return [anchor === 'start' ? x : anchor === 'end' ? x - w : x - w / 2, y - 9, w, 11]
}
const placed = [...bayLabels(bay)].map(([id, label]) => ({ id, box: boxOf(id, label) }))

test('everything has its name, in the picture', () => {
  expect(placed.map((p) => p.id).toSorted()).toEqual(['bonnet', 'can', 'datum', 'exhaust', 'fuses', 'pipe'])
  for (const { box } of placed) {
    expect(box[0]).toBeGreaterThanOrEqual(0)
    expect(box[0] + box[2]).toBeLessThanOrEqual(330)
    expect(box[1]).toBeGreaterThanOrEqual(0)
    expect(box[1] + box[3]).toBeLessThanOrEqual(300)
  }
})

test('no name lies on a can, a hose, hatching or another name', () => {
  for (const { id, box } of placed) {
    const others = placed.filter((p) => p.id !== id).map((p) => p.box)
    const covered = [...bay.cans.map((c) => c.box), bay.standing[2]!.box, ...others]
    expect([id, covered.filter((c) => overlap(c, box))]).toEqual([id, []])
    for (const { points, half } of bay.hoses)
      for (let k = 1; k < points.length; k++)
        for (let t = 0; t <= 1; t += 0.05) {
          const [a, b] = [points[k - 1]!, points[k]!]
          const at: LabelBox = [a[0] + (b[0] - a[0]) * t - half / 2, a[1] + (b[1] - a[1]) * t - half / 2, half, half]
          expect([id, overlap(at, box)]).toEqual([id, false])
        }
  }
})

test('a plain box that is wide enough holds its name, a narrow one has it beside', () => {
  const inside = (id: string) => {
    const of = bay.standing.find((s) => s.id === id)!.box
    const { box } = placed.find((p) => p.id === id)!
    return box[0] >= of[0] && box[0] + box[2] <= of[0] + of[2] && box[1] >= of[1] && box[1] + box[3] <= of[1] + of[3]
  }
  expect([inside('pipe'), inside('fuses'), inside('exhaust')]).toEqual([true, false, false])
})
