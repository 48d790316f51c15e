/** The job card as a PDF: a sheet for the wall, boxes to tick with a pen, lists, bracket and bay, labels for the ends of hoses. */
import type { Drawing } from '../drawing/drawing'
import type { Card } from './card'
import type { Cut, EndLabel, Item } from './lists'
import {
  drawFitted,
  BLACK,
  PAGE_MARGIN,
  POINTS_PER_MM,
  PAPERS,
  plain,
  sheetsOf,
  wrap,
  type PdfSheets,
} from './pdf-sheet'
import { PHASES } from './steps/step'

/** What stands in a card's file beside its steps. */
export type CardFile = {
  readonly title: string
  readonly card: Card
  /** keys of steps that are done: their boxes are crossed */
  readonly ticked: ReadonlySet<string>
  /** what the crankcase should read in each state, and when to look, in words */
  readonly expected: readonly string[]
  readonly items: readonly Item[]
  readonly cuts: readonly Cut[]
  readonly drawings: readonly Drawing[]
  /** for the ends of the hoses, on a page of their own at their size */
  readonly labels: readonly EndLabel[]
  /** photographs of steps, parts and lines, JPEG, with what they are of */
  readonly photos?: readonly CardPhoto[]
}
export type CardPhoto = { readonly of: string; readonly jpeg: Uint8Array }

/** The first page: what hangs on the wall beside the car. */
function wallSheet(s: PdfSheets, { title, expected, drawings }: CardFile): void {
  s.write(title, 20, { bold: true, after: 10 })
  for (const line of expected) s.write(line, 13, { after: 5 })
  const [side] = drawings
  if (side) {
    s.down(6)
    s.write(side.title, 11, { bold: true })
    drawFitted(s.page(), side, { x: PAGE_MARGIN, y: PAGE_MARGIN, wide: s.wide, high: s.y() - PAGE_MARGIN - 6 }, s)
  }
  s.turn()
}

function steps(s: PdfSheets, { title, card, ticked }: CardFile): void {
  s.write(title, 16, { bold: true, after: 8 })
  s.write(`Tools: ${card.tools.join('; ')}.`, 9, { after: 6 })
  for (const c of card.cautions) s.write(`! ${c}`, 9, { bold: true })
  for (const phase of PHASES) {
    const own = card.steps.filter((x) => x.phase === phase)
    if (own.length === 0) continue
    s.room(60)
    s.down(8)
    s.write(phase, 12, { bold: true, after: 2 })
    s.rule()
    s.down(3)
    for (const step of own) {
      s.room(44)
      const page = s.page()
      page.drawRectangle({ x: PAGE_MARGIN, y: s.y() - 12, width: 11, height: 11, borderWidth: 1, borderColor: BLACK })
      if (ticked.has(step.key)) page.drawText('x', { x: PAGE_MARGIN + 2.5, y: s.y() - 10, size: 11, font: s.bold })
      const x = PAGE_MARGIN + 20
      s.write(step.says, 10, { x, after: 1 })
      if (step.tight) s.write(`Tight: ${step.tight}.`, 9, { x, after: 1 })
      if (step.caution) s.write(`! ${step.caution}`, 9, { bold: true, x, after: 1 })
      if (step.proof) s.write('Read or seen: ______________________', 9, { x, after: 1 })
      s.down(5)
    }
  }
}

function lists(s: PdfSheets, { items, cuts }: CardFile): void {
  if (items.length === 0) return
  s.turn()
  s.write('To buy', 14, { bold: true })
  s.rule()
  const buy = [{ share: 0.82 }, { share: 0.18, right: true }]
  for (const i of items) {
    s.row([i.name, i.unit === 'mm' ? `${i.count} mm` : String(i.count)], buy, 9)
    if (i.asks.length > 0) s.row([i.asks.join('; '), ''], buy, 8)
  }
  s.down(10)
  s.room(60)
  s.write('To cut', 14, { bold: true })
  s.rule()
  const cut = [{ share: 0.08 }, { share: 0.24 }, { share: 0.2 }, { share: 0.12, right: true }, { share: 0.36 }]
  for (const c of cuts)
    s.row(
      [
        c.label,
        c.line,
        c.hose,
        `${c.cutMm} mm`,
        `${c.ends.join(' / ')}${c.clockingDeg ? `, ${Math.round(c.clockingDeg)}° apart` : ''}`,
      ],
      cut,
      9,
    )
}

