/** ./ivent verify DIR: worked cases against the core. */
import { runCases } from '../../verification/worked-cases'

const dir = process.argv[2]
if (!dir) {
  console.error('Say which folder of cases: ./ivent verify DIR')
  process.exit(2)
}
const results = runCases(dir)
for (const r of results) {
  const name = `${r.file.padEnd(36)} ${r.kind.padEnd(10)}`
  if (r.status === 'pass' || r.status === 'fail') {
    const w = r.worst
    console.log(
      `${name} ${r.status === 'pass' ? 'pass' : 'FAIL'}  ${w ? `largest deviation ${(w.got - w.expected).toExponential(2)} of ${w.allowed.toExponential(2)} allowed, ${w.what}` : ''}`,
    )
  } else if (r.status === 'error') console.log(`${name} FAIL  ${r.reason}`)
}
const count = (s: string) => results.filter((r) => r.status === s).length
console.log(`${count('pass')} passed, ${count('fail') + count('error')} failed`)
process.exit(count('fail') + count('error') > 0 ? 1 : 0)
