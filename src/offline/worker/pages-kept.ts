/** What the worker beside the pages keeps, and how a kept page tells that it is one. Shared by the worker and the pages. */

/** Start of the name of the store of kept pages; the build's name follows. */
export const PAGES = 'ivent-pages-'

/** Asks the worker to keep pages, by their paths. */
export type KeepRequest = { readonly type: 'keep'; readonly paths: readonly string[] }
export type KeepReply = { readonly kept: true } | { readonly kept: false; readonly full: boolean }

const STATIONS = ['engine', 'circuit', 'bay', 'parts', 'fit', 'log', 'compare', 'faults']
/** Pages that are of no one build. */
export const COMMON_PAGES: readonly string[] = ['/', '/reference', '/help']
/** Pages of a build, the ones used at the car first. */
export const pagesOf = (build: string): readonly string[] =>
  ['fit', 'log', 'bay', 'circuit', 'engine', 'parts', 'compare', 'faults'].map(
    (station) => `/builds/${build}/${station}`,
  )

const OF_BUILD = new RegExp(`^/builds/[\\da-f-]{36}/(?:${STATIONS.join('|')})$`)

/** The path under which a page is kept, whatever stands behind its question mark; undefined for what is no such page. */
export function pathKept(url: string): string | undefined {
  const { pathname } = new URL(url)
  return COMMON_PAGES.includes(pathname) || OF_BUILD.test(pathname) ? pathname : undefined
}

/** A kept page with the moment in its head at which the bench sent it. */
export async function keptMark(response: Response): Promise<Response> {
  const text = await response.text()
  const at = new Date(response.headers.get('date') ?? '').toISOString()
  const headers = new Headers(response.headers)
  // it is no longer as long as it was, nor packed
  for (const name of ['content-length', 'content-encoding']) headers.delete(name)
  return new Response(text.replace('<html ', `<html data-kept-at="${at}" `), { status: 200, headers })
}

/** For a page that was never opened on this device. */
export const NO_PAGE = `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<title>Not on this device · Ivent</title>
<body style="margin:0;padding:2rem 1.25rem;max-width:34rem;font:1rem/1.45 B612,'DejaVu Sans',sans-serif;background:#f4f0e4;color:#17191d">
<h1 style="font-size:1.4rem">This page is not on this device</h1>
<p>The bench does not answer, and this page was not opened here before. Pages of the builds last opened are kept; what you entered waits and
is sent when the connection is back.</p>
<p><a href="/" style="color:#1d3f9c;font-weight:700;display:inline-block;padding:.8rem 0">To the garage</a></p></body></html>`
