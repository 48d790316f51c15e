/** A part of the program that is loaded when it is needed: asked for again until it comes, so that a broken connection leaves the page standing. */

/**
 * A part did not come over: the connection broke, or another version of Ivent was started meanwhile. React says of what a page is made of
 * "Connection closed." where its stream was cut; browsers have words of their own for a body that breaks off.
 */
export const isMissingPart = ({ name, message }: Error): boolean =>
  name === 'ChunkLoadError' ||
  /failed to (load chunk|fetch)|network ?error|connection closed|load failed/i.test(message)

const AGAIN_MS = 2000
const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))

/**
 * The part that `load` brings; while the connection is broken it is asked for every two seconds.
 * Any other error is the part's own and is thrown.
 *
 * @example
 * const part = await importWithRetry(() => Promise.resolve('the palette'))
 * console.log(part) // the palette
 */
export async function importWithRetry<Part>(load: () => Promise<Part>, againMs = AGAIN_MS): Promise<Part> {
  for (;;) {
    try {
      return await load()
    } catch (error) {
      if (!(error instanceof Error && isMissingPart(error))) throw error
      await wait(againMs)
    }
  }
}
