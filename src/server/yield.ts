import { setImmediate } from 'node:timers/promises'

/** The embedded database answers without a turn of the event loop: long work calls this between its steps, so that others get theirs. */
export const yieldToOthers = (): Promise<void> => setImmediate()
