/** The page's side of what works without a connection: the worker is registered, told what to keep, and let take over when there is a newer one. */
import { COMMON_PAGES, pagesOf, type KeepReply, type KeepRequest } from './worker/pages-kept'

/** Why nothing is kept on this device for when there is no connection. */
export type NotKept = 'untrusted' | 'full' | 'none'

/**
 * Registers the worker. Says why it cannot: a browser runs none where it does not trust the certificate.
 * `onNewer` is told when a newer one waits to take over.
 */
export async function registerWorker(onNewer: (takeOver: () => void) => void): Promise<NotKept | undefined> {
  if (!('serviceWorker' in navigator)) return isSecureContext ? 'none' : 'untrusted'
  try {
    const registration = await navigator.serviceWorker.register('/service-worker.js', {
      scope: '/',
      updateViaCache: 'none',
    })
    const offerNewer = () => {
      // the first one of all takes over nothing; the one that waits when it is pressed takes over, not one that was replaced meanwhile
      if (registration.waiting && navigator.serviceWorker.controller)
        onNewer(() => registration.waiting?.postMessage({ type: 'SKIP_WAITING' }, []))
    }
    const watch = (coming: ServiceWorker | null) =>
      coming?.addEventListener('statechange', () => {
        if (coming.state === 'installed') offerNewer()
      })
    offerNewer()
    watch(registration.installing)
    registration.addEventListener('updatefound', () => watch(registration.installing))
    return undefined
  } catch (error) {
    return error instanceof DOMException && error.name === 'SecurityError' ? 'untrusted' : undefined
  }
}

/** Has the worker keep the pages of a build, and those of no one build. Undefined where there is no worker yet. */
export async function keepPages(build: string | undefined): Promise<KeepReply | undefined> {
  if (!('serviceWorker' in navigator)) return undefined
  const { active } = await navigator.serviceWorker.ready
  const request: KeepRequest = {
    type: 'keep',
    paths: [...COMMON_PAGES, ...(build === undefined ? [] : pagesOf(build))],
  }
  const { port1, port2 } = new MessageChannel()
  return new Promise((resolve) => {
    port1.addEventListener('message', ({ data }) => resolve(data as KeepReply), { once: true })
    port1.start()
    active?.postMessage(request, [port2])
  })
}
