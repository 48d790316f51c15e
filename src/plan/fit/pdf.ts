/** The job card as a PDF: A4, boxes to tick with a pen, figures to write in. */
import { PDFDocument, StandardFonts, type PDFFont, type PDFPage } from 'pdf-lib'
import type { Card } from './card'
import { PHASES } from './steps/step'
import type { EndLabel } from './lists'

const [WIDTH, HEIGHT, MARGIN] = [595.28, 841.89, 48]
/** Letters that the standard fonts of PDF have; others by what is nearest. */
const plain = (text: string) =>
  text
    .replaceAll('−', '-')
    .replaceAll('◇', '')
    .replaceAll('\u202f', ' ')
    .replace(/[^\x20-\x7e\u00a0-\u00ff’‘“”–—…•]/g, '?')

/** Words in lines of a width. */
function wrap(text: string, font: PDFFont, size: number, width: number): string[] {
  const lines: string[] = ['']
  for (const word of plain(text).split(' ')) {
    const longer = lines.at(-1) === '' ? word : `${lines.at(-1)!} ${word}`
    if (font.widthOfTextAtSize(longer, size) <= width || lines.at(-1) === '') lines[lines.length - 1] = longer
    else lines.push(word)
  }
  return lines
}

/**
 * A card as the bytes of a PDF file.
 * @param ticked keys of steps that are done: their boxes are crossed
 * @param labels for the ends of the hoses, on a page of their own at their size
 */
export async function cardPdf(
  title: string,
  card: Card,
  ticked: ReadonlySet<string>,
  labels: readonly EndLabel[],
): Promise<Uint8Array> {
  const doc = await PDFDocument.create()
  doc.setTitle(plain(title))
  const [regular, bold] = await Promise.all([
    doc.embedFont(StandardFonts.Helvetica),
    doc.embedFont(StandardFonts.HelveticaBold),
  ])
  let page: PDFPage = doc.addPage([WIDTH, HEIGHT])
  let y = HEIGHT - MARGIN
  const room = (need: number) => {
    if (y - need > MARGIN) return
    page = doc.addPage([WIDTH, HEIGHT])
    y = HEIGHT - MARGIN
  }
  const write = (text: string, font: PDFFont, size: number, { x = MARGIN, after = 3 } = {}) => {
    for (const line of wrap(text, font, size, WIDTH - MARGIN - x)) {
      room(size * 1.4)
      page.drawText(line, { x, y: y - size, size, font })
      y -= size * 1.35
    }
    y -= after
  }
  write(title, bold, 16, { after: 8 })
  write(`Tools: ${card.tools.join('; ')}.`, regular, 9, { after: 6 })
  for (const c of card.cautions) write(`! ${c}`, bold, 9)
  for (const phase of PHASES) {
    const steps = card.steps.filter((s) => s.phase === phase)
    if (steps.length === 0) continue
    room(60)
    y -= 8
    write(phase, bold, 12, { after: 2 })
    page.drawLine({ start: { x: MARGIN, y: y + 1 }, end: { x: WIDTH - MARGIN, y: y + 1 }, thickness: 1 })
    y -= 6
    for (const s of steps) {
      room(44)
      page.drawRectangle({ x: MARGIN, y: y - 12, width: 11, height: 11, borderWidth: 1 })
      if (ticked.has(s.key)) page.drawText('x', { x: MARGIN + 2.5, y: y - 10, size: 11, font: bold })
      write(s.says, regular, 10, { x: MARGIN + 20, after: 1 })
      if (s.tight) write(`Tight: ${s.tight}.`, regular, 9, { x: MARGIN + 20, after: 1 })
      if (s.caution) write(`! ${s.caution}`, bold, 9, { x: MARGIN + 20, after: 1 })
      if (s.proof) write('Read or seen: ______________________', regular, 9, { x: MARGIN + 20, after: 1 })
      y -= 5
    }
  }
  labelPages(doc, labels, regular, bold)
  return doc.save()
}

/** Points of a millimetre; a label of 62 by 16 mm goes once round a -10 hose and over itself. */
const MM = 72 / 25.4
const [LABEL_WIDE, LABEL_HIGH, IN_A_ROW] = [62 * MM, 16 * MM, 3]
const ROWS = Math.floor((HEIGHT - 2 * MARGIN - 30) / LABEL_HIGH)

/** Labels to cut out and tape on, with a line to see that the printer kept their size. */
function labelPages(doc: PDFDocument, labels: readonly EndLabel[], regular: PDFFont, bold: PDFFont): void {
  const left = (WIDTH - IN_A_ROW * LABEL_WIDE) / 2
  for (let from = 0; from < labels.length; from += IN_A_ROW * ROWS) {
    const page = doc.addPage([WIDTH, HEIGHT])
    const top = HEIGHT - MARGIN - 24
    page.drawText('Labels for the ends of the hoses: printed at full size, this line is 50 mm long.', {
      x: left,
      y: HEIGHT - MARGIN,
      size: 9,
      font: regular,
    })
    page.drawLine({ start: { x: left, y: top + 10 }, end: { x: left + 50 * MM, y: top + 10 }, thickness: 1 })
    labels.slice(from, from + IN_A_ROW * ROWS).forEach(({ mark, goes }, i) => {
      const x = left + (i % IN_A_ROW) * LABEL_WIDE
      const y = top - (Math.floor(i / IN_A_ROW) + 1) * LABEL_HIGH
      page.drawRectangle({ x, y, width: LABEL_WIDE, height: LABEL_HIGH, borderWidth: 0.5, borderDashArray: [3, 3] })
      page.drawText(plain(mark), { x: x + 6, y: y + LABEL_HIGH / 2 - 6, size: 18, font: bold })
      wrap(goes, regular, 8, LABEL_WIDE - 46)
        .slice(0, 3)
        .forEach((line, k) =>
          page.drawText(line, { x: x + 40, y: y + LABEL_HIGH - 14 - 10 * k, size: 8, font: regular }),
        )
    })
  }
}
