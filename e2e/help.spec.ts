import { expect, test } from '@playwright/test'
import { axeFinds } from './axe'

// The help, in the demo record; and a first start, on an empty one.
test.use({ baseURL: 'http://127.0.0.1:8473' })

test('the help is searched, tells the job, and says how a figure is computed from where it stands', async ({
  page,
}) => {
  await page.goto('/compare')
  await page.getByRole('link', { name: 'Help', exact: true }).click()
  await page.getByText('What was found, and for whom').click()
  const job = page.getByRole('region', { name: 'The whole job, on the demo' })
  await expect(job).toContainText('nobody wins where the odds are below four in five')
  await page.getByText('The exposure', { exact: true }).click()
  await job.getByRole('link', { name: 'Dial-in' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Dial-in')

  await page.goBack()
  await page.getByLabel('Find in the help').fill('Wilson 1927')
  const found = page.getByRole('region', { name: 'Computations' })
  await expect(found).toContainText("Rate is events/trials with Wilson's interval (1927)")
  await page.getByLabel('Find in the help').fill('quibblewort')
  await expect(page.getByText('Nothing says “quibblewort”')).toBeVisible()
  expect(await axeFinds(page)).toEqual([])

  await page.goto('/verdict')
  await page.getByRole('link', { name: /Panel or projector for bars and spines/ }).click()
  await page.getByRole('link', { name: 'Compare', exact: true }).last().click()
  await page.getByRole('link', { name: /^How is this computed\? How fair it is/ }).click()
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('How fair a comparison is')
  await expect(page.getByText('audit.Compare', { exact: true })).toBeVisible()
  expect(await axeFinds(page)).toEqual([])
})

test('an empty bench makes the demo beside the record, and nothing of it comes there', async ({ page }) => {
  await page.goto('http://127.0.0.1:8496/')
  await page.getByRole('button', { name: 'Make the demo' }).click()
  await expect(page.getByRole('link', { name: 'Open the demo' })).toBeVisible({ timeout: 180_000 })
  const [demo] = await Promise.all([
    page.context().waitForEvent('page'),
    page.getByRole('link', { name: 'Open the demo' }).click(),
  ])
  await expect(demo.getByRole('link', { name: /Harrow 6/ }).first()).toBeVisible()
  await demo.close()
  expect(await (await page.request.get('http://127.0.0.1:8496/api/v1/machines')).json()).toEqual([])
})
