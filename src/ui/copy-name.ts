/** The name of a copy: the next number that none of the others has. */
export function copyName(name: string, taken: readonly string[]): string {
  const stem = name.replace(/ \d+$/, '')
  for (let n = 2; ; n++) if (!taken.includes(`${stem} ${n}`)) return `${stem} ${n}`
}
