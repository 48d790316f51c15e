/** Every build of the garage as one archive: a file each, as it would be exported alone. */
import { Zip, ZipDeflate } from 'fflate'
import { exportBuild, listHeads } from './builds'

/** A build's name as that of its file. */
export const fileName = (name: string): string =>
  name
    .toLowerCase()
    .replaceAll(/[^a-z\d]+/g, '-')
    .replaceAll(/^-|-$/g, '') || 'build'

/** A ZIP archive in pieces, one build after another: no more than one is held at a time. */
export async function* exportAll(): AsyncGenerator<Uint8Array> {
  let ready: Uint8Array[] = []
  const zip = new Zip((error, piece) => {
    if (error) throw error
    ready.push(piece)
  })
  function* taken() {
    yield* ready
    ready = []
  }
  const names = new Set<string>()
  const letters = new TextEncoder()
  for (const { id } of await listHeads()) {
    const found = await exportBuild(id)
    if (!found) continue
    const plain = fileName(found.name)
    // builds of one name go into files of two
    let name = plain
    for (let n = 2; names.has(name); n++) name = `${plain}-${n}`
    names.add(name)
    const file = new ZipDeflate(`${name}.ivent.json`, { level: 6 })
    zip.add(file)
    for await (const piece of found.pieces) {
      file.push(letters.encode(piece))
      yield* taken()
    }
    file.push(new Uint8Array(), true)
    yield* taken()
  }
  zip.end()
  yield* taken()
}
