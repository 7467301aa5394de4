import { expect, test, type Page } from './clock'
import { bench } from './bench'

// What a careless user and a restless browser do: keys pressed twice, two windows,
// a refusal, a connection that comes and goes. The steps build on each other.
test.describe.configure({ mode: 'serial' })
const base = 'http://127.0.0.1:8476'

let page: Page
test.beforeAll(async ({ browser, request }) => {
  await bench(request, base)
  page = await browser.newPage({ baseURL: base })
})
test.afterAll(() => page.close())

const press = (name: string | RegExp) =>
  page
    .getByRole('button', { name, exact: typeof name === 'string' })
    .first()
    .click()

interface Specimen {
  id: string
  code: string
  version: number
  outcome: string
}
interface Sheet {
  run: { id: string; code: string }
  specimens: Specimen[]
}

test('1 the word offline stops nothing; a button pressed twice is one command', async () => {
  await page.goto('/kit?tab=instruments')
  await page.evaluate(() => window.dispatchEvent(new Event('offline')))
  await page.getByLabel('Name').fill('Caliper')
  await page.getByLabel('Resolutionmm').fill('0,01')
  await page.getByLabel(/uncertainty/i).fill('0,01')
  await page.getByRole('button', { name: 'Add this instrument' }).dblclick()
  await expect(page.getByRole('link', { name: 'Caliper', exact: true })).toHaveCount(1)
  const list = (await (await page.request.get('/api/v1/instruments')).json()) as unknown[]
  expect(list).toHaveLength(1)
  // Saving lands where the next entry begins.
  await page.goto('/kit/resins/new')
  await page.getByLabel('Name').fill('Next Grey')
  await page.getByLabel('Bottle holdsml').or(page.getByLabel('or by massg')).first().fill('1000')
  await page.getByLabel('Densityg/ml').fill('1,1')
  await page.getByLabel('Price of a bottle').fill('30')
  await press('Save the resin')
  await expect(page.getByLabel('Lot')).toBeFocused()
  await page.keyboard.type('A1')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('cell', { name: 'A1' })).toBeVisible()
  await expect(page.getByLabel('Lot')).toBeFocused()
})

test('2 a machine that was refused is completed and saved; the complaint sits on its field', async () => {
  await page.goto('/kit/machines/new')
  const fill = (label: string, text: string) => page.getByLabel(label, { exact: true }).first().fill(text)
  await fill('Name', 'Second')
  for (const [label, text] of [
    ['Plate widthmm', '120'],
    ['Plate depthmm', '67,5'],
    ['Height it printsmm', '150'],
    ['Pixels along the width', '3840'],
    ['Pixels along the depth', '2160'],
    ['Power while printingW', '40'],
  ] as const)
    await fill(label, text)
  await press('Save the machine')
  const complaint = page.getByRole('alert').filter({ hasText: 'Lift, first stage' })
  await expect(complaint.first()).toBeVisible()
  await expect(page.getByLabel('Lift, first stagemm')).toBeFocused()
  await fill('Lift, first stagemm', '6')
  await page.getByLabel('atmm/min', { exact: true }).nth(0).fill('60')
  await fill('Retract, firstmm', '6')
  await page.getByLabel('atmm/min', { exact: true }).nth(2).fill('150')
  await fill('List price', '100')
  await fill('Discount and coupon', '200')
  await press('Save the machine')
  await expect(page.getByRole('alert').filter({ hasText: 'take off 200' }).first()).toBeVisible()
  await fill('Discount and coupon', '20')
  await press('Save the machine')
  await expect(page.getByRole('cell', { name: /Second/ })).toHaveCount(1)
  await expect(page.getByRole('link', { name: 'Enter a machine' })).toBeFocused()
})

