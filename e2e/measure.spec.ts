import { expect, test } from '@playwright/test'

// What measuring itself can be relied on for, from an empty record.
test.use({ baseURL: 'http://127.0.0.1:8480' })
test.describe.configure({ mode: 'serial' })

test('an instrument is entered, checked and studied: what share is the measuring', async ({ page }) => {
  await page.goto('/kit?tab=instruments')
  await expect(page.getByText('None yet. A caliper is enough to begin.')).toBeVisible()
  const fresh = page.getByRole('form', { name: 'A new instrument' })
  await fresh.getByLabel('Name').fill('Steel caliper')
  await fresh.getByRole('button', { name: 'Add this instrument' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('I1 Steel caliper')
  await expect(page.getByText('Never checked: nothing is known')).toBeVisible()

  const check = page.getByRole('form', { name: 'A check' })
  await check.getByLabel('Against').fill('gauge block')
  await check.getByLabel('It is').fill('10')
  await check.getByLabel('The instrument shows').fill('10,01')
  await check.getByLabel('It may be off by').fill('0.02')
  await check.getByRole('button', { name: 'Keep this check' }).click()
  await expect(page.getByRole('row', { name: /gauge block 10 10\.01 0\.02 good/ })).toBeVisible()

  const study = page.getByRole('form', { name: 'A new study' })
  await study.getByLabel('What is measured').fill('width')
  await study.getByLabel('Rounds').selectOption('2')
  await study.getByLabel('Parts, by comma or line').fill('a, b, c')
  await study.getByLabel('Who measures').fill('Marn')
  await study.getByRole('button', { name: 'Draw the order and begin: 6 readings' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Study G1: width')
  await expect(page.getByText(/order drawn from seed \d+/)).toBeVisible()

  // Digits and Enter alone; a slip is asked about, and the last reading is taken back.
  const sizes: Record<string, string[]> = { a: ['10,00', '10,01'], b: ['10,20', '10,20'], c: ['10,40', '10,39'] }
  const turn = page.getByRole('heading', { level: 2, name: /Marn measures/ })
  for (let n = 1; n <= 6; n++) {
    await expect(page.getByText(`Reading ${n} of 6`)).toBeVisible()
    const part = (await turn.textContent())!.trim().slice(-1)
    if (n === 4) {
      await page.keyboard.type('101')
      await page.keyboard.press('Enter')
      await expect(page.getByRole('alert')).toContainText('before? Enter again keeps it, or type anew.')
      await page.keyboard.press('Enter')
      await expect(page.getByText('Reading 5 of 6')).toBeVisible()
      await page.getByRole('button', { name: 'Take the last reading back' }).click()
      await expect(page.getByText('Reading 4 of 6')).toBeVisible()
      await expect(turn).toContainText(part)
    }
    await page.keyboard.type(sizes[part]!.shift()!)
    await page.keyboard.press('Enter')
  }
  await expect(
    page.getByText(/Two readings of one part by one hand differ by more than [\d.]+ µm in 1 of 20/),
  ).toBeVisible()
  await expect(page.getByText(/of the spread is the measuring/).last()).toBeVisible()
  await expect(page.getByRole('row', { name: /The parts themselves/ })).toContainText('µm')
  await page.getByText('6 readings in their order').click()
  await expect(page.getByRole('row')).toHaveCount(4 + 1 + 6)

  // A check that fails puts what follows the last good one in doubt, until it is taken back.
  await page.getByRole('link', { name: 'Back to Steel caliper' }).click()
  await check.getByLabel('The instrument shows').fill('10.05')
  await check.getByRole('button', { name: 'Keep this check' }).click()
  await expect(page.getByRole('alert')).toContainText('showed 10.05 for 10 mm, which is beyond its tolerance of 0.02')
  await page.goto('/kit?tab=instruments')
  await expect(page.getByRole('row', { name: /Steel caliper/ })).toContainText(/out of tolerance.*[\d.]+ µm/)
  await page.getByRole('link', { name: 'Steel caliper' }).click()
  await page
    .getByRole('button', { name: /^Take back the check/ })
    .first()
    .click()
  await page.getByLabel('Why it is taken back').fill('dirt under the block')
  await page.getByRole('button', { name: 'Take it back' }).click()
  await expect(page.getByRole('alert')).toHaveCount(0)
  await expect(page.getByRole('row', { name: /10\.05/ })).toContainText('taken back: dirt under the block')
})
