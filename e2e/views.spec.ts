import { expect, test, type Page } from './clock'
import { axeFinds } from './axe'

const demo = 'http://127.0.0.1:8473'

/** Every view, with one entry of each kind from the demo record. */
async function views(page: Page) {
  const get = async (path: string) => (await page.request.get(`${demo}/api/v1/${path}`)).json()
  const [runs, series, machines, resins, pieces, reviews, plates, references, instruments, stress, panels] =
    await Promise.all(
      [
        'runs',
        'series',
        'machines',
        'resins',
        'pieces',
        'reviews',
        'plates',
        'references',
        'instruments',
        'stress-series',
        'panels',
      ].map(get),
    )
  const lines = runs.lines as { id: string; shape: string }[]
  const run = lines.at(-1)!.id
  const failed = lines.find((r) => r.shape === 'split')!.id
  const cords = (await get('bench')).cords as { knots: { id: string; kinds: string[] }[] }[]
  const upgrade = cords.flatMap((c) => c.knots).find((k) => k.kinds.includes('upgrade'))!.id
  return [
    '/',
    '/kit',
    '/kit?tab=resins',
    '/kit?tab=pieces',
    '/kit?tab=settings',
    '/kit?tab=instruments',
    `/kit/instruments/${instruments[0].id}`,
    `/kit/studies/${(await get(`instruments/${instruments[0].id}`)).studies[0].study.id}`,
    '/kit?tab=costs',
    `/kit/machines/${machines[0].machine.id}`,
    '/kit/machines/new',
    `/kit/resins/${resins[0].resin.id}`,
    '/kit/pieces/new',
    '/tables/machines',
    '/tables/prints',
    `/kit/pieces/${pieces[0].piece.id}`,
    '/kit/coupons/new',
    '/dial-in',
    '/dial-in/new',
    `/dial-in/${series.at(-1).series.id}`,
    `/dial-in/${series[0].series.id}`,
    '/plan',
    '/plan/new',
    '/plan/calendar',
    `/runs/${run}/card`,
    `/inspect/${run}/paper`,
    '/plan/fill',
    ...plates.slice(0, 1).map((p: { plate: { id: string } }) => `/plan/${p.plate.id}`),
    `/plan/${plates[0].plate.id}/sheet`,
    `/runs/${run}/labels`,
    '/runs/prepare',
    // One that is prepared, one that prints, and all that failed have more to show.
    ...lines.slice(0, 2).map((r) => `/runs/${r.id}`),
    `/runs/${failed}`,
    '/runs',
    `/runs/new?machine=${machines[0].machine.id}`,
    `/runs/${run}`,
    `/runs/${run}/edit`,
    '/inspect',
    `/inspect/${run}`,
    `/inspect/${(await get(`stress-series/${stress.at(-1).series.id}`)).members[0].run_id}`,
    '/inspect/readings',
    '/inspect/stress',
    '/inspect/stress/new',
    ...stress.map((s: { series: { id: string } }) => `/inspect/stress/${s.series.id}`),
    '/door',
    '/phone',
    '/compare',
    `/compare?review=${reviews[0].id}&question=time`,
    `/compare?review=${reviews.find((r: { code: string }) => r.code === 'Q4').id}&question=finish`,
    `/compare?review=${reviews.find((r: { code: string }) => r.code === 'Q4').id}&question=strength`,
    `/inspect/references/${references[0].reference.id}`,
    `/photographs/${references[0].photographs[0].id}`,
    `/compare/photographs?id=${references[0].photographs[0].id}&id=${references[0].photographs[0].id}`,
    '/verdict',
    '/verdict/new',
    '/help',
    `/verdict/${reviews.find((r: { code: string }) => r.code === 'Q4').id}/write-up`,
    `/verdict/${reviews[0].id}`,
    `/verdict/${reviews[1].id}`,
    ...reviews.slice(0, 1).map((r: { id: string }) => `/verdict/${r.id}/plan`),
    `/verdict/${reviews.find((r: { code: string }) => r.code === 'Q4').id}/panels/new`,
    `/verdict/${reviews.find((r: { code: string }) => r.code === 'Q4').id}/findings`,
    `/verdict/${reviews.find((r: { code: string }) => r.code === 'Q4').id}/claims`,
    `/verdict/${reviews.find((r: { code: string }) => r.code === 'Q4').id}/readers`,
    `/verdict/${reviews.find((r: { code: string }) => r.code === 'Q4').id}/money`,
    ...panels.flatMap((p: { id: string }) =>
      ['', '/cards', '/links', '/table'].map((part) => `/verdict/panels/${p.id}${part}`),
    ),
    '/upkeep',
    '/changes',
    '/software',
    `/knots/${upgrade}`,
    '/failures',
    '/failures?by=pieces',
    '/devices',
    '/no-such-page',
  ]
}

