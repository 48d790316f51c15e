/** Several Ivents on one database: what another has changed is out of date here too, and is told to the devices that look on here. */
import { changed } from './changed'
import { devicesChanged } from './devices'
import { onPlaces, takePlaces, announcePhotos, type IventPlaces } from './live'
import type { otherIvents } from './store'

/** Hears of what the others do, and tells them where the windows of devices are that are connected here. */
export function followOthers(others: Awaited<ReturnType<typeof otherIvents>>): void {
  if (!others) return
  others.onNotice((notice) => {
    // the connection was lost for a while: anything may have changed
    if (notice === undefined) {
      devicesChanged()
      return changed()
    }
    const [what, ...rest] = notice.split(' ')
    const [id] = rest
    if (what === 'build') changed(id)
    else if (what === 'attachment' && id) announcePhotos(id)
    else if (what === 'device') devicesChanged()
    else if (what === 'places') readPlaces(rest.join(' '))
    return undefined
  })
  onPlaces((places) => {
    void others.notify(`places ${JSON.stringify(places)}`).catch(() => undefined)
  })
}

function readPlaces(text: string): void {
  try {
    takePlaces(JSON.parse(text) as IventPlaces)
  } catch {
    // of another version of Ivent: it shows nobody
  }
}
