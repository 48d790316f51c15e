/** The job card as a PDF: A4, boxes to tick with a pen, figures to write in. */
import { PDFDocument, StandardFonts, type PDFFont, type PDFPage } from 'pdf-lib'
import type { Card } from './card'
import { PHASES } from './card'

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
 */
export async function cardPdf(title: string, card: Card, ticked: ReadonlySet<string>): Promise<Uint8Array> {
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
  const write = (text: string, font: PDFFont, size: number, x = MARGIN, after = 3) => {
    for (const line of wrap(text, font, size, WIDTH - MARGIN - x)) {
      room(size * 1.4)
      page.drawText(line, { x, y: y - size, size, font })
      y -= size * 1.35
    }
    y -= after
  }
  write(title, bold, 16, MARGIN, 8)
  write(`Tools: ${card.tools.join('; ')}.`, regular, 9, MARGIN, 6)
  for (const c of card.cautions) write(`! ${c}`, bold, 9)
  for (const phase of PHASES) {
    const steps = card.steps.filter((s) => s.phase === phase)
    if (steps.length === 0) continue
    room(60)
    y -= 8
    write(phase, bold, 12, MARGIN, 2)
    page.drawLine({ start: { x: MARGIN, y: y + 1 }, end: { x: WIDTH - MARGIN, y: y + 1 }, thickness: 1 })
    y -= 6
    for (const s of steps) {
      room(44)
      page.drawRectangle({ x: MARGIN, y: y - 12, width: 11, height: 11, borderWidth: 1 })
      if (ticked.has(s.key)) page.drawText('x', { x: MARGIN + 2.5, y: y - 10, size: 11, font: bold })
      write(s.says, regular, 10, MARGIN + 20, 1)
      if (s.tight) write(`Tight: ${s.tight}.`, regular, 9, MARGIN + 20, 1)
      if (s.caution) write(`! ${s.caution}`, bold, 9, MARGIN + 20, 1)
      if (s.proof) write('Read or seen: ______________________', regular, 9, MARGIN + 20, 1)
      y -= 5
    }
  }
  return doc.save()
}
