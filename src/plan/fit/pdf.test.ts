/** The job card's PDF, read by another reader in a process of its own: that reader is a module that Jest's sandbox does not load. */
import { execFileSync } from 'node:child_process'
import type { Build } from '@/plan/document/schema'
import { activeVariant } from '@/plan/edit/edit'
import { jobCard } from '@/plan/fit/card'
import { rectangle } from '@/plan/drawing/drawing'
import { estimatePdf, listPdf } from '@/plan/fit/list-pdf'
import { cutList, endLabels, shoppingList } from '@/plan/fit/lists'
import { noteStock, setEstimate } from '@/plan/fit/fit-builders'
import { templatePdf, tilesOf } from '@/plan/fit/pdf-sheet'
import { after } from '@/plan/testing'
import { cardPdf, type CardFile } from '@/plan/fit/pdf'
import { stripsOf } from '@/plan/fit/strips'
import { newBuild } from '@/plan/schools/new-build'

const READ = `
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs'
const chunks = []
for await (const c of process.stdin) chunks.push(c)
const doc = await getDocument({ data: new Uint8Array(Buffer.concat(chunks)), verbosity: 0 }).promise
const out = []
for (let i = 1; i <= doc.numPages; i++) out.push((await (await doc.getPage(i)).getTextContent()).items.map((x) => ({ text: x.str, x: x.transform[4], y: x.transform[5], size: x.height })))
process.stdout.write(JSON.stringify(out))
`

/** Places and sizes in points, from the lower left corner. */
type Word = { readonly text: string; readonly x: number; readonly y: number; readonly size: number }
const mm = (points: number) => (points * 25.4) / 72
function pagesOf(bytes: Uint8Array): Word[][] {
  const read = execFileSync(process.execPath, ['--input-type=module', '-e', READ], {
    input: Buffer.from(bytes),
    encoding: 'utf8',
  })
  return JSON.parse(read) as Word[][]
}
const textOf = (pages: Word[][]) =>
  pages.map((p) =>
    p
      .map((i) => i.text)
      .join(' ')
      .replace(/\s+/g, ' '),
  )

/** The card of a build and nothing else. */
const plainCard = (b: Build): CardFile => ({
  title: 'Card',
  card: jobCard(b, activeVariant(b)),
  ticked: new Set(),
  expected: [],
  items: [],
  cuts: [],
  drawings: [],
  labels: [],
})

test('title, steps and cautions are all in it, on as many pages as it takes', async () => {
  const b = newBuild({
    name: 'H',
    engineClass: 'v8-na',
    use: 'track',
    ambientC: 10,
    units: 'metric',
    school: 'both-sides',
  })
  const card = jobCard(b, activeVariant(b))
  const labels = endLabels(stripsOf(b, activeVariant(b)))
  expect(labels.length).toBeGreaterThan(3)
  const bytes = await cardPdf({
    title: 'Heron: both sides −',
    card,
    ticked: new Set([card.steps[0]!.key]),
    expected: ['Idle: crankcase −0.03 kPa'],
    items: shoppingList(b, activeVariant(b)),
    cuts: cutList(stripsOf(b, activeVariant(b))),
    drawings: [{ title: 'The circuit', marks: [rectangle('outline', { x0: 0, y0: 0, x1: 100, y1: 50 })] }],
    labels,
  })
  const items = pagesOf(bytes)
  const pages = items.map((page) => page.map((i) => i.text).join(' '))
  expect(pages.length).toBeGreaterThan(1)
  const text = pages.join(' ').replace(/\s+/g, ' ')
  expect(text).toContain('Heron: both sides -')
  for (const s of card.steps) expect(text).toContain(s.says.slice(0, 40).replaceAll('−', '-'))
  for (const c of card.cautions) expect(text).toContain(c.slice(0, 40))
  expect(text).not.toContain('?')
  // the first page hangs on the wall; what is bought and cut is in it
  expect(pages[0]).toContain('Idle: crankcase -0.03 kPa')
  for (const i of shoppingList(b, activeVariant(b))) expect(text).toContain(i.name.slice(0, 30))
  // hose by its length, pieces by their number
  const words = items.flat().map((i) => i.text)
  for (const i of shoppingList(b, activeVariant(b)))
    expect(words).toContain(i.unit === 'mm' ? `${i.count} mm` : `${i.count}`)
  expect(words).not.toContain('1 mm')
  // labels on the last page, at their size: one begins 62 mm after the other
  const marks = labels.map((l) => items.at(-1)!.find((i) => i.text === l.mark)!.x)
  expect(mm(marks[1]! - marks[0]!)).toBeCloseTo(62, 1)
})

