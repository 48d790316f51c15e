/** PdfSheets of a PDF: words that wrap, rows of a table, drawings fitted to a box or in full size over pages that join. */
import { PDFDocument, rgb, StandardFonts, type PDFFont, type PDFPage } from 'pdf-lib'
import { boundsOf, type Drawing } from '../drawing/drawing'

/** Points of a millimetre. */
export const POINTS_PER_MM = 72 / 25.4
export const PAPERS = { A4: [210 * POINTS_PER_MM, 297 * POINTS_PER_MM], Letter: [8.5 * 72, 11 * 72] } as const
export type Paper = keyof typeof PAPERS
export const PAGE_MARGIN = 48
export const BLACK = rgb(0, 0, 0)
const PAPER = rgb(1, 1, 1)

/** Letters that the standard fonts of PDF have; others by what is nearest. */
export const plain = (text: string): string =>
  text
    .replaceAll('−', '-')
    .replaceAll('◇', '')
    .replaceAll('→', 'to')
    .replaceAll('µ', 'u')
    .replaceAll('\u202f', ' ')
    .replace(/[^\x20-\x7e\u00a0-\u00ff’‘“”–—…•]/g, '?')

/** Words in lines of a width. */
export function wrap(text: string, font: PDFFont, size: number, width: number): string[] {
  const lines: string[] = ['']
  for (const word of plain(text).split(' ')) {
    const longer = lines.at(-1) === '' ? word : `${lines.at(-1)!} ${word}`
    if (font.widthOfTextAtSize(longer, size) <= width || lines.at(-1) === '') lines[lines.length - 1] = longer
    else lines.push(word)
  }
  return lines
}

export type TableColumn = { readonly share: number; readonly right?: boolean }

/** A document that is written from the top down, page after page. */
export type PdfSheets = {
  readonly doc: PDFDocument
  readonly regular: PDFFont
  readonly bold: PDFFont
  readonly wide: number
  /** begins a page */
  readonly turn: () => PDFPage
  readonly page: () => PDFPage
  /** how far up the next line stands, points */
  readonly y: () => number
  readonly down: (points: number) => void
  /** begins a page where less than this is left */
  readonly room: (points: number) => void
  readonly write: (text: string, size: number, options?: { bold?: boolean; x?: number; after?: number }) => void
  readonly rule: () => void
  readonly row: (cells: readonly string[], columns: readonly TableColumn[], size: number, bold?: boolean) => void
}

/** @param title as readers of the file see it */
export async function sheetsOf(title: string, paper: Paper = 'A4'): Promise<PdfSheets> {
  const doc = await PDFDocument.create()
  doc.setTitle(plain(title))
  const [regular, bold] = await Promise.all([
    doc.embedFont(StandardFonts.Helvetica),
    doc.embedFont(StandardFonts.HelveticaBold),
  ])
  const [width, height] = PAPERS[paper]
  const wide = width - 2 * PAGE_MARGIN
  let page = doc.addPage([width, height])
  let y = height - PAGE_MARGIN
  const turn = () => {
    page = doc.addPage([width, height])
    y = height - PAGE_MARGIN
    return page
  }
  const room = (need: number) => {
    if (y - need < PAGE_MARGIN) turn()
  }
  return {
    doc,
    regular,
    bold,
    wide,
    turn,
    page: () => page,
    y: () => y,
    down: (points) => {
      y -= points
    },
    room,
    write: (text, size, { bold: strong = false, x = PAGE_MARGIN, after = 3 } = {}) => {
      const font = strong ? bold : regular
      for (const line of wrap(text, font, size, width - PAGE_MARGIN - x)) {
        room(size * 1.4)
        page.drawText(line, { x, y: y - size, size, font })
        y -= size * 1.35
      }
      y -= after
    },
    rule: () => {
      page.drawLine({ start: { x: PAGE_MARGIN, y: y + 1 }, end: { x: width - PAGE_MARGIN, y: y + 1 }, thickness: 0.6 })
      y -= 3
    },
    row: (cells, columns, size, strong = false) => {
      const font = strong ? bold : regular
      const gap = 6
      const lines = cells.map((c, i) => wrap(c, font, size, columns[i]!.share * wide - gap))
      const high = Math.max(...lines.map((l) => l.length)) * size * 1.3
      room(high + 3)
      let x = PAGE_MARGIN
      lines.forEach((cell, i) => {
        const { share, right } = columns[i]!
        cell.forEach((text, k) => {
          const inset = right ? share * wide - gap - font.widthOfTextAtSize(text, size) : 0
          page.drawText(text, { x: x + inset, y: y - size - k * size * 1.3, size, font })
        })
        x += share * wide
      })
      y -= high + 3
    },
  }
}

type Box = { readonly x: number; readonly y: number; readonly wide: number; readonly high: number }
/** How a drawing lies on a page: points of its origin, and points of a millimetre of it. */
type OnPage = { readonly x: number; readonly y: number; readonly scale: number }

