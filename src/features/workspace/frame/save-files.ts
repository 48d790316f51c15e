'use client'
/** Files that a build gives out, one way each: buttons and the palette press the same. What makes them is fetched when asked for. */
import type { CardFigures } from '@/plan/fit/steps/prove'
import type { Build } from '@/plan/document/schema'
import { activeVariant } from '@/plan/edit/edit'
import { download } from '@/ui/download'

export async function saveJobCard(build: Build, figures: CardFigures): Promise<void> {
  const [{ cardPdf }, { jobCard, tickOf }, { endLabels }, { stripsOf }] = await Promise.all([
    import('@/plan/fit/pdf'),
    import('@/plan/fit/card'),
    import('@/plan/fit/lists'),
    import('@/plan/fit/strips'),
  ])
  const plan = activeVariant(build)
  const card = jobCard(build, plan, figures)
  const ticked = new Set(card.steps.filter((s) => tickOf(build, plan.id, s)?.state === 'done').map((s) => s.key))
  download(
    `${build.name}, job card.pdf`,
    await cardPdf(`${build.name}: ${plan.name}`, card, ticked, endLabels(stripsOf(build, plan))),
    'application/pdf',
  )
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
  const { ownCsv } = await import('@/plan/fit/own-pieces')
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
