import { expect, test, type Browser, type Page } from './clock'
import { readFileSync, writeFileSync } from 'node:fs'
import { axeFinds } from './axe'

// Blind choice in the demo record: dealt, coded, sealed, voted on three browsers, closed, and told in the comparison.
const base = 'http://127.0.0.1:8492'
test.use({ baseURL: base })
test.describe.configure({ mode: 'serial' })

const question = 'Which lantern stands straighter?'
/** Which arm a code is of, as only who coded knows. */
const behind = new Map<string, number>()
let panel = ''

const review = async (page: Page) => {
  await page.goto('/verdict')
  await page.getByRole('link', { name: /Panel or projector for bars and spines/ }).click()
  return page.getByRole('region', { name: 'Blind panels' })
}

/** A judge who prefers the first machine, and sees nothing between two of one. */
async function vote(page: Page, name: string) {
  const trials = Number(/of (\d+)/.exec(await page.getByRole('heading', { level: 2 }).innerText())![1])
  for (let at = 1; at <= trials; at++) {
    const trial = page.getByRole('form', { name: `${at} of ${trials}` })
    const codes = await trial.getByRole('list', { name: 'Shown, from the left' }).locator('strong').allInnerTexts()
    const arms = codes.map((c) => behind.get(c))
    const first = codes[arms.indexOf(0)]
    await trial.getByLabel(arms[0] === arms[1] || !first ? 'No difference' : first, { exact: true }).check()
    await trial.getByLabel('sure', { exact: true }).check()
    await trial.getByRole('button', { name: 'Next' }).click()
  }
  const end = page.getByRole('form', { name: 'At the end' })
  await end.getByLabel('No', { exact: true }).check()
  await end.getByLabel('Your name, if you like').fill(name)
  await end.getByRole('button', { name: 'Cast the ballot' }).click()
}

test('a panel is dealt, coded by an assistant, and sealed', async ({ page }) => {
  const panels = await review(page)
  await expect(panels).toContainText('V1: Which lantern has the crisper bars?')
  await expect(panels).toContainText('is sealed; 3 of 6 have voted')
  await panels.getByRole('link', { name: 'Ask a blind panel' }).click()
  const form = page.getByRole('form', { name: 'A blind panel' })
  await form.getByRole('button', { name: 'Deal the panel' }).click()
  await expect(form.getByRole('textbox', { name: 'Question' })).toHaveAttribute('aria-invalid', 'true')
  await form.getByRole('textbox', { name: 'Question' }).fill(question)
  await form.getByLabel('Looked at').fill('the whole cage')
  await form.getByLabel('Light').fill('a window to the north')
  await form.getByRole('combobox', { name: 'Piece' }).selectOption('Cage lantern')
  await form.getByRole('button', { name: 'Deal the panel' }).click()
  await expect(form.getByRole('alert').first()).toContainText(/a panel sets 2 to 12 against each other/)
  for (const [name, copies] of [
    [/^Dunnock 5, Madder Tough/, ['S-087-02', 'S-101-02']],
    [/^Wheatear P, Madder Tough/, ['S-081-01', 'S-092-01']],
  ] as const) {
    const arm = form.getByRole('group', { name })
    for (const copy of copies) await arm.getByRole('checkbox', { name: new RegExp(`^${copy}`) }).check()
  }
  await page.reload() // what was chosen stays
  await expect(form.getByRole('checkbox', { name: /^S-092-01/ })).toBeChecked()
  expect(await axeFinds(page)).toEqual([])
  await form.getByRole('button', { name: 'Deal the panel' }).click()
  await expect(page.getByRole('heading', { level: 1, name: question })).toBeVisible()
  panel = page.url().split('/').pop()!
  await expect(page.getByRole('region', { name: 'What may tell them apart' })).toContainText('a raft left on')
  await expect(page.getByRole('button', { name: '4 copies still without a code' })).toBeDisabled()

  const coding = page.getByRole('form', { name: 'Code a copy' })
  await coding.getByLabel('Who puts the codes on').fill('Tavi')
  for (const [copy, arm] of [
    ['S-087-02', 0],
    ['s-101-02', 0],
    ['S-081-01', 1],
    ['S-092-01', 1],
  ] as const) {
    await coding.getByLabel('Label of the copy, scanned or typed').fill(copy)
    await coding.getByLabel('Label of the copy, scanned or typed').press('Enter')
    await expect(coding.getByRole('status')).toContainText(`On ${copy.toUpperCase()} goes`)
    behind.set(await coding.getByRole('status').locator('strong').innerText(), arm)
  }
  expect(behind.size).toBe(4)
  expect(await axeFinds(page)).toEqual([])
  await page.getByRole('link', { name: 'Print the cards' }).click()
  await expect(page.getByRole('list', { name: 'Cards' }).getByRole('listitem')).toHaveCount(4)
  const cards = await page.getByRole('list', { name: 'Cards' }).getByRole('listitem').allInnerTexts()
  expect(cards.map((c) => c.trim().split(/\s/)[0])).toEqual([...behind.keys()].sort())
  await page.goto(`/verdict/panels/${panel}`)
  await page.getByRole('button', { name: 'Seal the panel' }).click()
  await expect(page.getByRole('heading', { name: 'Ballots: 0 of 8 cast' })).toBeVisible()
  await page.goto('/')
  await page.getByRole('button', { name: /^All \d+ that wait/ }).click()
  await expect(page.getByRole('link', { name: 'Ask the judges of blind panel V3' })).toBeVisible()
})

