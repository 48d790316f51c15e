'use client'
/** Files that a build gives out, one way each: buttons and the palette press the same. What makes them is fetched when asked for. */
import type { CardFigures } from '@/plan/fit/steps/prove'
import type { Card } from '@/plan/fit/card'
import type { CardPhoto } from '@/plan/fit/pdf'
import type { Build, Variant } from '@/plan/document/schema'
import { loweredName, STATE_NAMES, unitFormatter } from '@/plan/document/words'
import type { Drawing } from '@/plan/drawing/drawing'
import { activeVariant } from '@/plan/edit/edit'
import type { Paper } from '@/plan/fit/pdf-sheet'
import { download } from '@/ui/download'
import { type Photo } from '../photos/photos'
import { photoOf } from '../photos/photo-of'

/** What hangs on the wall in words: the pressure to read in each state, and when each can is looked into. */
function expectedText(build: Build, { states, cans }: CardFigures): string[] {
  const say = unitFormatter(build.units)
  return [
    ...states.map(
      (s) => `${STATE_NAMES[s.id]}: crankcase ${s.solved ? say.signed(s.crankcaseGauge) : 'has no answer'}`,
    ),
    ...cans
      .filter((c) => Number.isFinite(c.checkBy))
      .map((c) => `Look into the ${loweredName(c)} by ${say.distance(c.checkBy)} on the clock.`),
  ]
}

/** Photographs of a plan's steps, parts and lines, in the order of the card; none where Ivent does not answer. */
async function cardPhotos(id: string, plan: Variant, card: Card): Promise<CardPhoto[]> {
  const names = new Map([
    ...card.steps.map((s, i) => [photoOf.step(plan.id, s.key), `Step ${i + 1}: ${s.says}`] as const),
    ...plan.parts.map((p) => [photoOf.part(plan.id, p.id), p.name] as const),
    ...plan.lines.map((l) => [photoOf.line(plan.id, l.id), l.name] as const),
  ])
  const base = `/api/builds/${id}/attachments`
  const response = await fetch(base).catch(() => undefined)
  const all = response?.ok ? ((await response.json()) as Photo[]) : []
  const order = [...names.keys()]
  const own = all.filter((p) => names.has(p.about)).toSorted((a, b) => order.indexOf(a.about) - order.indexOf(b.about))
  const read = async (p: Photo): Promise<CardPhoto[]> => {
    const picture = await fetch(`${base}/${p.id}`).catch(() => undefined)
    return picture?.ok ? [{ of: names.get(p.about)!, jpeg: new Uint8Array(await picture.arrayBuffer()) }] : []
  }
  return (await Promise.all(own.map(read))).flat()
}

export async function saveJobCard(id: string, build: Build, figures: CardFigures): Promise<void> {
  const [{ cardPdf }, { jobCard, tickOf }, lists, { stripsOf }, { bracketDrawing, bracketFor }, bay, circuit] =
    await Promise.all([
      import('@/plan/fit/pdf'),
      import('@/plan/fit/card'),
      import('@/plan/fit/lists'),
      import('@/plan/fit/strips'),
      import('@/plan/fit/bracket'),
      import('@/plan/bay/drawing'),
      import('@/features/circuit/circuit-drawing'),
    ])
  const plan = activeVariant(build)
  const card = jobCard(build, plan, figures)
  const strips = stripsOf(build, plan)
  const brackets = plan.parts.flatMap((p) => {
    const found = p.kind === 'can' ? bracketFor(build, plan, p.id) : undefined
    return found?.ok ? [bracketDrawing(found.value)] : []
  })
  download(
    `${build.name}, job card.pdf`,
    await cardPdf({
      title: `${build.name}: ${plan.name}`,
      card,
      ticked: new Set(card.steps.filter((s) => tickOf(build, plan.id, s)?.state === 'done').map((s) => s.key)),
      expected: expectedText(build, figures),
      items: lists.shoppingList(build, plan, figures.states),
      cuts: lists.cutList(strips),
      drawings: [
        circuit.circuitDrawing(build, plan),
        ...brackets,
        ...(build.bay ? [bay.bayDrawing(build, 'left'), bay.bayDrawing(build, 'above')] : []),
      ],
      labels: lists.endLabels(strips),
      photos: await cardPhotos(id, plan, card),
    }),
    'application/pdf',
  )
}

/** The list to buy as a page, or with hours and tax as an estimate for a customer. */
export async function saveListPdf(
  build: Build,
  { states }: Pick<CardFigures, 'states'>,
  kind: 'list' | 'estimate',
): Promise<void> {
  const [{ listPdf, estimatePdf }, { shoppingList }, { effortOf }] = await Promise.all([
    import('@/plan/fit/list-pdf'),
    import('@/plan/fit/lists'),
    import('@/plan/studies/effort'),
  ])
  const plan = activeVariant(build)
  const items = shoppingList(build, plan, states)
  if (kind === 'list') download(`${build.name}, to buy.pdf`, await listPdf(build, plan.name, items), 'application/pdf')
  else
    download(
      `${build.name}, estimate.pdf`,
      await estimatePdf(build, plan.name, items, effortOf(build, plan).hours),
      'application/pdf',
    )
}

/** A drawing in full size over pages that join. */
export async function saveTemplate(drawing: Drawing, paper: Paper): Promise<void> {
  const { templatePdf } = await import('@/plan/fit/pdf-sheet')
  download(`${drawing.title}, ${paper}.pdf`, await templatePdf(drawing, paper), 'application/pdf')
}

export async function saveShopping(build: Build): Promise<void> {
  const { shoppingCsv } = await import('@/plan/fit/sheets')
  download(`${build.name}, to buy.csv`, shoppingCsv(build), 'text/csv')
}

export async function saveCuts(build: Build): Promise<void> {
  const { cutCsv } = await import('@/plan/fit/sheets')
  download(`${build.name}, to cut.csv`, cutCsv(build), 'text/csv')
}

export async function saveOwnFittings(build: Build): Promise<void> {
  const { ownCsv } = await import('@/plan/fit/own-pieces-csv')
  download(`${build.name}, own fittings.csv`, ownCsv(build), 'text/csv')
}

export async function saveLog(build: Build): Promise<void> {
  const { logCsv } = await import('@/plan/service/log-csv')
  download(`${build.name}, log.csv`, logCsv(build), 'text/csv')
}

export async function saveWays(build: Build): Promise<void> {
  const { waysCsv } = await import('@/plan/bay/way-csv')
  download(`${build.name}, ways.csv`, waysCsv(build), 'text/csv')
}

/** The bay from every side, a file each. */
export async function saveBay(build: Build, kind: 'svg' | 'dxf'): Promise<void> {
  const { bayDrawing, SIDE_NAMES, SIDES } = await import('@/plan/bay/drawing')
  const write = kind === 'dxf' ? (await import('@/plan/drawing/dxf')).dxfOf : (await import('@/plan/drawing/svg')).svgOf
  for (const side of SIDES)
    download(
      `${build.name}, bay ${SIDE_NAMES[side].toLowerCase()}.${kind}`,
      write(bayDrawing(build, side)),
      kind === 'dxf' ? 'image/vnd.dxf' : 'image/svg+xml',
    )
}
