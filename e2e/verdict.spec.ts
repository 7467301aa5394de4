import { expect, test, type Page } from './clock'
import { readFileSync } from 'node:fs'
import { axeFinds } from './axe'

// The road from what was measured to the reader, in the demo record.
const base = 'http://127.0.0.1:8494'
test.use({ baseURL: base })
test.describe.configure({ mode: 'serial' })

async function review(page: Page) {
  await page.goto('/verdict')
  await page.getByRole('link', { name: /Panel or projector for bars and spines/ }).click()
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Panel or projector')
}

test('findings are picked, put in words and in order, and stand in the write-up', async ({ page }) => {
  await review(page)
  await page.getByRole('link', { name: 'Pick and order findings' }).click()
  const published = page.getByRole('region', { name: 'Published findings' })
  const offered = page.getByRole('region', { name: 'Offered findings' })
  await expect(published.getByText('showed', { exact: true }).first()).toBeVisible()

  // What is offered says why it is graded so, on what it was found, and which prints it rests on.
  await offered.getByLabel('Only rows with').fill('plinth length')
  const row = offered.getByRole('listitem').filter({ hasText: 'further from nominal' })
  await row.locator('summary').click()
  await expect(row).toContainText('something beside what is under test differs, too')
  await expect(row.getByRole('link', { name: /^R-\d+$/ }).first()).toBeVisible()
  await row.getByRole('button', { name: /^Publish/ }).click()
  const last = published.getByRole('listitem').filter({ hasText: 'plinth length' })
  await expect(last).toContainText('suggests')

  // It goes first, in the reviewer's words; what the record says stays behind it.
  for (let place = 5; place > 1; place--) {
    await last.getByRole('button', { name: /up$/ }).click()
    await expect(last.locator('.num').first()).toHaveText(String(place - 1))
  }
  await last.getByRole('button', { name: /^Reword/ }).click()
  await last
    .getByLabel('In your words')
    .fill('The plinth came out shorter in the tough resin, a tenth of a millimetre or less.')
  await last.getByRole('button', { name: 'Keep these words' }).click()
  const first = published.getByRole('listitem').first()
  await expect(first).toContainText('The plinth came out shorter')
  await expect(first).toContainText('As the record has it: Spined wyrm, plinth length')

  await page.getByLabel(/Something no row says/).fill('The tough resin smells more.')
  await page.getByRole('button', { name: 'Add it' }).click()
  const smell = published.getByRole('listitem').filter({ hasText: 'smells more' })
  await expect(smell).toContainText('rests on no figure')
  await smell.getByRole('button', { name: /^Take back/ }).click()
  await smell.getByLabel('Why it is taken back').fill('nobody else smelled it')
  await smell.getByRole('button', { name: 'Take it back' }).click()
  await expect(smell).toHaveCount(0)
  expect(await axeFinds(page)).toEqual([])

  // The row leads to the figures it came from.
  await first.locator('summary').click()
  await first.getByRole('link', { name: 'Open the comparison for dimension' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Compare' })).toBeVisible()
  await page.goBack()
  await page.getByRole('link', { name: /Panel or projector/ }).click()
  const found = page.getByRole('region', { name: 'Findings' })
  await expect(found.getByRole('listitem').first()).toContainText('The plinth came out shorter')
  await expect(page.getByLabel('The write-up as Markdown')).toContainText('- The plinth came out shorter')
  await page.getByRole('link', { name: 'Put it in order and take it along' }).click()
  const [table] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'findings.csv' }).click(),
  ])
  expect(readFileSync(await table.path(), 'utf8')).toContain('The plinth came out shorter')
})

