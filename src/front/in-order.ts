/** Middleware: what a request passes on its way to an answer, one after another. */
import type { IncomingMessage, RequestListener, ServerResponse } from 'node:http'

/** Answers a request, or lets it go on to the next. */
export type Middleware = (request: IncomingMessage, response: ServerResponse, next: () => void) => void

/** One listener of many steps, taken in order. */
export const inOrder = (...steps: readonly Middleware[]): RequestListener => {
  const from = (k: number, request: IncomingMessage, response: ServerResponse): void =>
    steps[k]?.(request, response, () => from(k + 1, request, response))
  return (request, response) => from(0, request, response)
}
