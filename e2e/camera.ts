/** A photograph as a phone's camera writes it: turned by a note in it (Exif 2.32), which also says where and with what it was taken. */

/** An Exif segment: orientation 6 (a quarter turn to the right shows it upright), a maker, and a place. */
function exif(maker: string): Buffer {
  const text = Buffer.from(`${maker}\0`)
  /** Types 2, 3 and 4 are letters, a short number and a long one. */
  const entry = (tag: number, type: 2 | 3 | 4, count: number, value: number): Buffer => {
    const b = Buffer.alloc(12)
    b.writeUInt16BE(tag, 0)
    b.writeUInt16BE(type, 2)
    b.writeUInt32BE(count, 4)
    if (type === 3) b.writeUInt16BE(value, 8)
    else b.writeUInt32BE(value, 8)
    return b
  }
  // header, then three entries, then the maker's name, then the place's own directory
  const [first, entries] = [8, 3]
  const textAt = first + 2 + entries * 12 + 4
  const placeAt = textAt + text.length + (text.length % 2)
  const place = Buffer.concat([Buffer.from([0, 1]), entry(1, 2, 2, 0x4e00_0000), Buffer.alloc(4)])
  const directory = Buffer.concat([
    Buffer.from([0, entries]),
    entry(0x010f, 2, text.length, textAt),
    entry(0x0112, 3, 1, 6),
    entry(0x8825, 4, 1, placeAt),
    Buffer.alloc(4),
  ])
  const tiff = Buffer.concat([
    Buffer.from('MM\0*\0\0\0\u0008', 'latin1'),
    directory,
    text,
    Buffer.alloc(text.length % 2),
    place,
  ])
  const body = Buffer.concat([Buffer.from('Exif\0\0', 'latin1'), tiff])
  const head = Buffer.from([0xff, 0xe1, 0, 0])
  head.writeUInt16BE(body.length + 2, 2)
  return Buffer.concat([head, body])
}

/** A JPEG picture with such a segment after its first marker. */
export const cameraPhoto = (jpeg: Buffer, maker: string): Buffer =>
  Buffer.concat([jpeg.subarray(0, 2), exif(maker), jpeg.subarray(2)])