test('3 a copy is moved by keys in quick succession: the focus stays, each step counts', async () => {
  await page.goto('/plan')
  await page.getByRole('link', { name: /Eight towers/ }).click()
  const copy = page.getByRole('button', { name: /^Tower 1, at / })
  await copy.focus()
  const before = await copy.getAttribute('aria-label')
  expect(before).toContain('at 20 and 25 mm')
  for (let i = 0; i < 8; i++) await page.keyboard.press('ArrowRight')
  await page.keyboard.press('ArrowUp')
  await expect(copy).toHaveAttribute('aria-label', /at 24 and 25.5 mm/)
  await expect(copy).toBeFocused()
  await expect
    .poll(async () => {
      const [row] = (await (await page.request.get('/api/v1/plates')).json()) as { plate: { id: string } }[]
      const sheet = (await (await page.request.get(`/api/v1/plates/${row?.plate.id}`)).json()) as {
        placed: { placement: { x_mm: number; y_mm: number } }[]
      }
      return [sheet.placed[0]?.placement.x_mm, sheet.placed[0]?.placement.y_mm]
    })
    .toEqual([24, 25.5])
  await expect(copy).toBeFocused()
  await expect(page.getByRole('alert')).toHaveCount(0)
  // Typing in a field is no key of the plate.
  await page.getByLabel('Across mm').fill('20')
  await page.keyboard.press('r')
  await expect(copy).toHaveAttribute('aria-label', /turned 0°/)
})

test('4 two judge the same plate: neither undoes the other, nothing entered is lost', async () => {
  await page.goto('/plan')
  await page.getByRole('link', { name: /Eight towers/ }).click()
  await page.getByRole('link', { name: 'Prepare the print' }).click()
  await press('Prepare it')
  await expect(page.getByRole('heading', { level: 1, name: /^R-001/ })).toBeVisible()
  const id = page.url().split('/').pop() ?? ''
  const sheet = async () => (await (await page.request.get(`/api/v1/runs/${id}`)).json()) as Sheet
  await page.getByLabel('S-001-01, outcome').selectOption('lost')
  await page.getByLabel('S-001-01, symptom').selectOption('void')
  // Another window judges the second and the first.
  const [first, second] = (await sheet()).specimens
  const judge = (s: Specimen | undefined, outcome: string) =>
    page.request.put(`/api/v1/runs/${id}/outcomes`, {
      data: [{ ...s, outcome, defects: [{ symptom: 'warp', origin: 'printed', fault: 'resin' }] }],
    })
  expect((await judge(second, 'lost')).ok()).toBe(true)
  await expect(page.getByLabel('S-001-02, outcome')).toHaveValue('lost')
  await expect(page.getByLabel('S-001-01, symptom')).toHaveValue('void')
  expect((await judge(first, 'micro_defect')).ok()).toBe(true)
  expect((await judge(first, 'whole')).status()).toBe(409)
  await press('Keep these outcomes')
  await expect(page.getByRole('alert')).toContainText('S-001-01 is now micro defect warp')
  await expect(page.getByLabel('S-001-01, symptom')).toHaveValue('void')
  await press('Keep these outcomes')
  await expect(page.getByRole('button', { name: 'Keep these outcomes' })).toBeHidden()
  // The rest is whole; the losses stay.
  await page.getByRole('heading', { level: 1 }).click()
  await page.keyboard.press('w')
  await expect(page.getByLabel('S-001-08, outcome')).toHaveValue('whole')
  const after = await sheet()
  expect(after.specimens.slice(0, 3).map((s) => s.outcome)).toEqual(['lost', 'lost', 'whole'])
})

test('5 single keys are switched off, and stay off', async () => {
  await page.goto('/')
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
  await page.keyboard.press('?')
  await page.getByRole('checkbox', { name: /Single keys act/ }).uncheck()
  await page.keyboard.press('Escape')
  await page.keyboard.press('/')
  await page.keyboard.press('?')
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await page.reload()
  await page.keyboard.press('g')
  await page.keyboard.press('k')
  await expect(page.getByRole('heading', { level: 1, name: 'Bench' })).toBeVisible()
  await press('Keys')
  await page.getByRole('checkbox', { name: /Single keys act/ }).check()
  await page.keyboard.press('Escape')
  await page.keyboard.press('g')
  await page.keyboard.press('k')
  await expect(page.getByRole('heading', { level: 1, name: 'Kit' })).toBeVisible()
})

