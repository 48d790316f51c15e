/** Hoses that are sold. */

/** Hose through-bores in mm that are sold: inch and metric rubber, and braided by dash size. */
export const HOSE_BORES: readonly { readonly mm: number; readonly name: string }[] = [
  { mm: 6.3, name: '1/4 in' },
  { mm: 7.9, name: '5/16 in' },
  { mm: 8.7, name: '-6' },
  { mm: 9.5, name: '3/8 in' },
  { mm: 11.1, name: '-8' },
  { mm: 12.7, name: '1/2 in' },
  { mm: 14.3, name: '-10' },
  { mm: 15.9, name: '5/8 in' },
  { mm: 17.5, name: '-12' },
  { mm: 19, name: '3/4 in' },
  { mm: 22.2, name: '-16' },
  { mm: 25.4, name: '1 in' },
]

/**
 * Bore in mm of a hose by the dash size it is sold under; undefined for what is no dash size of ours.
 * @example boreSold('-10') // 14.3
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
