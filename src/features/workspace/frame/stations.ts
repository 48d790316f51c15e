/** The stations that a build goes through, in the order of the work. */
export const STATIONS = [
  { key: 'engine', name: 'Engine' },
  { key: 'circuit', name: 'Circuit' },
  { key: 'bay', name: 'Bay' },
  { key: 'parts', name: 'Parts' },
  { key: 'fit', name: 'Fit' },
  { key: 'log', name: 'Log' },
] as const