test('6 a stream that comes back has the page read anew', async ({ browser }) => {
  const other = await browser.newPage({ baseURL: base })
  // A stream that hears nothing, as between two connections.
  await other.addInitScript(() => {
    class Deaf extends EventTarget {
      constructor() {
        super()
        ;(window as unknown as { deaf: EventTarget }).deaf = this
      }
      close() {}
    }
    ;(window as unknown as { EventSource: unknown }).EventSource = Deaf
  })
  await other.goto('/kit?tab=instruments')
  await expect(other.getByRole('cell', { name: 'Caliper' })).toBeVisible()
  const made = await other.request.post('/api/v1/instruments', {
    data: { name: 'Micrometer', resolution_mm: 0.001, reference_u_mm: 0.002 },
  })
  expect(made.ok()).toBe(true)
  await other.evaluate(() => {
    const { deaf } = window as unknown as { deaf: EventTarget }
    deaf.dispatchEvent(new Event('error'))
    deaf.dispatchEvent(new Event('open'))
  })
  await expect(other.getByRole('cell', { name: 'Micrometer' })).toBeVisible()
  await other.close()
})

test('7 a page that breaks keeps the way to the others; a record that is only looked at says so', async ({
  browser,
}) => {
  const other = await browser.newPage({ baseURL: base })
  await other.route(/FailuresPage.*\.js/, (r) => r.abort())
  await other.route('**/api/v1/program', (r) => r.fulfill({ json: { version: '1.0.0', read_only: true } }))
  await other.goto('/failures')
  await expect(other.getByRole('heading', { name: 'This page broke' })).toBeVisible()
  await expect(other.getByRole('status')).toContainText('nothing can be changed')
  await other.getByRole('link', { name: 'Kit', exact: true }).click()
  await expect(other.getByRole('heading', { level: 1, name: 'Kit' })).toBeVisible()
  await other.close()
})

test('8 a print that was stopped gives no time; times are typed as people write them', async () => {
  await page.goto('/runs/new')
  await page.getByLabel('Machine').selectOption({ label: 'M1 Ossik 7' })
  await page.getByLabel('Piece', { exact: true }).selectOption({ label: 'Tower' })
  await page.getByLabel('Copies', { exact: true }).fill('1')
  await page.getByLabel('Resin', { exact: true }).selectOption({ label: 'Plain Grey' })
  await page.getByLabel('Settings').selectOption({ index: 1 })
  await page.getByLabel('Started', { exact: true }).fill('2026-10-02T09:00')
  await page.getByLabel('Ended', { exact: true }).fill('2026-10-02T09:35')
  await page.getByLabel('How it ended').selectOption('stopped')
  const estimate = page.getByLabel("Software's own estimate", { exact: true })
  await estimate.fill('soon')
  await expect(page.getByText('write it as 1h50, 3 min or 180 s')).toBeVisible()
  await estimate.fill('1h50')
  await expect(page.getByText('reads as 1 h 50 min')).toBeVisible()
  await press('Record this print')
  await press('None of these is known')
  await press('Record this print')
  await expect(page.getByRole('heading', { level: 1, name: /^R-002: 1 × Tower/ })).toBeVisible()
  await expect(page.getByText('it was stopped before its end')).toBeVisible()
  await expect(page.getByText('1 h 50 min').first()).toBeVisible()
  await page.getByRole('link', { name: 'Change what is known' }).click()
  await expect(page.getByLabel('How it ended')).toHaveValue('stopped')
  await expect(estimate).toHaveValue('1 h 50 min')
  await page.getByLabel('How it ended').selectOption('finished')
  await press('Save what is known')
  // A time that is hard to believe is asked about once.
  await expect(page.getByRole('alert')).toContainText('Is this right?')
  await press('It is right: keep it')
  // The question names the time too: what was kept stands on the page of the print.
  await expect(page).toHaveURL(/\/runs\/[^/]+$/)
  await expect(page.getByText('35 min').first()).toBeVisible()
  await page.goto('/runs')
  await expect(page.getByRole('row', { name: /R-002/ })).toContainText('35 min')
})
