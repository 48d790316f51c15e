'use client'
/** What to buy: counted, with what lies in the drawer and what it costs. */
import { Fragment } from 'react'
import { STOCK_FIELDS } from '@/plan/document/fit-fields'
import { activeVariant } from '@/plan/edit/edit'
import { chain } from '@/plan/edit/edit-builders'
import { capital, unitFormatter } from '@/plan/document/words'
import { noteStock } from '@/plan/fit/fit-builders'
import { estimateOf, toBuy } from '@/plan/fit/estimate'
import { GROUPS, shoppingList, type Item } from '@/plan/fit/lists'
import { CustomerEstimate } from './customer-estimate'
import { FileButton } from '@/ui/file-button'
import { NumberField } from '../workspace/figures/field'
import { saveListPdf, saveShopping } from '../workspace/frame/save-files'
import { useUnits, useWorkspace } from '../workspace/store'

export function Buy() {
  const build = useWorkspace((s) => s.build)
  const act = useWorkspace((s) => s.act)
  const refuse = useWorkspace((s) => s.refuse)
  const say = unitFormatter(useUnits())
  const states = useWorkspace((s) => s.analysis.states)
  const items = shoppingList(build, activeVariant(build), states)
  const stock = new Map((build.fit?.stock ?? []).map((s) => [s.id, s]))
  const { parts: total, unpriced } = estimateOf(build, items, 0)
  const priced = items.length - unpriced
  const amount = (i: Item, n: number) => (i.unit === 'mm' ? say.length(n / 1000) : String(n))
  const takeIn = async (name: string, text: string) => {
    const { byLine, readCsv } = await import('@/plan/files/csv')
    const read = readCsv(text, ['key', 'have', 'price'])
    const no = (reason: string) => refuse(`${name} was not read, nothing was changed. ${reason}`)
    if (!read.ok) return no(read.reason)
    const problems = read.value.flatMap(({ line, cells }) =>
      (['have', 'price'] as const).flatMap((c) => {
        const v = cells[c] === '' ? 0 : Number(cells[c])
        return v >= STOCK_FIELDS[c].min && v <= STOCK_FIELDS[c].max
          ? []
          : [{ line, says: `${c} is not a number from 0 to ${STOCK_FIELDS[c].max}.` }]
      }),
    )
    if (problems.length > 0) return no(byLine(problems))
    const known = new Set(items.map((i) => i.key))
    const rows = read.value.filter((r) => known.has(r.cells['key']!))
    if (rows.length === 0) return no('It names nothing of this list: the column key says which piece a row is.')
    const value = (text_: string | undefined) => (text_ ? Number(text_) : undefined)
    act(
      chain(
        ...rows.map((r) =>
          noteStock(r.cells['key']!, { have: value(r.cells['have']), price: value(r.cells['price']) }),
        ),
      ),
      'Prices and drawer read from a table',
    )
  }
  return (
    <section aria-labelledby="buy" className="overflow-x-auto">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4 border-b-[1.5px] border-ink pb-1">
        <h2 id="buy" className="head">
          To buy
        </h2>
        <span className="text-xs text-soft">
          {items.length} things
          {priced > 0 && `, ${total.toFixed(2)} for ${priced} of them`}
        </span>
      </div>
      <table className="table w-full min-w-[40rem]">
        <thead>
          <tr>
            <th>What</th>
            <th>For</th>
            <th className="text-right">Needs</th>
            <th className="w-24">In the drawer</th>
            <th className="text-right">Buy</th>
            <th className="w-24">Price</th>
          </tr>
        </thead>
        <tbody>
          {GROUPS.flatMap((g) => items.filter((i) => i.group === g)).map((i, k, all) => (
            <Fragment key={i.key}>
              {i.group !== all[k - 1]?.group && (
                <tr>
                  <th scope="rowgroup" colSpan={6} className="!pt-2 text-xs">
                    {i.group}
                  </th>
                </tr>
              )}
              <tr>
                <th scope="row" className="!whitespace-normal !text-ink">
                  {capital(i.name)}
                  {i.asks.length > 0 && (
                    <span className="block text-xs font-normal">{capital(i.asks.join('; '))}.</span>
                  )}
                </th>
                <td className="!whitespace-normal text-xs text-soft">{i.for.join(', ')}</td>
                <td className="text-right">
                  {i.count > i.spare && amount(i, i.count - i.spare)}
                  {i.spare > 0 && (
                    <span className="block text-xs text-soft">
                      {i.count > i.spare && 'and '}
                      {i.spare} spare
                    </span>
                  )}
                </td>
                <td>
                  <NumberField
                    field={i.unit === 'mm' ? { ...STOCK_FIELDS.have, kept: 'Mm' } : STOCK_FIELDS.have}
                    label={`${i.name}, in the drawer`}
                    hideLabel
                    value={stock.get(i.key)?.have}
                    estimate={0}
                    onChange={(have) => act(noteStock(i.key, { have }), 'What lies in the drawer', `have ${i.key}`)}
                  />
                </td>
                <td className="fig text-right font-bold">{amount(i, toBuy(build, i))}</td>
                <td>
                  <NumberField
                    field={STOCK_FIELDS.price}
                    label={`${i.name}, price${i.unit === 'mm' ? ' a metre' : ''}`}
                    hideLabel
                    value={stock.get(i.key)?.price}
                    estimate={0}
                    onChange={(price) => act(noteStock(i.key, { price }), 'A price', `price ${i.key}`)}
                  />
                </td>
              </tr>
            </Fragment>
          ))}
        </tbody>
      </table>
      <p className="no-print flex items-baseline gap-x-4">
        <button type="button" className="link-button" onClick={() => void saveShopping(build)}>
          The list as CSV
        </button>
        <button type="button" className="link-button" onClick={() => void saveListPdf(build, { states }, 'list')}>
          On a page, as PDF
        </button>
        <FileButton accept=".csv,text/csv" onFile={(file) => void file.text().then((text) => takeIn(file.name, text))}>
          Read prices in
        </FileButton>
        <span className="text-xs text-soft">prices in your own money; of hose, a metre</span>
      </p>
      <CustomerEstimate items={items} states={states} />
    </section>
  )
}