test.describe.configure({ mode: 'parallel' })

/** The views are dealt into parts that run side by side. */
const parts = 4

for (let part = 0; part < parts; part++) {
  test(`axe finds nothing on any view, light or dark, and none scrolls sideways at 390 px, part ${part + 1} of ${parts}`, async ({
    page,
  }) => {
    const broken: string[] = []
    page.on('pageerror', (e) => broken.push(String(e)))
    page.on('console', (m) => m.type() === 'error' && broken.push(m.text()))
    for (const view of (await views(page)).filter((_, i) => i % parts === part)) {
      await page.setViewportSize({ width: 1280, height: 800 })
      await page.emulateMedia({ colorScheme: 'light' })
      await page.goto(demo + view)
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
      await page.waitForLoadState('load')
      expect(await axeFinds(page), view).toEqual([])
      // Of all rules, only those of colour look different in the dark.
      await page.emulateMedia({ colorScheme: 'dark' })
      expect(await axeFinds(page, ['color-contrast']), `${view} in the dark`).toEqual([])
      await page.setViewportSize({ width: 390, height: 800 })
      await expect
        .poll(() => page.evaluate(() => document.documentElement.scrollWidth), { message: view })
        .toBeLessThanOrEqual(390)
    }
    expect(broken).toEqual([])
  })
}

test('beads are walked, chosen and opened by keyboard', async ({ page }) => {
  await page.goto(demo)
  const beads = page.getByRole('link', { name: /^R-0\d\d on Harrow 6/ })
  // The tab key reaches one bead of a cord; arrows walk on, zoom keeps the place.
  await beads.last().focus()
  await page.keyboard.press('s')
  await page.keyboard.press('ArrowLeft')
  await page.keyboard.press('s')
  await expect(page.getByRole('heading', { name: /^Between A/ })).toBeVisible()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { level: 1, name: /^R-0\d\d: / })).toBeVisible()
})

test('the palette opens anything by name, ? shows the keys', async ({ page }) => {
  await page.goto(demo)
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
  await page.keyboard.press('?')
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible()
  await page.keyboard.press('Escape')
  await page.keyboard.press('/')
  // What is typed is looked for among what is there: the machines may come after the series that name them.
  await expect(page.getByRole('option', { name: /^M\d+ Tern Mini$/ })).toBeAttached()
  await page.getByRole('combobox').fill('Tern Mini')
  await expect(page.getByRole('option', { selected: true })).toContainText('Tern Mini')
  await page.keyboard.press('Enter')
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('Tern Mini')
})

test('what was entered survives a reload and a refusal', async ({ page }) => {
  await page.goto(`${demo}/kit/machines/new`)
  await page
    .getByLabel('Name', { exact: true })
    .fill('A name that is far longer than any label in this program was ever drawn for')
  await page.getByLabel('Plate widthmm').fill('twelve')
  await page.reload()
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue(/far longer/)
  await page.getByRole('button', { name: 'Save the machine' }).click()
  await expect(page.getByRole('alert').filter({ hasText: 'Plate width' }).first()).toBeVisible()
  await expect(page.getByLabel('Plate widthmm')).toHaveValue('twelve')
})
