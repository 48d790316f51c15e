/** The job card's PDF, read by another reader in a process of its own: that reader is a module that Jest's sandbox does not load. */
import { execFileSync } from 'node:child_process'
import { activeVariant } from '@/plan/edit/edit'
import { jobCard } from '@/plan/fit/card'
import { endLabels } from '@/plan/fit/lists'
import { cardPdf } from '@/plan/fit/pdf'
import { stripsOf } from '@/plan/fit/strips'
import { newBuild } from '@/plan/schools/new-build'

const READ = `
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs'
const chunks = []
for await (const c of process.stdin) chunks.push(c)
const doc = await getDocument({ data: new Uint8Array(Buffer.concat(chunks)), verbosity: 0 }).promise
const out = []
for (let i = 1; i <= doc.numPages; i++) out.push((await (await doc.getPage(i)).getTextContent()).items.map((x) => ({ text: x.str, x: x.transform[4] })))
process.stdout.write(JSON.stringify(out))
`

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
  const bytes = await cardPdf('Heron: both sides −', card, new Set([card.steps[0]!.key]), labels)
  const read = execFileSync(process.execPath, ['--input-type=module', '-e', READ], {
    input: Buffer.from(bytes),
    encoding: 'utf8',
  })
  const items = JSON.parse(read) as { text: string; x: number }[][]
  const pages = items.map((page) => page.map((i) => i.text).join(' '))
  expect(pages.length).toBeGreaterThan(1)
  const text = pages.join(' ').replace(/\s+/g, ' ')
  expect(text).toContain('Heron: both sides -')
  for (const s of card.steps) expect(text).toContain(s.says.slice(0, 40).replaceAll('−', '-'))
  for (const c of card.cautions) expect(text).toContain(c.slice(0, 40))
  expect(text).not.toContain('?')
  // labels on the last page, at their size: one begins 62 mm after the other
  const marks = labels.map((l) => items.at(-1)!.find((i) => i.text === l.mark)!.x)
  expect(((marks[1]! - marks[0]!) * 25.4) / 72).toBeCloseTo(62, 1)
})
