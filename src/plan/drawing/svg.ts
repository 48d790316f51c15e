/** A drawing as an SVG file that prints at its true size. */
import { boundsOf, type Drawing, type Layer } from './drawing'

const STROKES: Readonly<Record<Layer, string>> = {
  outline: 'stroke="#111" stroke-width="0.5"',
  hose: 'stroke="#111" stroke-width="0.4"',
  'keep-out': 'stroke="#888" stroke-width="0.3" stroke-dasharray="3 2"',
  bonnet: 'stroke="#111" stroke-width="0.3"',
  dimension: 'stroke="#555" stroke-width="0.2"',
  hole: 'stroke="#111" stroke-width="0.3"',
  bend: 'stroke="#111" stroke-width="0.3" stroke-dasharray="6 2 1 2"',
  check: 'stroke="#111" stroke-width="0.2"',
}
const MARGIN = 10
const escaped = (text: string) =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;')
const n = (x: number) => String(Number(x.toFixed(3)))

/** SVG at 1:1, a millimetre of the drawing a millimetre on paper. An empty drawing gives an empty sheet. */
export function svgOf(drawing: Drawing): string {
  const b = boundsOf(drawing) ?? { x0: 0, y0: 0, x1: 10, y1: 10 }
  const [w, h] = [b.x1 - b.x0 + 2 * MARGIN, b.y1 - b.y0 + 2 * MARGIN]
  const x = (v: number) => n(v - b.x0 + MARGIN)
  const y = (v: number) => n(b.y1 - v + MARGIN)
  const marks = drawing.marks.map((m) => {
    if (m.kind === 'circle') return `<circle cx="${x(m.at[0])}" cy="${y(m.at[1])}" r="${n(m.r)}" ${STROKES[m.layer]}/>`
    if (m.kind === 'text')
      return `<text x="${x(m.at[0])}" y="${y(m.at[1])}" font-size="${n(m.size * 1.4)}" fill="#111" stroke="none">${escaped(m.text)}</text>`
    const d = `M${m.points.map((p) => `${x(p[0])} ${y(p[1])}`).join('L')}${m.closed ? 'Z' : ''}`
    return `<path d="${d}" ${STROKES[m.layer]}/>`
  })
  const size = `width="${n(w)}mm" height="${n(h)}mm" viewBox="0 0 ${n(w)} ${n(h)}"`
  const head = `<svg xmlns="http://www.w3.org/2000/svg" ${size} fill="none" font-family="sans-serif">`
  return `${head}<title>${escaped(drawing.title)}</title>${marks.join('')}</svg>`
}
