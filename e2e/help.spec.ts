import { expect, test } from './clock'
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

test('an empty bench offers a question, a machine, a record and the demo', async ({ page }) => {
  await page.goto('http://127.0.0.1:8496/')
  for (const way of ['State your question', 'Enter a machine'])
    await expect(page.getByRole('link', { name: way })).toBeVisible()
  await expect(page.getByLabel('Import a record into an empty one')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Make the demo' })).toBeEnabled()
  await expect(page.getByText('nothing of it comes here')).toBeVisible()
  expect(await axeFinds(page)).toEqual([])
})
