/** The work from first to last, what the marks mean, and the keys: one page. */
import Link from 'next/link'
import { Brand } from '@/ui/brand'
import { SeverityMark } from '@/ui/marks'
import { ThemeButton } from '@/ui/theme'

type Stage = { readonly what: string; readonly where: string; readonly says: string }
const WORK: readonly Stage[] = [
  {
    what: 'Decide whether it is worth it',
    where: 'New build',
    says: 'Answer the questions about engine and use. Ivent says what a can is worth on it and ranks the ways to plumb it. Leave empty what you do not know: ◇ stands in for it.',
  },
  {
    what: 'Tell it about the engine',
    where: 'Engine',
    says: 'Put right what differs from the class: rings, breather pick-up, fresh air, use. One measured blow-by is worth more than all estimates.',
  },
  {
    what: 'Draw the circuit',
    where: 'Circuit',
    says: 'The schematic says what feeds what, the ladder which way it runs: gas runs downhill. Press a hose or part to change it. Keys 1 to 6 change the driving state, for every figure on the page.',
  },
  {
    what: 'Mend what is wrong',
    where: 'Verdicts, at the right',
    says: 'Worst first, those of the station you are at before the others. Show jumps there, Working opens the sum behind the number, a blue line is a fix that has been tried out.',
  },
  {
    what: 'Find the place, lead the hoses',
    where: 'Bay',
    says: 'Enter the few tape measures that are asked for first, or start from the ready bay. Drag the can; lengths, bends, clearances and the fall of a drain follow.',
  },
  {
    what: 'Buy, cut, drill, bend',
    where: 'Parts',
    says: 'Every line as it is made, end by end, the list to buy, what to cut and how its ends are turned, bracket and holes at full size.',
  },
  {
    what: 'Fit and prove it',
    where: 'Fit',
    says: 'The job card of this very plan, for a phone. Tick as you go; at the end read the crankcase in each state and compare. Then say that the plan is on the car.',
  },
  {
    what: 'Empty it, and let it learn',
    where: 'Log',
    says: 'Note each look and emptying with the odometer. Every one narrows the forecast: when to look next, and how full it is now.',
  },
  {
    what: 'Work at the car with a phone',
    where: 'Garage, Devices',
    says: 'Start Ivent with --lan, let the phone in by its camera, and take it to the car: card, log and tape sheet work there, without a connection too. What you enter waits on it and is sent when the connection is back.',
  },
  {
    what: 'Let Ivent propose',
    where: 'Plans, What should I build?',
    says: 'Say what you will not do and what it may cost. Thousands of plans are tried; the few worth choosing between are shown, with what a step from one to the next costs and brings.',
  },
  {
    what: 'When it smokes, leaks or fills too fast',
    where: 'Find the fault',
    says: 'Tick what is noticed. Every fault by its odds, what to read or look at next, and how it is mended.',
  },
  {
    what: 'Learn it first',
    where: 'Garage, Practice',
    says: 'Lessons in the order of the work, and cars that are not there with a fault to find against the clock.',
  },
  {
    what: 'When something is odd',
    where: 'Circuit, What if',
    says: 'Stick a valve, block a filter, pull a hose off: the picture shows what it would do, and saves nothing.',
  },
]
const KEYS: readonly (readonly [keys: string, does: string])[] = [
  ['1 to 6', 'the driving state shown'],
  ['Ctrl K', 'every command by name'],
  ['Ctrl Z, Ctrl Shift Z', 'undo and redo, as far back as the build was opened'],
  ['?', 'this page; the way back leads where you were'],
  ['Tab, Enter, Escape', 'through all that can be pressed, press it, shut what is open'],
]
const MARKS: readonly (readonly [mark: string, means: string])[] = [
  ['■', 'entered: someone typed it'],
  ['●', 'measured'],
  ['◈', 'made of your readings'],
  ['◇', 'an estimate: of the class, the school or common practice. Type over it'],
]

export function Help() {
  return (
    <div className="mx-auto max-w-[60rem] px-4 pb-16">
      <header className="flex items-center gap-3 border-b-[1.5px] border-ink py-3">
        <Brand />
        <h1 className="flex-1 text-base">Help: the work from first to last</h1>
        <Link href="/reference" prefetch={false} className="link-button no-print">
          Reference
        </Link>
        <ThemeButton />
      </header>
      <main>
        <ol className="pt-2">
          {WORK.map((s, i) => (
            <li key={s.what} className="grid gap-x-6 border-b border-rule py-3 sm:grid-cols-[2rem_15rem_minmax(0,1fr)]">
              <span className="text-lg font-bold text-blue" aria-hidden>
                {i + 1}
              </span>
              <span>
                <strong className="block">{s.what}</strong>
                <span className="text-soft">{s.where}</span>
              </span>
              <span>{s.says}</span>
            </li>
          ))}
        </ol>
        <div className="grid gap-x-12 gap-y-6 pt-6 md:grid-cols-2">
          <section aria-labelledby="marks">
            <h2 id="marks" className="head border-b-[1.5px] border-ink pb-1">
              Marks
            </h2>
            <ul>
              {MARKS.map(([mark, means]) => (
                <li key={mark} className="flex gap-3 py-1">
                  <span aria-hidden className="w-5 text-center">
                    {mark}
                  </span>
                  {means}
                </li>
              ))}
              {(
                [
                  ['stop', 'do not drive it like this'],
                  ['fix', 'put it right before it is fitted'],
                  ['watch', 'look at it: it may be right for you'],
                ] as const
              ).map(([severity, means]) => (
                <li key={severity} className="flex items-center gap-3 py-1">
                  <SeverityMark severity={severity} size={18} /> {severity}: {means}
                </li>
              ))}
            </ul>
          </section>
          <section aria-labelledby="keys">
            <h2 id="keys" className="head border-b-[1.5px] border-ink pb-1">
              Keys
            </h2>
            <dl className="grid grid-cols-[10rem_1fr] gap-y-1 pt-1">
              {KEYS.map(([keys, does]) => (
                <div key={keys} className="contents">
                  <dt className="font-bold">{keys}</dt>
                  <dd>{does}</dd>
                </div>
              ))}
            </dl>
          </section>
        </div>
        <p className="mt-6 text-soft">
          A dotted line under a figure means that it opens its working. Everything is saved as you go, on the bench’s
          machine alone; earlier versions are behind the clock in the head. Hot engines, moving belts, lifted cars,
          welding and fuel hurt: the job card says where. On public roads the crankcase system is an emission control;
          ask your local authority.
        </p>
      </main>
    </div>
  )
}