/** A card as the bytes of a PDF file. */
export async function cardPdf(file: CardFile): Promise<Uint8Array> {
  const s = await sheetsOf(file.title)
  wallSheet(s, file)
  steps(s, file)
  lists(s, file)
  // the first stands on the sheet for the wall
  for (const drawing of file.drawings.slice(1)) {
    s.turn()
    s.write(drawing.title, 12, { bold: true, after: 8 })
    drawFitted(s.page(), drawing, { x: PAGE_MARGIN, y: PAGE_MARGIN, wide: s.wide, high: s.y() - PAGE_MARGIN - 10 }, s)
  }
  await photoPages(s, file.photos ?? [])
  labelPages(s, file.labels)
  return s.doc.save()
}

/** Largest height of a photograph: two stand on a page. */
const PHOTO_HIGH = 310

/** The appendix: photographs, each over what it is of. */
async function photoPages(s: PdfSheets, photos: readonly CardPhoto[]): Promise<void> {
  if (photos.length === 0) return
  s.turn()
  s.write('Photographs', 12, { bold: true, after: 8 })
  for (const { of, jpeg } of photos) {
    // one that is damaged keeps the card from nobody
    const picture = await s.doc.embedJpg(jpeg).catch(() => undefined)
    if (!picture) continue
    const { width, height } = picture.scaleToFit(s.wide, PHOTO_HIGH)
    s.room(height + 34)
    s.page().drawImage(picture, { x: PAGE_MARGIN, y: s.y() - height, width, height })
    s.down(height + 14)
    s.write(of, 9, { after: 10 })
  }
}

/** A label of 62 by 16 mm goes once round a -10 hose and over itself. */
const [LABEL_WIDE, LABEL_HIGH, IN_A_ROW] = [62 * POINTS_PER_MM, 16 * POINTS_PER_MM, 3]
const [WIDTH, HEIGHT] = PAPERS.A4
const ROWS = Math.floor((HEIGHT - 2 * PAGE_MARGIN - 30) / LABEL_HIGH)

/** Labels to cut out and tape on, with a line to see that the printer kept their size. */
function labelPages({ doc, regular, bold }: PdfSheets, labels: readonly EndLabel[]): void {
  const left = (WIDTH - IN_A_ROW * LABEL_WIDE) / 2
  for (let from = 0; from < labels.length; from += IN_A_ROW * ROWS) {
    const page = doc.addPage([WIDTH, HEIGHT])
    const top = HEIGHT - PAGE_MARGIN - 24
    page.drawText('Labels for the ends of the hoses: printed at full size, this line is 50 mm long.', {
      x: left,
      y: HEIGHT - PAGE_MARGIN,
      size: 9,
      font: regular,
    })
    page.drawLine({ start: { x: left, y: top + 10 }, end: { x: left + 50 * POINTS_PER_MM, y: top + 10 }, thickness: 1 })
    labels.slice(from, from + IN_A_ROW * ROWS).forEach(({ mark, goes }, i) => {
      const x = left + (i % IN_A_ROW) * LABEL_WIDE
      const y = top - (Math.floor(i / IN_A_ROW) + 1) * LABEL_HIGH
      page.drawRectangle({
        x,
        y,
        width: LABEL_WIDE,
        height: LABEL_HIGH,
        borderWidth: 0.5,
        borderColor: BLACK,
        borderDashArray: [3, 3],
      })
      page.drawText(plain(mark), { x: x + 6, y: y + LABEL_HIGH / 2 - 6, size: 18, font: bold })
      wrap(goes, regular, 8, LABEL_WIDE - 46)
        .slice(0, 3)
        .forEach((line, k) =>
          page.drawText(line, { x: x + 40, y: y + LABEL_HIGH - 14 - 10 * k, size: 8, font: regular }),
        )
    })
  }
}
