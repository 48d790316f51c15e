/** Part of ./ivent bench: frames a second in the browser while a can is dragged through a full bay. */
import { chromium } from '@playwright/test'
import { Ivent } from '../../e2e/ivent'
import { fullBay } from './full-bay'

const [SECONDS, ASKED] = [4, 30]

/** Notes the time between frames, in `gaps`; as text, since the page knows nothing of what the loader adds to functions. */
const COUNT = `
  globalThis.gaps = []
  let last = performance.now()
  requestAnimationFrame(function next(now) {
    gaps.push(now - last)
    last = now
    requestAnimationFrame(next)
  })`

async function frames(): Promise<void> {
  const ivent = new Ivent()
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] })
  try {
    if ((await ivent.start('start')) !== 'answers') throw new Error(ivent.output)
    const made = await fetch(`${ivent.url}/api/builds`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', origin: ivent.url },
      body: JSON.stringify(fullBay()),
    })
    const { id, error } = (await made.json()) as { id?: string; error?: string }
    if (!id) throw new Error(error)
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
    await page.goto(`${ivent.url}/builds/${id}/bay`)
    const can = page.getByRole('button', { name: /Arrow keys move it/ }).first()
    const box = (await can.boundingBox())!
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2]
    await page.mouse.move(x, y)
    await page.mouse.down()
    await page.evaluate(COUNT)
    const until = performance.now() + 1000 * SECONDS
    let moves = 0
    for (; performance.now() < until; moves++)
      await page.mouse.move(x + 60 * Math.sin(moves / 10), y + 20 * Math.cos(moves / 10))
    await page.mouse.up()
    const gaps = ((await page.evaluate('gaps')) as number[]).toSorted((a, b) => a - b)
    const perSecond = gaps.length / (gaps.reduce((s, g) => s + g, 0) / 1000)
    const slow = gaps[Math.floor(0.95 * gaps.length)]!
    console.log(
      `a can dragged in the browser, 12 hoses, 40 keep-outs: ${perSecond.toFixed(0)} frames a second, ${moves} moves, 19 of 20 frames within ${slow.toFixed(0)} ms`,
    )
    console.log(`${perSecond >= ASKED ? 'met    ' : 'NOT MET'} ${ASKED} frames a second in the browser`)
  } finally {
    await browser.close()
    await ivent.end()
  }
}

void frames()
