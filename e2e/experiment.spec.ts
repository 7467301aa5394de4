import { expect, test, type Page } from './clock'
import { bench, printTheRest } from './bench'

// Six motions of one machine on one piece: from the question over the levels, the drawn plan and its prints to the comparison.
const base = 'http://127.0.0.1:8479'
test.use({ baseURL: base })
test.describe.configure({ mode: 'serial' })

let page: Page
test.beforeAll(async ({ browser }) => {
  page = await browser.newPage({ baseURL: base })
  await bench(page.request, base)
})
test.afterAll(() => page.close())

const press = (name: string | RegExp) => page.getByRole('button', { name }).click()
const open = (name: string | RegExp) => page.getByRole('link', { name }).first().click()
const drawn = () => page.getByLabel('The plan as drawn')

/** A level, typed as people type it and added by the Enter key. */
async function level(of: string, text: string) {
  const field = page.getByLabel(`Another level of ${of}`)
  await field.fill(text)
  await field.press('Enter')
}

test('the question names what varies, and the matrix leads to the plan', async () => {
  await page.goto('/verdict/new')
  await page.getByLabel('Question').fill('Which lift and rest for towers?')
  for (const member of ['Ossik 7', 'Plain Grey', 'Tower']) await page.getByRole('checkbox', { name: member }).check()
  await page.getByText('Under test: nothing chosen').click()
  await page.getByRole('checkbox', { name: 'motion', exact: true }).check()
  await press('Save the review')
  await expect(page).not.toHaveURL(/new$/)
  // A plate of the same piece was laid before: it is planned already.
  await expect(page.getByLabel('What was put to the test').getByRole('row')).toHaveCount(2)
  await open('Plan what is missing')
  await expect(page.getByRole('heading', { name: /^Plan the prints of/ })).toBeVisible()
})

test('levels are typed as people write them; what cannot be read is named', async () => {
  await level('lift', '4 at 60')
  await level('lift', 'quickly')
  await level('rest after lift', '2,5')
  await page.getByLabel('Prints of each combination').fill('1')
  await page.getByLabel('Copies of each piece on a plate').fill('2')
  await press('Draw the order')
  await expect(page.getByRole('alert')).toContainText('"quickly" is no lift; write each stage as 3 mm at 40 mm/min')
  await page.getByRole('checkbox', { name: 'quickly' }).uncheck()
  // What was typed stays over a reload.
  await page.reload()
  await expect(page.getByRole('checkbox', { name: '4 at 60' })).toBeChecked()
  await level('lift', '8 mm at 60 mm/min')
  await press('Draw the order')
  const rows = drawn()
    .getByRole('table', { name: /^Combinations/ })
    .getByRole('row')
  await expect(rows).toHaveCount(7)
  await expect(rows.filter({ hasText: '1 planned before' })).toHaveCount(1)
  await expect(rows.filter({ hasText: '1 to print' })).toHaveCount(5)
  await expect(
    rows.filter({ has: page.getByRole('checkbox', { name: 'Plan 8 mm at 60 mm/min, 2.5 s' }) }),
  ).toContainText('new, from U-01')
  await expect(drawn()).toContainText('These prints tell the effects of lift and rest after lift, each by itself.')
  await expect(drawn()).toContainText('can show no difference in failures, whatever comes out')
  await expect(drawn().getByRole('table', { name: 'The order on each machine' }).getByRole('row')).toHaveCount(6)
})

test('a combination can be left unplanned; the plan that was seen is the one that is kept', async () => {
  const order = drawn().getByRole('table', { name: 'The order on each machine' })
  const slow = page.getByRole('checkbox', { name: 'Plan 4 mm at 60 mm/min, 0 s' })
  await slow.click()
  await expect(order.getByRole('row')).toHaveCount(5)
  await slow.click()
  await expect(order.getByRole('row')).toHaveCount(6)
  const first = await order.getByRole('row').nth(1).textContent()
  await press('Keep this plan: 5 plates, 5 new settings')
  const planned = page.getByLabel('Planned', { exact: true })
  await expect(planned.getByRole('heading', { level: 2 })).toHaveText('Planned: 5 prints left')
  const kept = planned.getByRole('row').nth(1)
  expect(first).toContain((await kept.getByRole('link').textContent())!.replace(/^T-\d+ /, ''))
  await page.getByText('What was said when it was drawn').click()
  await expect(planned).toContainText('The order was drawn with the seed')
})

