/** ./ivent screenshots: the main views as a builder sees them, from demo data, into docs/screenshots. */
import { mkdirSync } from 'node:fs'
import { chromium, type Page } from '@playwright/test'
import config from '../../playwright.config'
import { Ivent } from '../../e2e/server'

type Shot = {
  readonly name: string
  readonly build?: string
  readonly path?: string
  readonly dark?: true
  readonly phone?: true
  readonly act?: (page: Page) => Promise<void>
}

const SHOTS: readonly Shot[] = [
  { name: 'garage' },
  { name: 'new-build', path: '/new' },
  {
    name: 'engine',
    build: 'Heron',
    path: '/engine',
    act: async (page) => {
      await page.getByTestId('engine-map').waitFor()
      await page.getByText(/Bands hold/).waitFor()
    },
  },
  { name: 'circuit-idle', build: 'Heron', path: '/circuit' },
  {
    name: 'circuit-boost-night',
    build: 'Heron',
    path: '/circuit',
    dark: true,
    act: (page) => page.keyboard.press('5'),
  },
  {
    name: 'working',
    build: 'Heron',
    path: '/circuit',
    act: async (page) => {
      await page.keyboard.press('5')
      await page
        .getByRole('row', { name: /Breather line/ })
        .getByRole('button', { name: /show the working/ })
        .nth(2)
        .click()
    },
  },
  {
    name: 'bay',
    build: 'Godwit',
    path: '/bay',
    act: (page) => page.keyboard.press('5'),
  },
  {
    name: 'practice',
    path: '/practice/cars/14',
    act: async (page) => {
      const take = async (tool: RegExp, how: RegExp) => {
        await page.getByRole('button', { name: tool }).click()
        await page.getByRole('button', { name: how }).click()
      }
      await page.getByText('75 of 75 minutes left').waitFor({ timeout: 60_000 })
      await take(/^Fuel trim at idle/, /^Do it/)
      await page.getByText('3 min spent').waitFor()
      await take(/^Feel along the suction line/, /^Let it cool first/)
      await page.getByText('folded or soft').waitFor()
      await page.getByRole('combobox', { name: 'What is wrong' }).click()
      await page.getByRole('option', { name: 'Suction line collapsed', exact: true }).click()
      await page.getByRole('button', { name: 'That is it' }).click()
      await page.getByRole('heading', { name: /^Found/ }).waitFor()
      await page.evaluate(() => scrollTo(0, 0))
    },
  },
  {
    name: 'parts',
    build: 'Godwit',
    path: '/parts',
    act: (page) => page.getByRole('button', { name: 'Return, to the turbo drain', exact: true }).click(),
  },
  {
    name: 'fit-phone',
    build: 'Godwit',
    path: '/fit',
    phone: true,
    act: (page) => page.getByRole('checkbox', { checked: false }).first().scrollIntoViewIfNeeded(),
  },
  { name: 'log', build: 'Heron', path: '/log' },
  {
    name: 'recording',
    build: 'Heron',
    path: '/log',
    act: async (page) => {
      const panel = page.getByRole('region', { name: /^Recording/ })
      // it is fetched when the reader comes near it
      await page.locator('main').hover()
      while ((await panel.count()) === 0) {
        await page.mouse.wheel(0, 1000)
        await page.waitForTimeout(100)
      }
      await panel.getByRole('button', { name: 'Coast road, November', exact: true }).click()
      await panel.getByRole('application', { name: /^Recording of/ }).waitFor({ timeout: 60_000 })
      await panel.evaluate((node) => node.scrollIntoView())
    },
  },
  {
    name: 'faults',
    build: 'Wren',
    path: '/faults',
    act: async (page) => {
      await page.getByRole('region', { name: 'Measure next', exact: true }).waitFor({ timeout: 60_000 })
    },
  },
  {
    name: 'proposals',
    build: 'Heron',
    path: '/proposals',
    act: async (page) => {
      await page.getByRole('button', { name: 'Try plans' }).click()
      await page.getByRole('button', { name: /^Try .* more$/ }).waitFor({ timeout: 90_000 })
    },
  },
  {
    name: 'devices',
    path: '/devices',
    act: async (page) => {
      await page.getByRole('button', { name: 'Let a device in' }).click()
      await page.getByRole('img', { name: 'Code for the device’s camera' }).waitFor()
    },
  },
  {
    name: 'compare',
    build: 'Heron',
    path: '/compare',
    act: async (page) => {
      await page.getByText('shown at every station').waitFor()
    },
  },
  { name: 'reference', path: '/reference' },
  {
    name: 'pulsation-night',
    build: 'Dunlin',
    path: '/engine',
    dark: true,
    act: async (page) => {
      await page.keyboard.press('3')
      await page.getByRole('tab', { name: 'Pulsation' }).click()
      await page.getByText('as it is').waitFor({ timeout: 20_000 })
    },
  },
  { name: 'log-phone', build: 'Wren', path: '/log', phone: true },
]

async function take(): Promise<void> {
  const only = process.argv.slice(2)
  const ivent = new Ivent()
  mkdirSync('docs/screenshots', { recursive: true })
  const browser = await chromium.launch(config.use!.launchOptions!)
  try {
    if ((await ivent.start('demo', ivent.folder, '--lan')) !== 'answers') throw new Error(ivent.output)
    for (const shot of SHOTS) {
      if (only.length > 0 && !only.includes(shot.name)) continue
      const page = await browser.newPage({
        viewport: shot.phone ? { width: 390, height: 844 } : { width: 1280, height: 800 },
        hasTouch: shot.phone === true,
        isMobile: shot.phone === true,
        colorScheme: shot.dark ? 'dark' : 'light',
        locale: 'en-GB',
      })
      await page.goto(`${shot.build ? await ivent.build(shot.build) : ivent.url}${shot.path ?? ''}`)
      await page.waitForLoadState('networkidle')
      await shot.act?.(page)
      // pictures glide to a new state
      await page.waitForTimeout(900)
      await page.screenshot({ path: `docs/screenshots/${shot.name}.png` })
      await page.close()
      console.log(`docs/screenshots/${shot.name}.png`)
    }
  } finally {
    await browser.close()
    await ivent.end()
  }
}

void take()
