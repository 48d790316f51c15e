/** The day that "now" is. IVENT_TODAY fixes it for tests and pictures. */
import { formatISO } from 'date-fns'

export const today = (): string => process.env.IVENT_TODAY ?? formatISO(new Date(), { representation: 'date' })
