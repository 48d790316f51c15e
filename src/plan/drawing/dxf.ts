/** A drawing as a DXF file, millimetres, a layer a kind of line. */
import Writer from 'dxf-writer'
import type { Drawing, Layer } from './drawing'

const LAYERS: Readonly<Record<Layer, readonly [colour: number, line: string]>> = {
  outline: [Writer.ACI.WHITE, 'CONTINUOUS'],
  hose: [Writer.ACI.BLUE, 'CONTINUOUS'],
  'keep-out': [Writer.ACI.RED, 'DASHED'],
  bonnet: [Writer.ACI.WHITE, 'CONTINUOUS'],
  dimension: [Writer.ACI.GREEN, 'CONTINUOUS'],
  hole: [Writer.ACI.WHITE, 'CONTINUOUS'],
  bend: [Writer.ACI.YELLOW, 'DASHED'],
  check: [Writer.ACI.CYAN, 'CONTINUOUS'],
}
/** Older readers know these characters alone. */
const plain = (text: string) => text.replaceAll('°', '%%d').replace(/[^\x20-\x7e]/g, '-')

/** DXF text, 1:1 in millimetres. */
export function dxfOf({ marks }: Drawing): string {
  const d = new Writer()
  d.setUnits('Millimeters')
  d.addLineType('DASHED', '_ _ ', [5, -5])
  for (const layer of new Set(marks.map((m) => m.layer))) d.addLayer(layer.toUpperCase(), ...LAYERS[layer])
  for (const m of marks) {
    d.setActiveLayer(m.layer.toUpperCase())
    if (m.kind === 'circle') d.drawCircle(m.at[0], m.at[1], m.r)
    else if (m.kind === 'text') d.drawText(m.at[0], m.at[1], m.size, 0, plain(m.text))
    else
      d.drawPolyline(
        m.points.map((p) => [p[0], p[1]] as [number, number]),
        m.closed ?? false,
      )
  }
  return d.toDxfString()
}
