/**
 * Part of ./ivent bench: frames a second and long tasks in the browser while a can is dragged through a full bay, the view in space turned, and
 * plans are searched for.
 */
import { chromium, type Page } from '@playwright/test'
import { Ivent } from '../../e2e/ivent'
import { fullBay } from './full-bay'

const [SECONDS, ASKED, LONGEST_TASK_MS] = [4, 30, 50]

/** Notes the time between frames in `gaps` and of long tasks in `tasks`; as text, since the page knows nothing of what the loader adds to functions. */
const COUNT = `
  globalThis.gaps = []
  globalThis.tasks = []
  new PerformanceObserver((l) => tasks.push(...l.getEntries().map((e) => e.duration))).observe({ type: 'longtask' })
  let last = performance.now()
  requestAnimationFrame(function next(now) {
    gaps.push(now - last)
    last = now
    requestAnimationFrame(next)
  })`

/** Drags from the middle of `box` to and fro for SECONDS, and prints what the browser made of it. */
async function drag(page: Page, what: string, box: { x: number; y: number; width: number; height: number }) {
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
  const tasks = (await page.evaluate('tasks')) as number[]
  const perSecond = gaps.length / (gaps.reduce((s, g) => s + g, 0) / 1000)
  const slow = gaps[Math.floor(0.95 * gaps.length)]!
  const longest = Math.max(0, ...tasks)
  console.log(
    `${what}: ${perSecond.toFixed(0)} frames a second, ${moves} moves, 19 of 20 frames within ${slow.toFixed(0)} ms; ${tasks.length} tasks over ${LONGEST_TASK_MS} ms, the longest ${longest.toFixed(0)} ms`,
  )
  console.log(`${perSecond >= ASKED ? 'met    ' : 'NOT MET'} ${ASKED} frames a second in the browser`)
  console.log(`${tasks.length === 0 ? 'met    ' : 'NOT MET'} no task over ${LONGEST_TASK_MS} ms`)
}

/** Searches for proposals, and prints whether the page could answer all the while. */
async function searchPlans(page: Page, url: string) {
  await page.goto(url)
  await page.waitForLoadState('networkidle')
  await page.evaluate(COUNT)
  await page.getByRole('button', { name: 'Try plans' }).click()
  await page.getByRole('button', { name: /^Try .* more$/ }).waitFor({ timeout: 300_000 })
  const tasks = (await page.evaluate('tasks')) as number[]
  console.log(
    `plans searched for, judged and placed: ${tasks.length} tasks over ${LONGEST_TASK_MS} ms, the longest ${Math.max(0, ...tasks).toFixed(0)} ms`,
  )
  console.log(`${tasks.length === 0 ? 'met    ' : 'NOT MET'} no task over ${LONGEST_TASK_MS} ms in the page meanwhile`)
}

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
    await page.waitForLoadState('networkidle')
    const can = page.getByRole('button', { name: /Arrow keys move it/ }).first()
    await drag(page, 'a can dragged in the browser, 12 hoses, 40 keep-outs', (await can.boundingBox())!)
    await page.getByRole('radio', { name: 'In space' }).click()
    const space = page.locator('canvas').first()
    await space.waitFor()
    await page.waitForLoadState('networkidle')
    await drag(page, 'the same bay turned in space', (await space.boundingBox())!)
    await searchPlans(page, `${ivent.url}/builds/${id}/proposals`)
  } finally {
    await browser.close()
    await ivent.end()
  }
}

void frames()
