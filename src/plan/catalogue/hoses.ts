/** Hoses that are sold. */

import tables from './fittings.json'

/** Hose through-bores that are sold, mm, with the name they are sold under. */
export const HOSE_BORES: readonly { readonly mm: number; readonly name: string }[] = tables.hoses.rows

/**
 * Bore in mm of a hose by the dash size it is sold under; undefined for what is no dash size of ours.
 *
 * @example
 * import { boreSold } from '@/plan/catalogue/hoses'
 *
 * console.log(boreSold('-10')) // 14.3
 */
export const boreSold = (text: string): number | undefined =>
  HOSE_BORES.find(
    (b) =>
      b.name.startsWith('-') &&
      b.name ===
        text
          .trim()
          .replace('−', '-')
          .replace(/\s*an$/i, ''),
  )?.mm