function drawMarks(
  page: PDFPage,
  { marks }: Drawing,
  { x, y, scale }: OnPage,
  { regular }: Pick<PdfSheets, 'regular'>,
): void {
  const at = ([a, b]: readonly [number, number]) => ({ x: x + a * scale, y: y + b * scale })
  for (const m of marks) {
    if (m.kind === 'circle') {
      const c = at(m.at)
      page.drawCircle({ ...c, size: m.r * scale, borderWidth: 0.6, borderColor: BLACK })
      const arm = Math.min(m.r * scale, 8)
      page.drawLine({ start: { x: c.x - arm, y: c.y }, end: { x: c.x + arm, y: c.y }, thickness: 0.3 })
      page.drawLine({ start: { x: c.x, y: c.y - arm }, end: { x: c.x, y: c.y + arm }, thickness: 0.3 })
    } else if (m.kind === 'text')
      page.drawText(plain(m.text), { ...at(m.at), size: Math.max(5, Math.min(9, m.size * scale)), font: regular })
    else if (m.closed && m.layer === 'outline')
      // what lies below a body is hidden by it
      page.drawSvgPath(`M${m.points.map((p) => [at(p).x, -at(p).y].join(' ')).join('L')}Z`, {
        x: 0,
        y: 0,
        color: PAPER,
        borderColor: BLACK,
        borderWidth: 0.9,
      })
    else {
      const points = m.closed ? [...m.points, m.points[0]!] : m.points
      points.slice(1).forEach((p, i) =>
        page.drawLine({
          start: at(points[i]!),
          end: at(p),
          thickness: m.layer === 'outline' || m.layer === 'hose' ? 0.9 : 0.5,
          ...(m.layer === 'bend' || m.layer === 'keep-out' ? { dashArray: [6, 3] } : {}),
        }),
      )
    }
  }
}

/** A drawing fitted into a box, never larger than it is. */
export function drawFitted(page: PDFPage, drawing: Drawing, box: Box, sheets: Pick<PdfSheets, 'regular'>): void {
  const shown = { ...drawing, marks: drawing.marks.filter((m) => m.layer !== 'check') }
  const b = boundsOf(shown)
  if (!b) return
  const scale = Math.min(POINTS_PER_MM, box.wide / (b.x1 - b.x0), box.high / (b.y1 - b.y0))
  drawMarks(page, shown, { x: box.x - b.x0 * scale, y: box.y + box.high - b.y1 * scale, scale }, sheets)
}

/** What of a page is kept free at its edges, and by how much neighbours lie over each other, mm. */
const [EDGE_MM, OVERLAP_MM] = [12, 10]

/** Pages that a drawing takes in full size: [across, down]. */
export function tilesOf(drawing: Drawing, paper: Paper): readonly [number, number] {
  const b = boundsOf(drawing)
  if (!b) return [0, 0]
  const [w, h] = PAPERS[paper].map((p) => p / POINTS_PER_MM - 2 * EDGE_MM - OVERLAP_MM) as [number, number]
  return [Math.max(1, Math.ceil((b.x1 - b.x0) / w)), Math.max(1, Math.ceil((b.y1 - b.y0) / h))]
}

/**
 * A drawing in full size as a PDF, over as many pages as it takes: neighbours lie over each other by 10 mm up to the crosses, and each
 * page has a line of 100 mm to hold a ruler to.
 */
export async function templatePdf(drawing: Drawing, paper: Paper): Promise<Uint8Array> {
  const sheets = await sheetsOf(`${drawing.title}, in full size`, paper)
  const b = boundsOf(drawing)
  if (!b) return sheets.doc.save()
  const [across, down] = tilesOf(drawing, paper)
  const [width, height] = PAPERS[paper]
  const [w, h] = [width / POINTS_PER_MM - 2 * EDGE_MM - OVERLAP_MM, height / POINTS_PER_MM - 2 * EDGE_MM - OVERLAP_MM]
  for (let row = 0; row < down; row++)
    for (let column = 0; column < across; column++) {
      const page = row + column === 0 ? sheets.page() : sheets.turn()
      const left = b.x0 + column * w
      const top = b.y1 - row * h
      drawMarks(
        page,
        drawing,
        { x: (EDGE_MM - left) * POINTS_PER_MM, y: height - (EDGE_MM + top) * POINTS_PER_MM, scale: POINTS_PER_MM },
        sheets,
      )
      // crosses at the corners that neighbours share
      for (const [cx, cy] of [
        [EDGE_MM, EDGE_MM],
        [EDGE_MM + w, EDGE_MM],
        [EDGE_MM, EDGE_MM + h],
        [EDGE_MM + w, EDGE_MM + h],
      ] as const) {
        const c = { x: cx * POINTS_PER_MM, y: height - cy * POINTS_PER_MM }
        page.drawLine({ start: { x: c.x - 8, y: c.y }, end: { x: c.x + 8, y: c.y }, thickness: 0.4 })
        page.drawLine({ start: { x: c.x, y: c.y - 8 }, end: { x: c.x, y: c.y + 8 }, thickness: 0.4 })
      }
      page.drawLine({
        start: { x: 20 * POINTS_PER_MM, y: 7 * POINTS_PER_MM },
        end: { x: 120 * POINTS_PER_MM, y: 7 * POINTS_PER_MM },
        thickness: 1,
      })
      page.drawText(
        plain(
          `${drawing.title}: page ${row * across + column + 1} of ${across * down}. Printed in full size, this line is 100 mm; pages join at the crosses.`,
        ),
        { x: 20 * POINTS_PER_MM, y: 3 * POINTS_PER_MM, size: 8, font: sheets.regular },
      )
    }
  return sheets.doc.save()
}