test('who tries to learn the key learns nothing', async ({ page }) => {
  const get = async (path: string) => (await page.request.get(path)).text()
  const asked = await page.request.post(`/api/v1/panels/${panel}/coding`, {
    data: { name: 'Tavi', as: 'assistant', specimen: 'S-087-02' },
  })
  expect(asked.status()).toBe(409)
  const sheet = (await (await page.request.get(`/api/v1/panels/${panel}`)).json()) as {
    ballots: { token: string }[]
    shown: null
  }
  expect(sheet.shown).toBeNull()
  const codes = [...behind.keys()]
  // Where a code is told, no copy is; and where copies are told, no code.
  const ballot = await get(`/api/v1/ballots/${sheet.ballots[0]!.token}`)
  expect(codes.some((c) => ballot.includes(c))).toBe(true)
  expect(ballot).not.toMatch(/S-\d{3}-\d{2}|Dunnock|Wheatear/)
  for (const path of [
    '/api/v1/specimens/S-087-02',
    `/api/v1/history/panel/${panel}`,
    '/api/v1/bench',
    '/api/v1/commands',
  ]) {
    const told = await get(path)
    for (const c of codes) expect(told, path).not.toContain(`"${c}"`)
  }
  const record = JSON.parse(await get('/api/v1/record')) as {
    panels: { id: string; code: string }[]
    panel_seals: { panel_id: string; panel_key: string; opening: string; sealed: string }[]
  }
  const seal = record.panel_seals.find((s) => s.panel_id === panel)!
  expect(seal).toMatchObject({ panel_key: '', opening: '' })
  expect(Buffer.from(seal.sealed, 'base64').toString('latin1')).not.toContain('item')
  await page.goto('/specimens/S-087-02')
  await expect(page.getByRole('heading', { level: 1 })).toContainText('R-087')
  for (const c of codes) await expect(page.getByText(c, { exact: true })).toHaveCount(0)
  expect((await page.request.get(`/api/v1/ballots/${sheet.ballots[0]!.token}/pictures/${codes[0]}`)).status()).toBe(404)
})