test('claims are written down, held against the record and judged; the disclosure writes itself', async ({ page }) => {
  await review(page)
  await page.getByRole('link', { name: 'Open the ledger of claims' }).click()
  await page.getByRole('button', { name: 'Write a claim down' }).click()
  const form = page.getByRole('form', { name: 'A claim' })
  await form.getByLabel('In their words').fill('Almost three times the pixels.')
  await form.getByLabel('Of what', { exact: true }).selectOption('Dunnock 5')
  await form.getByLabel('Where it stands').fill('a leaflet')
  await form.getByLabel('What kind of claim').selectOption('so many times another machine')
  await form.getByLabel(/^The number/).fill('2,85')
  await form.getByRole('button', { name: 'Keep the claim' }).click()
  await expect(form.getByRole('alert').first()).toContainText('Against which machine')
  await form.getByLabel('Against which machine').selectOption('Wheatear P')
  await form.getByRole('button', { name: 'Keep the claim' }).click()
  const row = page.getByRole('listitem').filter({ hasText: 'Almost three times the pixels' })
  await expect(row).toContainText('partly: 2.85 times is the pixel count; by what is on record')

  // One that stands with the resin is judged, and needs a reason.
  await page.getByRole('button', { name: 'Judge: No smell.' }).click()
  const judged = page.getByRole('form', { name: 'A claim' })
  await judged.getByLabel('What became of it').selectOption('not met')
  await judged.getByRole('button', { name: 'Keep the claim' }).click()
  await expect(judged.getByRole('alert').first()).toContainText('Why')
  await judged.getByLabel('Why', { exact: true }).fill('Two of two who came in smelled it.')
  await judged.getByRole('button', { name: 'Keep the claim' }).click()
  await expect(page.getByRole('listitem').filter({ hasText: 'No smell.' })).toContainText(
    'not met as you judged: Two of two',
  )
  expect(await axeFinds(page)).toEqual([])
  await page.goBack()

  const disclosure = page.getByRole('region', { name: 'Disclosure' })
  await expect(disclosure).toContainText('how 2 things came is not on record: Cage lantern and Spined wyrm')
  await disclosure.locator('summary').first().click()
  await disclosure.locator('summary').filter({ hasText: 'Spined wyrm (piece)' }).click()
  await disclosure.getByLabel('How it came, or what ties you').selectOption('own work')
  await disclosure.getByRole('button', { name: 'Note it' }).click()
  await expect(disclosure).toContainText('how 1 thing came is not on record: Cage lantern')
  await expect(page.getByLabel('The write-up as Markdown')).toContainText(
    "Spined wyrm (piece): the reviewer's own work.",
  )
  await expect(page.getByLabel('The write-up as Markdown')).toContainText(
    'not met, as judged | Two of two who came in smelled it.',
  )
})

test('a reader is weighed for; weights, anchors and must-haves turn the answer', async ({ page }) => {
  await review(page)
  const whom = page.getByRole('region', { name: 'For whom' })
  await expect(whom).toContainText('An army by the dozen: Nobody wins on these data.')
  await whom.getByRole('link', { name: 'Readers, weights and what turns it' }).click()
  await page.getByRole('button', { name: 'Add A first printer' }).click()
  const first = page.getByRole('region', { name: 'A first printer', exact: true })
  await expect(first).toContainText('Smell is left out: ')
  await expect(first.getByRole('img', { name: /^Scores for A first printer/ })).toBeVisible()

  // Crispness alone, and a must-have that one machine breaks.
  await first.getByRole('button', { name: 'Change A first printer' }).click()
  const form = first.getByRole('form')
  await form.getByLabel('Who', { exact: true }).fill('Who cares for edges')
  for (let left = 5; left > 1; left--) await form.getByRole('button', { name: 'Remove criterion 1' }).click()
  await form.getByLabel('Measured as').first().selectOption({ label: 'Crispness of edges, in hand, raw (of 0 to 4)' })
  await form.getByLabel('Criterion', { exact: true }).fill('Edges')
  await form.getByLabel('Weight', { exact: true }).fill('1')
  await form.getByLabel(/^Worst/).fill('0')
  await form.getByLabel(/^Best/).fill('0')
  await form.getByRole('button', { name: 'Keep this reader' }).click()
  await expect(form.getByRole('alert').first()).toContainText('is 0, as is worst')
  await form.getByLabel(/^Best/).fill('4')
  await form.getByLabel('Is', { exact: true }).selectOption('at most')
  await form.getByRole('button', { name: 'Remove must-have 1' }).click()
  await form.getByRole('button', { name: 'Add a must-have' }).click()
  await form.getByLabel('Measured as').last().selectOption({ label: 'Price of the machine, equipped alike (€)' })
  await form.getByLabel('Must-have', { exact: true }).fill('Price')
  await form.getByLabel(/^Value/).fill('450')
  await form.getByRole('button', { name: 'Keep this reader' }).click()
  const edges = page.getByRole('region', { name: 'Who cares for edges' })
  await expect(edges).toContainText('Wheatear P with Heron Blue is out: Price, at most 450 €: 524 €.')
  await expect(edges).toContainText('Dunnock 5 with Madder Tough')
  await edges.getByText('How the scores run with a weight').click()
  expect(await axeFinds(page)).toEqual([])
  await page.goBack()
  await expect(page.getByLabel('The write-up as Markdown')).toContainText('### Who cares for edges')
})

