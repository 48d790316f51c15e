/** What a photograph is of, as it is kept with it. */

/** A step, part, line, tape row, log entry or side of the bay, as a photograph names it. */
export const photoOf = {
  step: (plan: string, step: string) => `step ${plan} ${step}`.slice(0, 180),
  part: (plan: string, part: string) => `part ${plan} ${part}`,
  line: (plan: string, line: string) => `line ${plan} ${line}`,
  spot: (spot: string) => `spot ${spot}`,
  entry: (entry: string) => `entry ${entry}`,
  side: (side: string) => `bay-${side}`,
} as const