test('eight judges vote on three browsers, and no one twice', async ({ page, browser }) => {
  await page.goto(`/verdict/panels/${panel}/table`)
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Hand this device to the first judge')
  await page.getByRole('button', { name: 'Begin' }).click()
  await vote(page, 'tavi')
  await expect(page.getByRole('alert')).toContainText('cannot vote')
  await page.getByLabel('Your name, if you like').fill('')
  await page.getByRole('button', { name: 'Cast the ballot' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Thank you. Hand this device on')
  await page.getByRole('button', { name: 'Begin' }).click()
  await vote(page, '')
  await page.getByRole('link', { name: 'End the round' }).click()
  await expect(page.getByRole('heading', { name: 'Ballots: 2 of 8 cast' })).toBeVisible()
  await page.getByRole('link', { name: 'Print links for judges’ own phones' }).click()
  await expect(page.getByRole('list', { name: 'Links' }).getByRole('link')).toHaveCount(6)
  const links = await page
    .getByRole('list', { name: 'Links' })
    .getByRole('link')
    .evaluateAll((all) => all.map((a) => a.getAttribute('href')!))
  expect(links).toHaveLength(6)
  expect(await axeFinds(page)).toEqual([])
  await Promise.all([
    onPhone(browser, links.slice(0, 3), ['Ilse', '', 'Brandt']),
    onPhone(browser, links.slice(3), ['', '', 'Odo']),
  ])
  await page.goto(`/verdict/panels/${panel}`)
  await expect(page.getByRole('heading', { name: 'Ballots: 8 of 8 cast' })).toBeVisible()
})

/** Some judges on a phone of their own: each link opens one ballot, once, and no way into the program. */
async function onPhone(browser: Browser, links: string[], names: string[]) {
  const context = await browser.newContext({ baseURL: base, viewport: { width: 390, height: 844 } })
  const page = await context.newPage()
  for (const [i, link] of links.entries()) {
    await page.goto(link)
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(question)
    await expect(page.getByRole('navigation')).toHaveCount(0)
    if (i === 0) {
      expect(await axeFinds(page)).toEqual([])
      expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
    }
    await vote(page, names[i]!)
    await expect(page.getByRole('heading', { level: 1 })).toHaveText('Thank you')
    await page.goto(link)
    await expect(page.getByRole('heading', { level: 1 })).toHaveText('Thank you')
  }
  await context.close()
}

test('the panel closes, its key is told, and it is a row of the comparison', async ({ page }) => {
  await page.goto(`/verdict/panels/${panel}`)
  await page.getByRole('button', { name: 'Let judge 2 vote again' }).click()
  await page.getByLabel('Why', { exact: true }).fill('The lamp was off.')
  await page.getByRole('button', { name: 'Give the ballot out again' }).click()
  await expect(page.getByRole('region', { name: 'Ballots' })).toContainText(
    'a ballot before it was set aside: The lamp was off.',
  )
  await page.getByRole('link', { name: 'Hand this device round' }).click()
  await page.getByRole('button', { name: 'Begin' }).click()
  await vote(page, '')
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('All have voted')
  await page.getByRole('link', { name: 'End the round' }).click()
  await page.getByRole('button', { name: 'Close it and tell the key' }).click()
  const said = page.getByRole('region', { name: 'What they said' })
  await expect(said).toContainText(
    /^What they said.*Dunnock 5, Madder Tough.* rather than Wheatear P.* in 100 % of the votes/,
  )
  await expect(said).toContainText('clearly preferred (p = 0.0078)')
  await expect(said).toContainText('double-blind: an assistant coded')
  expect(await axeFinds(page)).toEqual([])
  await page.getByText('The key', { exact: true }).click()
  for (const [code, arm] of behind)
    await expect(page.getByRole('listitem').filter({ hasText: `${code} was` })).toContainText(
      arm === 0 ? 'Dunnock 5' : 'Wheatear P',
    )

  const panels = await review(page)
  await expect(panels).toContainText('V3: ' + question)
  await expect(page.getByLabel('The write-up as Markdown')).toContainText('V3: ' + question)
  await page.getByRole('link', { name: 'Compare', exact: true }).last().click()
  await page.getByRole('combobox', { name: /^Piece/ }).selectOption({ label: 'Cage lantern' })
  const row = page
    .getByRole('region', { name: 'What blind judges said' })
    .getByRole('row', { name: new RegExp(question.slice(0, 20)) })
  await expect(row).toContainText('clearly preferred')
  await expect(row).toContainText('8 judges')
})

test('a page of pictures is answered without the program, and its file counts once', async ({ page, browser }) => {
  const panels = await review(page)
  await panels.getByRole('link', { name: /^V2/ }).click()
  const saving = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Save a page to guess on' }).click()
  const path = await (await saving).path()
  const html = readFileSync(path, 'utf8')
  expect(html).not.toMatch(/S-\d{3}-\d{2}|H-\d{3}|Dunnock|Wheatear/)
  const file = `${path}.html`
  writeFileSync(file, html)
  const away = await (await browser.newContext({ acceptDownloads: true, offline: true })).newPage()
  await away.goto(`file://${file}`)
  await expect(away.getByRole('heading', { level: 1 })).toHaveText('Which of the three was printed on another machine?')
  await expect(away.locator('img')).toHaveCount(3)
  expect(
    await away.locator('img').evaluateAll((all) => all.every((i) => (i as HTMLImageElement).naturalWidth === 1000)),
  ).toBe(true)
  await away.locator('input[name=place-0]').nth(1).check()
  await away.getByLabel('fairly').check()
  await away.getByLabel('Did you believe to know which was which?').selectOption('no')
  const answers = away.waitForEvent('download')
  await away.getByRole('button', { name: 'Save my answers' }).click()
  const answered = readFileSync(await (await answers).path())
  await away.context().close()

  const input = page.getByLabel('Take files of answers')
  await input.setInputFiles({ name: 'answers.json', mimeType: 'application/json', buffer: answered })
  await expect(page.getByRole('heading', { name: 'Ballots: 4 of 6 cast' })).toBeVisible()
  await page.reload() // a second press in the same moment would be the same command
  await input.setInputFiles({ name: 'again.json', mimeType: 'application/json', buffer: answered })
  await expect(page.getByRole('alert')).toContainText('taken already')
  await input.setInputFiles({ name: 'notes.json', mimeType: 'application/json', buffer: Buffer.from('hello') })
  await expect(page.getByRole('alert')).toContainText('notes.json is no file of answers')

  await page.getByLabel(/^Why it is opened early/).fill('The guests went home.')
  await page.getByRole('button', { name: 'Open it now' }).click()
  await expect(page.getByRole('region', { name: 'What they said' })).toContainText(
    'opened early (The guests went home)',
  )
  await expect(page.getByRole('region', { name: 'What they said' })).toContainText(/The odd one was found in \d of 4/)
})
