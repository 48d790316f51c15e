/** How wide a text is before it is drawn: the advance widths of B612, the face of all screens; regular and bold are equally wide. */

/** Widths of the signs from the space to the tilde, in thousandths of the size. */
const WIDTHS = [
  350, 350, 400, 850, 550, 900, 700, 200, 450, 450, 550, 600, 250, 450, 300, 550, 650, 650, 650, 650, 650, 650, 650,
  650, 650, 650, 300, 250, 650, 500, 650, 550, 1000, 650, 650, 600, 650, 600, 550, 650, 700, 300, 450, 600, 550, 900,
  750, 800, 600, 800, 650, 550, 600, 700, 650, 950, 650, 600, 600, 450, 550, 500, 750, 550, 550, 525, 600, 500, 600,
  550, 400, 600, 600, 300, 300, 550, 350, 900, 600, 600, 600, 600, 400, 450, 400, 600, 550, 750, 550, 550, 500, 649,
  200, 600, 750,
]
/** Of any other sign, arrows of another face among them: wide rather than narrow. */
const OTHER = 1000

/**
 * Width of a text in the unit of its size.
 * @param size of the letters
 */
export function textWidth(text: string, size: number): number {
  let sum = 0
  for (let i = 0; i < text.length; i++) sum += WIDTHS[text.charCodeAt(i) - 32] ?? OTHER
  return (sum * size) / 1000
}