test('what decides is declared before anything is printed, and a set-up is called by its name', async () => {
  await page.goto('/verdict')
  await open(/Which lift and rest/)
  const deciding = page.getByLabel('What decides', { exact: true })
  await expect(deciding).toContainText('One measure may be declared before its figures are opened')
  await deciding.getByLabel('Measure').selectOption('Time of a plate')
  await press('Declare it')
  await expect(deciding).toContainText(
    /with 0 prints of it on record, time of a plate was declared to decide, for all set-ups against Ossik 7/,
  )
  await page.getByText('name and order them').click()
  const names = page.getByLabel('Set-ups', { exact: true })
  const last = names.getByRole('textbox').last()
  await last.fill('The gentle one')
  await last.press('Enter')
  await expect(names).toContainText('Saved')
  await names
    .getByRole('button', { name: /^Move .* up$/ })
    .last()
    .click()
  await press('Save names and order')
  await expect(page.getByLabel('Against')).toContainText(/The gentle one.*Ossik 7/)
  await expect(names.getByRole('textbox').nth(3)).toHaveValue('The gentle one')
})

test('the bench says whose turn it is, and the plate that it opens is printed', async () => {
  await page.goto('/')
  const next = page.getByRole('link', { name: /^Print T-02 on Ossik 7/ })
  await expect(next).toBeVisible()
  await expect(page.getByText(/it is its turn in the plan of Q1, 5 prints left/)).toBeVisible()
  await expect(page.getByRole('link', { name: /^Planned: T-0/ })).toHaveCount(6)
  await next.click()
  await expect(page.getByText('Print 1 of its machine in the drawn order')).toBeVisible()
  // How it is to be treated stands on its sheet, and the print takes it over.
  const settings = page.getByText('Vat, bottle and software')
  if (await settings.isVisible()) await settings.click()
  await page.getByLabel('Orientation').fill('leaning back 30°')
  await page.getByLabel('To be washed').fill('150 s')
  await press('Work it out again')
  await open('Plate sheet')
  await expect(page.getByText(/As planned: orientation leaning back 30°; wash 2 min 30 s/)).toBeVisible()
  await open('Back to the plate')
  await open('Record it afterwards')
  await press('Record this print')
  await press('None of these is known')
  await press('Record this print')
  await expect(page.getByRole('heading', { level: 1, name: /^R-001: 2 × Tower/ })).toBeVisible()
  await page.goto('/verdict')
  await open(/Which lift and rest/)
  await open('Plan what is missing')
  const planned = page.getByLabel('Planned', { exact: true })
  await expect(planned.getByRole('row').nth(1)).toContainText(/(under way|printed) as R-001/)
  await expect(planned.getByRole('heading', { level: 2 })).toHaveText('Planned: 4 prints left')
})

test('what was printed is compared: six sides, and the write-up says how they were planned', async () => {
  await printTheRest(page.request)
  await page.goto('/verdict')
  await open(/Which lift and rest/)
  const tested = page.getByLabel('What was put to the test')
  await expect(tested).toContainText('These prints tell the effects of lift and rest after lift, each by itself.')
  await expect(tested.getByRole('row')).toHaveCount(7)
  await expect(page.getByLabel('The write-up as Markdown')).toContainText('How the prints were planned')
  await page.getByRole('link', { name: 'Compare', exact: true }).last().click()
  await page.getByLabel('Question').selectOption('time')
  await expect(page.getByText('6 of 6 set-ups as sides')).toBeVisible()
  const figures = page.getByLabel('Figures')
  await expect(figures).toContainText(/The lift accounts for/)
  await expect(figures).toContainText('So few prints give no p')
  await expect(page.getByLabel('What decides')).toContainText('with 0 prints of it on record')
  await figures.getByText('show the figures all the same').click()
  await figures.getByText('Estimates, treatment, accidents, cost and sizes of each side').click()
  await expect(figures).toContainText(/[A-F]: The gentle one/)
})

test('a plan that is not wanted is withdrawn with its reason', async () => {
  await page.goto('/verdict')
  await open(/Which lift and rest/)
  await open('Plan what is missing')
  await page.getByLabel('Prints of each combination').fill('2')
  await page.getByLabel('Only the combinations').uncheck()
  await press('Draw the order')
  await press(/^Keep this plan: 6 plates/)
  const planned = page.getByLabel('Planned', { exact: true })
  await expect(planned.getByRole('heading', { level: 2 })).toHaveText('Planned: 6 prints left')
  await page.getByText('Withdraw what is left').click()
  await expect(page.getByRole('button', { name: 'Withdraw 6 prints' })).toBeDisabled()
  await page.getByLabel('Why these prints are not made').fill('The machine went back.')
  await page.getByLabel('Why these prints are not made').press('Enter')
  await expect(planned.getByRole('heading', { level: 2 })).toHaveText('Planned: nothing is left to print')
  await page.goto('/plan')
  await page.getByText('Withdrawn plates').click()
  await open(/lift 8 mm/)
})