test('prices have a day; equipment makes machines alike; an offer changes what rests on it', async ({ page }) => {
  await review(page)
  const short = page.getByRole('region', { name: 'Money' })
  await expect(short).toContainText('Dunnock 5: 413 €')
  await short.getByRole('link').click()
  const alike = page.getByRole('region', { name: 'Equipped alike' })
  await expect(alike.getByRole('row', { name: /^Equipped alike/ })).toContainText('524 €')

  // An item whose price nobody knows: there is no total any more, and nothing counts it as nothing.
  await alike.getByLabel('Item', { exact: true }).fill('Heater')
  await alike.getByRole('combobox', { name: 'Of', exact: true }).selectOption('Wheatear P')
  await alike.getByRole('button', { name: 'Note the item' }).click()
  await expect(alike.getByRole('row', { name: /^Equipped alike/ })).toContainText('at least 524 €; not known: Heater')
  await expect(page.getByRole('region', { name: 'What it comes to' })).toContainText('Not worked out for Wheatear P')
  await alike.getByLabel(/^For/).fill('31')
  await alike.getByRole('button', { name: 'Note the item' }).click()
  await expect(alike.getByRole('row', { name: /^Equipped alike/ })).toContainText('555 €')

  const form = page.getByRole('form', { name: 'A price' })
  await form.getByLabel('Machine').selectOption('Wheatear P')
  await form.getByLabel('What price').selectOption('offer')
  await form.getByLabel(/^Amount/).fill('399')
  await form.getByLabel(/^Shipping/).fill('0')
  await form.getByRole('button', { name: 'Keep the price' }).click()
  await expect(form.getByRole('alert').first()).toContainText('Who asks it')
  await form.getByLabel('Who asks it').fill('a shop')
  await form.getByRole('button', { name: 'Keep the price' }).click()
  const comes = page.getByRole('region', { name: 'What it comes to' })
  await expect(comes).toContainText(/The price of Wheatear P changed: 399 € since .* 508 € before \(\d{4}-\d\d-\d\d\)/)
  await expect(comes).toContainText('Upgrading now costs 139 € more')

  const owned = page.getByRole('form', { name: 'How it is owned' })
  await owned.getByLabel('Good pieces a year').fill('1000')
  await owned.getByRole('button', { name: 'Remove way 1' }).click()
  await owned.getByRole('button', { name: 'Keep how it is owned' }).click()
  await expect(comes).toContainText('1 000 good pieces a year')
  await expect(comes).not.toContainText('Upgrading now costs')
  expect(await axeFinds(page)).toEqual([])
  await page.goBack()
  await expect(page.getByLabel('The write-up as Markdown')).toContainText('offer 399 €')
})

test('what is written is read over the shoulder, and its live figures follow the record', async ({ page }) => {
  await review(page)
  await page.getByText('Question, disclosure and verdict').click()
  await page
    .getByLabel('Verdict', { exact: true })
    .fill(
      'The Dunnock 5 never fails. It is crisper. The Heron 24 was worse than it: {{Step coupon.Dunnock 5 with Heron Blue.failures, all}} failed.',
    )
  await page.getByRole('button', { name: 'Save the review' }).click()
  const read = page.getByRole('region', { name: 'Read over your shoulder' })
  await expect(read).toContainText('places to look at again')
  await expect(read.locator('mark').filter({ hasText: 'never' })).toBeVisible()
  await expect(read).toContainText('Compared with nothing.')
  await expect(read).toContainText('Not in the record.')
  await expect(page.getByLabel('The write-up as Markdown')).toContainText(/was worse than it: [\d.]+ % failed\./)
  await read.getByText('Live figures').click()
  await read.getByLabel('Find a figure').fill('price equipped alike')
  await expect(read.getByRole('listitem').filter({ hasText: 'Wheatear P.price equipped alike' })).toBeVisible()
  expect(await axeFinds(page)).toEqual([])

  await page.getByText('Question, disclosure and verdict').click()
  await page.getByLabel('Verdict', { exact: true }).fill('Neither can be told from the other by these prints.')
  await page.getByRole('button', { name: 'Save the review' }).click()
  await expect(read).toContainText('nothing to question in what you wrote')
})

test('the write-up is a page of its own: without a script, on a phone, in the dark and on paper', async ({
  page,
  browser,
}) => {
  await review(page)
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Export HTML' }).click(),
  ])
  const path = await file.path()
  for (const [width, scheme] of [
    [1280, 'light'],
    [390, 'dark'],
  ] as const) {
    const context = await browser.newContext({
      viewport: { width, height: 800 },
      colorScheme: scheme,
      javaScriptEnabled: true,
      offline: true,
    })
    const reader = await context.newPage()
    const asked: string[] = []
    reader.on('request', (r) => asked.push(r.url()))
    await reader.setContent(readFileSync(path, 'utf8'), { waitUntil: 'load' })
    await expect(reader.getByRole('heading', { level: 1 })).toContainText('Panel or projector')
    await expect(reader.getByRole('heading', { name: 'For whom', exact: true })).toBeVisible()
    await expect(reader.getByRole('img', { name: /^Sides of Step coupon/ })).toBeVisible()
    expect(asked.filter((u) => !u.startsWith('data:'))).toEqual([])
    expect(await reader.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width)
    expect(await axeFinds(reader)).toEqual([])
    await context.close()
  }
})

