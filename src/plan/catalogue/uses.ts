/** What a car is used for. */
import type { Activity } from '@/core/service/rates'

export const USES = [
  {
    key: 'street',
    name: 'Street',
    about: 'daily driving, some motorway',
    hours: { street: 6, motorway: 3, shortCold: 1 },
    kmPerYear: 14000,
  },
  {
    key: 'fast-road',
    name: 'Fast road',
    about: 'street, mountain roads at the weekend',
    hours: { street: 5, motorway: 2, mountain: 2 },
    kmPerYear: 9000,
  },
  {
    key: 'street-track',
    name: 'Street and track',
    about: 'driven to the track, a day a month',
    hours: { street: 5, motorway: 3, mountain: 1, track: 0.6 },
    kmPerYear: 8000,
  },
  { key: 'track', name: 'Track', about: 'trailered, sessions only', hours: { track: 10 }, kmPerYear: 2500 },
  { key: 'drag', name: 'Drag', about: 'trailered, passes and staging', hours: { drag: 10 }, kmPerYear: 800 },
  {
    key: 'towing',
    name: 'Towing',
    about: 'long pulls, loaded',
    hours: { towing: 6, motorway: 3, street: 1 },
    kmPerYear: 18000,
  },
] as const satisfies readonly {
  key: string
  name: string
  about: string
  hours: Partial<Record<Activity, number>>
  kmPerYear: number
}[]
export type Use = (typeof USES)[number]['key']