test.each([
  ['small: as large as it is', 100, 50],
  ['too wide for the page', 2000, 100],
  ['too high for it', 100, 2000],
] as const)('a drawing that is %s', async (_, wide, high) => {
  const corner = (x: number, y: number) =>
    ({ kind: 'text', layer: 'dimension', at: [x, y], text: 'corner', size: 3 }) as const
  const b = newBuild({ name: 'H', engineClass: 'i4-turbo', use: 'track', ambientC: 10, units: 'metric' })
  const drawing = {
    title: 'Drawn',
    marks: [
      rectangle('outline', { x0: -wide / 2, y0: -high / 2, x1: wide / 2, y1: high / 2 }),
      corner(-wide / 2, -high / 2),
      corner(wide / 2, high / 2),
    ],
  }
  const bytes = await cardPdf({ ...plainCard(b), drawings: [drawing] })
  const [low, top] = pagesOf(bytes)
    .flat()
    .filter((w) => w.text === 'corner')
  const [across, up] = [mm(top!.x - low!.x), mm(top!.y - low!.y)]
  expect(across / up).toBeCloseTo(wide / high, 3)
  if (wide === 100 && high === 50) expect(across).toBeCloseTo(100, 3)
  // A4, 210 x 297 mm, and most of it is used
  else {
    expect(Math.max(across, up)).toBeLessThan(297)
    expect(across).toBeLessThan(210)
    expect(Math.max(across / 210, up / 297)).toBeGreaterThan(0.7)
  }
})

/** The smallest JPEG there is to see: one grey point (made with libjpeg). */
const GREY =
  '/9j/4AAQSkZJRgABAQEASABIAAD/2wBDAP//////////////////////////////////////////////////////////////////////////////////////wAALCAABAAEBAREA/8QAFAABAAAAAAAAAAAAAAAAAAAAA//EABQQAQAAAAAAAAAAAAAAAAAAAAD/2gAIAQEAAD8AR//Z'

test('photographs are an appendix, each with what it is of; one that is damaged keeps the card from nobody', async () => {
  const b = newBuild({ name: 'H', engineClass: 'i4-turbo', use: 'track', ambientC: 10, units: 'metric' })
  const file = plainCard(b)
  const without = textOf(pagesOf(await cardPdf(file)))
  const jpeg = new Uint8Array(Buffer.from(GREY, 'base64'))
  const photos = [
    { of: 'Step 3: push the hose on', jpeg },
    { of: 'damaged', jpeg: new Uint8Array([1, 2, 3]) },
    { of: 'The catch can', jpeg },
  ]
  const pages = textOf(pagesOf(await cardPdf({ ...file, photos })))
  expect(pages.length).toBe(without.length + 1)
  expect(pages.at(-1)).toBe('Photographs Step 3: push the hose on The catch can')
})

test('the list stands on one page; an estimate adds hours and tax as by hand', async () => {
  const b = newBuild({
    name: 'H',
    engineClass: 'i5-turbo',
    use: 'track',
    ambientC: 10,
    units: 'metric',
    school: 'both-sides',
  })
  const items = shoppingList(b, activeVariant(b))
  const priced = after(
    b,
    ...items.map((i) => noteStock(i.key, { price: 10 })),
    setEstimate({ ratePerHour: 50, taxPct: 20, hours: 4, currency: 'EUR' }),
  )
  const pages = textOf(pagesOf(await listPdf(priced, 'Both sides', items)))
  expect(pages.length).toBe(1)
  for (const i of items) expect(pages[0]).toContain(i.name.slice(0, 20).slice(1))
  // pieces at 10 each, hose at 10 a metre; 4 h at 50; a fifth on both
  const parts = items.reduce((sum, i) => sum + 10 * (i.unit === 'mm' ? i.count / 1000 : i.count), 0)
  const text = textOf(pagesOf(await estimatePdf(priced, 'Both sides', items, 9))).join(' ')
  expect(text).toContain(`${parts.toFixed(2)} EUR`)
  expect(text).toContain('200.00 EUR')
  expect(text).toContain(`${((parts + 200) * 1.2).toFixed(2)} EUR`)
})

test('a template in full size: pages enough for its length, each with its line of 100 mm', async () => {
  // 610 mm: A4 holds 210 - 24 - 10 = 176 mm of it, so four pages; 40 mm high fits one row
  const strip = { title: 'Strip', marks: [rectangle('outline', { x0: 0, y0: 0, x1: 610, y1: 40 })] }
  expect(tilesOf(strip, 'A4')).toEqual([4, 1])
  // Letter, 215.9 mm: 181.9
  expect(tilesOf(strip, 'Letter')).toEqual([4, 1])
  const sheets = pagesOf(await templatePdf(strip, 'A4'))
  const pages = textOf(sheets)
  expect(pages.length).toBe(4)
  // below the line, which stands 7 mm from the edge
  const [caption] = sheets[0]!
  expect([mm(caption!.x), mm(caption!.y), caption!.size]).toEqual([20, 3, 8].map((x) => expect.closeTo(x, 3)))
  pages.forEach((p, i) => expect(p).toContain(`page ${i + 1} of 4`))
})