test('a version that went out goes stale with a price, and is corrected by an erratum', async ({ page }) => {
  await review(page)
  const versions = page.getByRole('region', { name: 'Versions that went out' })
  await versions.getByRole('button', { name: /^Publish version/ }).click()
  const newest = versions.getByRole('listitem').filter({ hasText: 'Version 2,' })
  await expect(newest).toContainText('stands as it is')

  await page.getByRole('link', { name: 'Prices, equipment and ownership' }).click()
  const form = page.getByRole('form', { name: 'A price' })
  await form.getByLabel('Machine').selectOption('Wheatear P')
  await form.getByLabel(/^Amount/).fill('379')
  await form.getByLabel(/^Shipping/).fill('0')
  await form.getByLabel('Who asks it').fill('another shop')
  await form.getByRole('button', { name: 'Keep the price' }).click()
  await expect(page.getByRole('region', { name: 'Prices as they were asked' })).toContainText(
    'another shop (counts now)',
  )
  await page.goBack()
  await page.reload()
  await expect(newest).toContainText('stale: 1 figure would read otherwise')
  await expect(newest).toContainText('Since then on record: 1 price.')
  await newest.getByText('What would read otherwise now').click()
  await expect(newest).toContainText('Wheatear P.price equipped alike')

  await newest.getByRole('button', { name: 'Add an erratum to version 2' }).click()
  const erratum = page.getByRole('form', { name: 'An erratum to version 2' })
  await erratum.getByLabel('What was wrong, and what is right').fill('The projector costs 379 € now.')
  await erratum.getByLabel('How it came to light').fill('Another shop lowered it.')
  await erratum.getByRole('button', { name: 'Add it' }).click()
  await expect(versions.getByRole('list', { name: 'Errata of version 2' })).toContainText(
    'The projector costs 379 € now.',
  )
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    newest.getByRole('link', { name: 'Markdown' }).click(),
  ])
  const text = readFileSync(await file.path(), 'utf8')
  expect(text).toContain('Version 2 of ')
  expect(text).toMatch(/## Errata\n\n- .*The projector costs 379 € now\. Why: Another shop lowered it\./)
  expect(await axeFinds(page)).toEqual([])
})

test('a resin is asked for by day and source; taken on, its price goes into what prints cost and into the write-up', async ({
  page,
}) => {
  const resins = (await (await page.request.get('/api/v1/resins')).json()) as { resin: { id: string; name: string } }[]
  const tough = resins.find((r) => r.resin.name === 'Madder Tough')!.resin.id
  await page.goto(`/kit/resins/${tough}`)
  const asked = page.getByRole('region', { name: 'Prices of a bottle as they were asked' })
  await expect(asked).toContainText(
    /Costs are worked out from 41 . a bottle: list price 41 ., on 2026-08-03, the maker’s page\.|41 . a bottle/,
  )
  const form = asked.getByRole('form', { name: 'A price' })
  await form.getByLabel('Amount').fill('38,50')
  await form.getByLabel('Shipping').fill('0')
  await form.getByRole('button', { name: 'Keep the price' }).click()
  await expect(form.getByLabel('Who asks it')).toHaveAttribute('aria-invalid', 'true')
  await expect(form.getByLabel('Amount')).toHaveValue('38,50')
  await form.getByLabel('Who asks it').fill('the corner shop')
  await form.getByRole('button', { name: 'Keep the price' }).click()
  await expect(asked).toContainText(/Asked now: list price 38\.5 ., on \d{4}-\d{2}-\d{2}, the corner shop\./)
  await asked.getByRole('button', { name: /^Work costs out from list price 38\.5/ }).click()
  await expect(asked).toContainText(
    /Costs are worked out from 38\.5 . a bottle: list price 38\.5 ., on .*, the corner shop\./,
  )
  await expect(asked.getByText('Asked now:')).toHaveCount(0)
  await expect(page.getByLabel('Price of a bottle')).toHaveValue('38.5')
  await review(page)
  await expect(page.getByLabel('The write-up as Markdown')).toContainText(
    /Madder Tough: .*Costs are worked out from 38\.5 . a bottle: list price/,
  )
})
