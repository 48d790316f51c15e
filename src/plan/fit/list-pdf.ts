/** The list to buy as a page to hand over the counter, and an estimate for a customer. */
import type { Build } from '../document/schema'
import { capital, unitFormatter } from '../document/words'
import { costOf, estimateLines, estimateOf, money, toBuy } from './estimate'
import type { Item } from './lists'
import { sheetsOf, type PdfSheets, type TableColumn } from './pdf-sheet'

const COLUMNS: readonly TableColumn[] = [{ share: 0.68 }, { share: 0.14, right: true }, { share: 0.18, right: true }]
/** Sizes of letters that are tried until the list stands on one page. */
const SIZES = [10, 9, 8, 7, 6, 5.5] as const

function writeRows(sheets: PdfSheets, build: Build, items: readonly Item[], size: number): void {
  const say = unitFormatter(build.units)
  const currency = build.fit?.estimate?.currency ?? ''
  sheets.row(['What', 'Buy', 'Price'], COLUMNS, size, true)
  sheets.rule()
  for (const i of items) {
    const buy = toBuy(build, i)
    const cost = costOf(build, i)
    const amount = i.unit === 'mm' ? say.length(buy / 1000) : `${buy}${i.spare > 0 ? ` (${i.spare} spare)` : ''}`
    sheets.row([capital(i.name), amount, cost === undefined ? '' : money(cost, currency)], COLUMNS, size)
    if (i.asks.length > 0) sheets.row([capital(`${i.asks.join('; ')}.`), '', ''], COLUMNS, size * 0.85)
  }
}

/** The list on one page where letters that can be read allow it. */
export async function listPdf(build: Build, plan: string, items: readonly Item[]): Promise<Uint8Array> {
  for (const size of SIZES) {
    const sheets = await sheetsOf(`${build.name}, to buy`)
    sheets.write(`${build.name}: ${plan}, to buy`, 14, { bold: true, after: 6 })
    writeRows(sheets, build, items, size)
    if (sheets.doc.getPageCount() === 1 || size === SIZES.at(-1)) return sheets.doc.save()
  }
  throw new Error('no size of letters')
}

/** Parts, work and tax for a customer: an estimate, and said to be one. */
export async function estimatePdf(
  build: Build,
  plan: string,
  items: readonly Item[],
  usualHours: number,
): Promise<Uint8Array> {
  const sheets = await sheetsOf(`${build.name}, estimate`)
  sheets.write(`Estimate: ${build.name}`, 16, { bold: true, after: 2 })
  sheets.write(`${build.about}${build.about === '' ? '' : '; '}${plan}`, 10, { after: 10 })
  writeRows(sheets, build, items, 9)
  sheets.down(8)
  sheets.rule()
  const columns: readonly TableColumn[] = [{ share: 0.7 }, { share: 0.3, right: true }]
  const lines = estimateLines(estimateOf(build, items, usualHours), build.fit?.estimate?.taxPct)
  lines.forEach((l, i) => sheets.row(l, columns, 11, i === lines.length - 1))
  sheets.down(8)
  sheets.write('An estimate, not an offer: what is found once the engine is open comes on top, after it was agreed.', 9)
  return sheets.doc.save()
}
