/**
 * The part of the address behind the question mark, for what is shown on a page. Written past the router, which would take it for a way to
 * another page and drop the one that has just been asked for; its own note of the page stays with the entry, so that the way back works.
 */
export function setQuery(path: string, query: string, as: 'pushState' | 'replaceState' = 'replaceState'): void {
  History.prototype[as].call(history, history.state, '', path + query)
}
