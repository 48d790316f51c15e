/** A lesson as data: a build, questions whose answers the model works out, hints. `docs/lessons.md` says how to write one. */
import { array, lazy, mixed, number, object, string, tuple, type InferType } from 'yup'
import { STATE_IDS } from '@/core/engine/states'
import { ENGINE_CLASSES } from '../catalogue/engines'
import { USES } from '../catalogue/uses'
import { SCHOOLS } from '../schools/schools'

const word = () => string().required('is missing')
const words = () => array(word()).required('is missing')
const state = () =>
  string()
    .oneOf([...STATE_IDS], `is one of ${STATE_IDS.join(', ')}`)
    .required('is missing')
const amount = () => number().required('is missing')
const point = () => tuple([amount(), amount(), amount()]).required('is missing')
const exact = <S extends Parameters<typeof object>[0] & object>(fields: S) =>
  object(fields).noUnknown(({ unknown }) => `knows no ${unknown}`)

/** Figures that the model works out, by name, and what each has to be given. */
const FIGURE_SHAPES = {
  worth: exact({ figure: word() }),
  intakeOil: exact({ figure: word() }),
  bestSchool: exact({ figure: word(), among: words() }),
  crankcase: exact({ figure: word(), state: state() }),
  badEnd: exact({ figure: word(), state: state() }),
  highestState: exact({ figure: word() }),
  exit: exact({ figure: word(), state: state() }),
  fault: exact({ figure: word() }),
  leastBore: exact({ figure: word(), line: word(), state: state(), belowKpa: amount() }),
  drain: exact({ figure: word(), can: word() }),
  column: exact({ figure: word(), can: word(), state: state() }),
  freePlace: exact({
    figure: word(),
    can: word(),
    places: array(exact({ id: word(), mm: point() })).required('is missing'),
  }),
  clocking: exact({
    figure: word(),
    cornersMm: array(point()).required('is missing'),
    from: point(),
    to: point(),
  }),
  catch: exact({ figure: word(), can: word() }),
  waterShare: exact({ figure: word(), can: word() }),
  sessionsToFull: exact({ figure: word(), can: word() }),
  throughCan: exact({ figure: word(), can: word(), state: state() }),
  gaugeError: exact({ figure: word(), kpa: amount() }),
  mostTelling: exact({ figure: word(), state: state(), among: words() }),
  finding: exact({ figure: word(), rule: word() }),
  sealedOnRoad: exact({ figure: word() }),
  sessionMinutes: exact({ figure: word() }),
  huntTruth: exact({ figure: word(), seed: amount() }),
} as const
type FigureShapes = typeof FIGURE_SHAPES
export type LessonFigure = {
  readonly [N in keyof FigureShapes]: Omit<InferType<FigureShapes[N]>, 'figure'> & { readonly figure: N }
}[keyof FigureShapes]
export const FIGURE_NAMES = Object.keys(FIGURE_SHAPES) as readonly LessonFigure['figure'][]

const figure = lazy((value: { figure?: unknown } | undefined) => {
  const name = String(value?.figure ?? '')
  return (
    Object.hasOwn(FIGURE_SHAPES, name)
      ? FIGURE_SHAPES[name as keyof FigureShapes]
      : mixed().test('figure', `names no figure; known are ${FIGURE_NAMES.join(', ')}`, () => false)
  ) as FigureShapes['worth']
})

const questionSchema = exact({
  ask: word(),
  /** what may be chosen; left out, a number is asked for */
  choices: array(exact({ id: word(), says: word() }))
    .min(2, 'offers fewer than two')
    .optional()
    .default(undefined),
  /** unit of a number, as it is read */
  unit: string().optional(),
  /** share of the answer that a number may be off by */
  within: number().min(0.01).max(2).optional(),
  /** what it may be off by besides, in its unit: where the answer may be about nothing */
  orWithin: number().min(0).optional(),
  /** what the author says: the model has to agree */
  answer: mixed<string | number>()
    .test('answer', 'is a word or a number', (x) => typeof x === 'string' || typeof x === 'number')
    .required('is missing'),
  from: figure,
  hint: word(),
  /** why it is so */
  why: word(),
})

export const lessonSchema = exact({
  id: string()
    .matches(/^[a-z0-9-]+$/, 'holds small letters, digits and -')
    .required('is missing'),
  order: number().integer().min(1).required('is missing'),
  title: word(),
  /** what it is about, a paragraph each */
  says: words(),
  build: exact({
    engineClass: string()
      .oneOf(ENGINE_CLASSES.map((c) => c.key))
      .required('is missing'),
    use: string()
      .oneOf(USES.map((u) => u.key))
      .required('is missing'),
    school: string()
      .oneOf(SCHOOLS.map((s) => s.key))
      .required('is missing'),
    ambientC: number().optional(),
    kmPerYear: number().optional(),
    /** facts of the engine that differ from its class */
    engine: object().optional().default(undefined),
    /** `ready`: everything placed and led in a ready bay of its layout */
    bay: string().oneOf(['ready']).optional(),
    /** a fault that is put into it, by its id */
    fault: string().optional(),
    /** edits on top, as in a revision */
    edits: array(mixed<object>().required('is missing')).optional().default(undefined),
  }),
  /** where its build opens */
  station: string()
    .oneOf(['engine', 'circuit', 'bay', 'parts', 'fit', 'log', 'faults', 'proposals', 'compare'])
    .required('is missing'),
  questions: array(questionSchema).min(1, 'has no question').required('is missing'),
})
export type Lesson = Omit<InferType<typeof lessonSchema>, 'questions'> & {
  readonly questions: readonly LessonQuestion[]
}
export type LessonQuestion = Omit<InferType<typeof questionSchema>, 'from'> & { readonly from: LessonFigure }
