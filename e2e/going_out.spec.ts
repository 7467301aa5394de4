import { expect, test, type Page } from './clock'
import { readFileSync } from 'node:fs'
import { axeFinds } from './axe'

// What goes out of a review of the demo record: in the reviewer's order, in every form, and opened by somebody else.
const base = 'http://127.0.0.1:8495'
const elsewhere = 'http://127.0.0.1:8472'
test.use({ baseURL: base })
test.describe.configure({ mode: 'serial' })

async function writeUp(page: Page) {
  await page.goto('/verdict')
  await page.getByRole('link', { name: /Panel or projector for bars and spines/ }).click()
  await page.getByRole('link', { name: 'Put it in order and take it along' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Write-up' })).toBeVisible()
}

async function save(page: Page, name: string) {
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name, exact: true }).click(),
  ])
  return await file.path()
}

test('parts are moved, left out and written between, by keyboard, with a photograph', async ({ page }) => {
  await writeUp(page)
  const parts = page.getByRole('region', { name: 'Parts of the write-up' }).getByRole('listitem')
  await expect(parts.first()).toContainText('The answer')
  await page.getByRole('button', { name: 'Move For whom up' }).press('Enter')
  await expect(parts.nth(1)).toContainText('For whom')
  await page.getByRole('checkbox', { name: 'Money stands in it' }).press('Space')
  await expect(page.getByRole('heading', { name: /1 part left out, which the write-up says/ })).toBeVisible()
  await page
    .getByRole('region', { name: 'Parts of each comparison' })
    .getByRole('button', { name: 'Move Photographs, side by side up' })
    .press('Enter')

  await page.getByRole('button', { name: 'Write something below What was found' }).press('Enter')
  const own = page.getByRole('form', { name: 'A part of your own' })
  await own.getByLabel(/^Heading/).fill('What I would print next')
  await own.getByLabel(/^Your words/).fill('Six more lanterns a side.')
  await own.getByText('Choose photographs').click()
  await own.getByLabel('Only those with').fill('loupe')
  await own.getByRole('button', { name: /H-005/ }).click()
  await own.getByLabel('What is to be seen on H-005').fill('The rim, at ten times')
  expect(await axeFinds(page)).toEqual([])
  await own.getByRole('button', { name: 'Put it there' }).click()
  await expect(own).toHaveCount(0) // it is kept
  await expect(parts.filter({ hasText: 'What I would print next' })).toContainText('with 1 picture')
  await page.reload()

  const text = readFileSync(await save(page, 'Export Markdown'), 'utf8')
  const chapters = [...text.matchAll(/^## (.*)$/gm)].map((m) => m[1])
  expect(chapters.slice(0, 2)).toEqual(['The answer', 'For whom'])
  expect(chapters[chapters.indexOf('What was found') + 1]).toBe('What I would print next')
  expect(chapters).not.toContain('Money')
  expect(text).toContain('though the record has something for them: Money.')
  expect(text).toContain('![The rim, at ten times (H-005 of ')
  expect(text).toMatch(/How sure: showed, the grade of the first finding/)

  // What says too much is read over the shoulder there, too.
  await page.getByRole('button', { name: 'Change What I would print next' }).click()
  const again = page.getByRole('form', { name: /^Your part What I would print next/ })
  await again.getByLabel(/^Your words/).fill('The panel never fails.')
  await again.getByRole('button', { name: 'Keep the change' }).click()
  await expect(again).toHaveCount(0)
  await page.getByRole('link', { name: /^Panel or projector/ }).click()
  await expect(page.getByRole('region', { name: 'Read over your shoulder' })).toContainText('never')
  await page.goBack()
  await page.getByRole('button', { name: 'Change What I would print next' }).click()
  await again.getByRole('button', { name: 'Take this part away' }).click()
  await expect(parts.filter({ hasText: 'What I would print next' })).toHaveCount(0)
  const kept = page.waitForResponse((r) => r.url().endsWith('/parts') && r.request().method() === 'PUT' && r.ok())
  await page.getByRole('checkbox', { name: 'Money stands in it' }).check()
  await kept
})

test('every form opens in a browser: page, settings, pictures; the script has its cues', async ({ page, browser }) => {
  await writeUp(page)
  const script = readFileSync(await save(page, 'Talking script'), 'utf8')
  expect(script).toContain('at 150 words a minute')
  expect(script).toContain('- How sure: ')
  const reader = await (await browser.newContext({ viewport: { width: 390, height: 800 } })).newPage()
  for (const path of ['write-up.html', 'settings-sheet.html']) {
    const at = page.url().replace('/verdict/', '/api/v1/reviews/').replace('write-up', path)
    const answer = await reader.goto(`${at}?show=true`)
    expect(answer?.headers()['content-disposition']).toContain('inline')
    await expect(reader.getByRole('heading', { level: 1 })).toContainText('Panel or projector')
    expect(await reader.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
    expect(await axeFinds(reader)).toEqual([])
    expect(
      await reader.evaluate(() => [...document.images].every((i) => i.complete && i.naturalWidth > 100)),
      `pictures of ${path}`,
    ).toBe(true)
  }
  await page.goto(page.url().replace('/write-up', '/findings'))
  for (const [shape, width, height] of [
    ['wide', 1200, 675],
    ['tall', 1080, 1350],
  ] as const) {
    const href = await page.getByRole('link', { name: `N-01 as a picture, ${shape}` }).getAttribute('href')
    const size = await page.evaluate(async (src) => {
      const picture = new Image()
      picture.src = src
      await picture.decode()
      return [picture.naturalWidth, picture.naturalHeight]
    }, href ?? '')
    expect(size).toEqual([width, height])
  }
  await reader.context().close()
})

test('a bundle opens beside another record, is computed anew and looked at, and changes nothing', async ({ page }) => {
  await writeUp(page)
  const bundle = await save(page, 'Bundle of all')
  await page.goto(`${elsewhere}/verdict`)
  await page.getByRole('link', { name: 'Open a bundle' }).click()
  await expect(page.getByText('No bundle is open')).toBeVisible()
  await page.getByLabel('A bundle (zip)').setInputFiles({
    name: 'not.zip',
    mimeType: 'application/zip',
    buffer: Buffer.from('no bundle'),
  })
  await expect(page.getByRole('alert')).toContainText('Nothing was opened')
  await page.getByLabel('A bundle (zip)').setInputFiles(bundle)
  const opened = page.getByRole('listitem', { name: /Panel or projector/ })
  await expect(opened).toContainText('every figure comes out as it was packed. So does every word of the text.')
  expect(await axeFinds(page)).toEqual([])

  const [look] = await Promise.all([
    page.context().waitForEvent('page'),
    opened.getByRole('link', { name: 'Look at its record' }).click(),
  ])
  await expect(look.getByText('This record is open to be looked at; nothing can be changed.')).toBeVisible()
  await expect(look.getByRole('region', { name: 'Findings' })).toContainText('preferred the bars of the masked panel')
  const refused = await look.evaluate(async () => {
    const answer = await fetch('/api/v1/reviews', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: '{"question":"x","readers":"","under_test":[],"policy":"same_settings","disclosure":"","verdict":"","not_tested":"","machine_ids":[],"resin_ids":[],"piece_ids":[]}',
    })
    return answer.status
  })
  expect(refused).toBeGreaterThanOrEqual(400)
  await look.close()
  await opened.getByRole('button', { name: 'Close it' }).click()
  await expect(page.getByText('No bundle is open')).toBeVisible()
})

test('what is left open comes up on the bench on its day, and stands answered in the write-up', async ({ page }) => {
  await page.goto('/')
  await page.getByRole('button', { name: /^All \d+ that wait/ }).click()
  await page.getByRole('link', { name: /Does the next firmware mend the pause/ }).click()
  const open = page.getByRole('region', { name: 'What is still open' })
  const answer = open.getByRole('form', { name: /^Answer: Does the next firmware/ })
  await answer.getByLabel(/^What came of it/).fill('It does: 41 s less a plate.')
  await answer.getByRole('button', { name: 'Keep the answer' }).click()
  await expect(open).toContainText('It does: 41 s less a plate.')
  await open.getByLabel('Left to be seen').fill('Is the new hinge sound?')
  await open.getByLabel('Look again on').fill('2031-05-04')
  await open.getByRole('button', { name: 'Leave it open' }).click()
  await expect(open).toContainText('Is the new hinge sound? to be answered by 2031-05-04')
  await expect(page.getByLabel('The write-up as Markdown')).toContainText('It does: 41 s less a plate.')
  await expect(page.getByLabel('The write-up as Markdown')).toContainText('To be answered by 2031-05-04.')
  expect(await axeFinds(page)).toEqual([])
  await page.goto('/')
  await expect(page.getByRole('heading', { level: 1, name: 'Bench' })).toBeVisible()
  await page.getByRole('button', { name: /^All \d+ that wait/ }).click()
  await expect(page.getByRole('link', { name: /Does the next firmware/ })).toHaveCount(0)
})
