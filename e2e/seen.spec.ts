import { expect, test, type Page } from './clock'
import { readFileSync } from 'node:fs'
import { edgePNG } from './picture'

// What is seen, judged, stressed and photographed in the demo record, up to the comparison and the write-up.
const base = 'http://127.0.0.1:8491'
test.use({ baseURL: base })
test.describe.configure({ mode: 'serial' })

const open = async (page: Page, question: RegExp) => {
  await page.goto('/verdict')
  await page.getByRole('link', { name: question }).click()
}

const writeUp = (page: Page) => page.getByLabel('The write-up as Markdown')

test('a reference is entered and read as a specimen is, and stands beside the prints', async ({ page }) => {
  await page.goto('/kit?tab=pieces')
  const references = page.getByLabel('References', { exact: true })
  await expect(references.getByRole('link')).toHaveText(/F1 Milled coupon/)
  await references.getByRole('button', { name: 'Enter a reference' }).click()
  await page.getByLabel('Name of the reference').fill('Pewter warden')
  await page.getByLabel('It is a copy of').selectOption({ label: 'Warden with staff' })
  await page.getByRole('button', { name: 'Keep this reference' }).click()
  await expect(page.getByLabel('Where it comes from')).toHaveAttribute('aria-invalid', 'true')
  await page.getByLabel('Where it comes from').fill('Cast by a friend from a print of the same file.')
  await page.getByRole('button', { name: 'Keep this reference' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'F2: Pewter warden' })).toBeVisible()
  const width = page.getByLabel('Base width, next reading in mm')
  await width.fill('2,4')
  await width.press('Enter')
  await expect(page.getByRole('alert')).toContainText('2.4')
  await width.fill('24,12')
  await width.press('Enter')
  await width.fill('24,14')
  await width.press('Enter')
  await expect(page.getByLabel('Summary of the reference')).toContainText('+130 µm')
  await page
    .getByRole('group', { name: /^Staff tip/ })
    .getByRole('button', { name: 'present' })
    .click()
  await page.getByRole('button', { name: 'take back Staff tip' }).click()
  await page.getByLabel('Why Staff tip is taken back').fill('Looked at the wrong one.')
  await page.getByRole('button', { name: 'Take it back' }).click()
  await expect(page.getByRole('button', { name: 'take back Staff tip' })).toHaveCount(0)

  await open(page, /Which of these two for a 32 mm warband/)
  await page.getByText('Question, disclosure and verdict').click()
  await page.getByRole('checkbox', { name: 'Pewter warden (Warden with staff)' }).check()
  // What is not saved yet is not folded away.
  await page.reload()
  await expect(page.getByRole('checkbox', { name: 'Pewter warden (Warden with staff)' })).toBeChecked()
  await page.getByRole('button', { name: 'Save the review' }).click()
  await expect(writeUp(page)).toContainText('Pewter warden (casting, 1): Cast by a friend')
  await page.getByRole('link', { name: 'Compare', exact: true }).last().click()
  await expect(page).toHaveURL(/compare\?review=/)
  await page.getByRole('combobox', { name: /^Piece/ }).selectOption({ label: 'Warden with staff' })
  await page.getByLabel('Question').selectOption('dimension')
  await expect(page.getByLabel('Fairness audit')).toContainText('C against A: a reference stands beside the prints')
  const figures = page.getByLabel('Figures')
  const folded = figures.getByText('show the figures all the same')
  const size = figures.getByRole('table', { name: /^Base width/ }).getByRole('row', { name: /^C/ })
  await expect(folded.or(size).first()).toBeVisible()
  if (await folded.isVisible()) await folded.click()
  await expect(size).toContainText(/\+130 µm.*a reference.*there is no p/)
  await page.getByLabel('Question').selectOption('failure')
  await expect(figures).toContainText('A reference: no print on record made it.')
})

test('no size can be read before it is known what with', async ({ page }) => {
  const references = (await (await page.request.get('/api/v1/references')).json()) as { reference: { id: string } }[]
  let release = () => {}
  const asked = new Promise<void>((answered) => (release = answered))
  await page.route('**/api/v1/instruments', async (route) => {
    await asked
    await route.continue()
  })
  await page.goto(`/inspect/references/${references[0]!.reference.id}`)
  await expect(page.getByRole('heading', { level: 1, name: /^F1/ })).toBeVisible()
  await expect(page.getByText('Reading the record…')).toBeVisible()
  await expect(page.getByLabel(/next reading in mm$/)).toHaveCount(0)
  release()
  await expect(page.getByLabel(/next reading in mm$/).first()).toBeVisible()
  await expect(page.getByLabel(/^Instrument/)).not.toHaveValue('')
})

test('judged by eye: a sitting said once, digits rate, a scale of one’s own, and rows by station and stage', async ({
  page,
}) => {
  const references = (await (await page.request.get('/api/v1/references')).json()) as { reference: { id: string } }[]
  await page.goto(`/inspect/references/${references[0]!.reference.id}`)
  const panel = page.getByRole('region', { name: /^Judged by eye and hand/ })
  await expect(panel).toContainText('in hand, primed, under a daylight lamp from the left, by Marn')
  await panel.getByRole('button', { name: 'Another sitting' }).click()
  await panel.getByText('A scale of your own').click()
  const own = panel.getByRole('form', { name: 'A scale of your own' })
  await own.getByLabel('What is judged on it').fill('Sound when tapped')
  for (const [i, anchor] of ['dull', 'soft', 'plain', 'bright', 'rings'].entries())
    await own.getByLabel(`Step ${i} is`).fill(anchor)
  await own.getByRole('button', { name: 'Keep this scale' }).click()
  const sitting = panel.getByRole('form', { name: 'A sitting' })
  await sitting.getByRole('checkbox', { name: 'Sound when tapped' }).check()
  await sitting.getByLabel('Who judges').fill('Tavi')
  await sitting.getByLabel('From where').selectOption('under a loupe')
  await sitting.getByLabel('Stage of the surface').selectOption('raw')
  await sitting.getByLabel('Light').fill('')
  await sitting.getByRole('button', { name: 'Begin this sitting' }).click()
  await expect(sitting.getByText(/say under which light|is missing|too short/).first()).toBeVisible()
  await sitting.getByLabel('Light').fill('a ring lamp')
  await sitting.getByLabel('Magnification').fill('5')
  await sitting.getByRole('button', { name: 'Begin this sitting' }).click()
  await expect(panel).toContainText('loupe of 5 ×, raw, under a ring lamp, by Tavi')
  await page.locator('h1').click()
  for (const score of ['4', '3', '4', '2']) {
    await expect(panel.getByText('press 0 to 4')).toBeVisible()
    await page.keyboard.press(score)
    await expect(panel.getByRole('button', { pressed: true })).not.toHaveCount(0)
    await expect(panel.getByRole('button').first()).toBeEnabled()
  }
  await expect(panel.getByRole('status')).toContainText('All 4 scales are rated here')
  await expect(
    panel.getByRole('group', { name: 'Sound when tapped' }).getByRole('button', { pressed: true }),
  ).toHaveText(/2.*plain/)
  // A second score corrects the first, and one taken back stays with its reason.
  await panel.getByRole('group', { name: 'Layer lines' }).getByRole('button', { name: /^4/ }).click()
  await panel.getByText(/ratings of F1-01 on record/).click()
  await expect(panel.getByRole('list', { name: 'Ratings of F1-01' })).toContainText('corrected')
  await panel.getByRole('button', { name: 'Take back Sound when tapped: 2, plain' }).click()
  await panel.getByLabel('Why it is taken back').fill('a lorry went by')
  await panel.getByRole('button', { name: 'Take it back' }).click()
  await expect(panel.getByRole('list', { name: 'Ratings of F1-01' })).toContainText('taken back: a lorry went by')

  await open(page, /Panel or projector/)
  await expect(page.getByLabel('What was put to the test').getByRole('row')).toHaveCount(5)
  await page.getByRole('link', { name: 'Compare', exact: true }).last().click()
  await expect(page).toHaveURL(/compare\?review=/)
  await page.getByLabel('Question').selectOption('finish')
  const figures = page.getByLabel('Figures')
  const raw = figures.getByRole('table', { name: /^Crispness of edges, in hand, raw/ })
  await expect(raw.getByRole('row', { name: /^A/ })).toContainText(/3 prints.*ratings/)
  await expect(raw.getByRole('row', { name: /^D/ })).toContainText('a reference')
  await expect(figures.getByRole('table', { name: /^Crispness of edges, in hand, primed/ })).toBeVisible()
  await expect(figures.getByRole('table', { name: /^Crispness of edges, under a loupe of 5 ×, raw/ })).toContainText(
    'Not rated.',
  )
  await expect(figures.getByLabel('Ratings together')).toContainText(/pairs of ratings of the same copy/)
  await expect(figures.getByLabel('Ratings together')).toContainText(
    /pixels or spot differ by [0-9.]+ µm between . and .,/,
  )
})

test('what lanterns bore stands in the comparison by prints, and their prints have not failed by it', async ({
  page,
}) => {
  await open(page, /Panel or projector/)
  await expect(page.getByLabel('What was put to the test').getByRole('row')).toHaveCount(5)
  await page.getByRole('link', { name: 'Compare', exact: true }).last().click()
  await expect(page).toHaveURL(/compare\?review=/)
  await page.getByRole('combobox', { name: /^Piece/ }).selectOption('Cage lantern')
  await page.getByLabel('Question').selectOption('strength')
  const figures = page.getByLabel('Figures')
  const rung = figures.getByRole('table', { name: /^Drop, onto a board of oak.*survived a fall from 800 mm/ })
  await expect(rung.getByRole('row', { name: /^A/ })).toContainText(/\d of \d specimens?/)
  const drop = figures.getByRole('region', { name: /^Drop, onto a board of oak/ })
  await expect(drop.getByRole('img', { name: /Share of copies that held/ })).toBeVisible()
  await expect(drop).toContainText('From series X-01; what broke there is no failure of a print.')
  await expect(figures).toContainText(/so few prints could not have shown a difference/)
})

test('a lantern is photographed primed and painted on two sides, measured, and seen in the comparison', async ({
  page,
}) => {
  await open(page, /Panel or projector/)
  await expect(page.getByLabel('What was put to the test').getByRole('row')).toHaveCount(5)
  await page.getByRole('link', { name: 'Compare', exact: true }).last().click()
  await expect(page).toHaveURL(/compare\?review=/)
  await page.getByRole('combobox', { name: /^Piece/ }).selectOption('Cage lantern')
  await page.getByLabel('Question').selectOption('detail')
  const pictures = page.getByLabel('Photographs of the sides')
  const inHand = pictures.getByRole('row', { name: /Cage lantern in hand, raw/ })
  await expect(inHand).toBeVisible()
  const comparison = page.url()
  const shot = (side: number) => inHand.getByRole('cell').nth(side).getByRole('checkbox').first()
  const codes = [await shot(0).getAttribute('aria-label'), await shot(2).getAttribute('aria-label')].map(String)

  for (const [i, code] of codes.entries()) {
    await page.goto(`/specimens/${code}`)
    const panel = page.getByRole('region', { name: `Photographs of ${code}` })
    await panel.getByText(`Add photographs of ${code}`).click()
    await panel.getByLabel('From where').selectOption('on the table, about 1 m')
    if (i === 0) {
      // It was primed: nothing of what lay below can be photographed any more.
      await panel.getByLabel('Stage of the surface').selectOption('raw')
      await panel.getByLabel('Light').fill('the north window')
      await panel
        .getByLabel('Choose pictures: files')
        .setInputFiles({ name: 'late.png', mimeType: 'image/png', buffer: edgePNG(300, 200, 8, 7) })
      await expect(panel.getByLabel('Pictures on their way')).toContainText(/is raw, and S-.* is primed now/)
      await panel.getByRole('button', { name: 'Clear this list' }).click()
    }
    for (const stage of ['primed', 'painted']) {
      await panel.getByLabel('Stage of the surface').selectOption(stage)
      await panel.getByLabel('Light').fill('')
      const files = panel.getByLabel('Choose pictures: files')
      const picture = {
        name: `${stage}.png`,
        mimeType: 'image/png',
        buffer: edgePNG(400, 300, i === 0 ? 8 : 20, i + stage.length),
      }
      await files.setInputFiles(picture)
      await expect(panel.getByRole('alert')).toContainText('Light is missing')
      await panel.getByLabel('Light').fill('the north window')
      await files.setInputFiles(picture)
      await expect(panel.getByRole('status')).toContainText('1 picture kept.')
      await panel.getByRole('button', { name: 'Clear this list' }).click()
    }
    const shots = panel.getByRole('list', { name: `Photographs of ${code}` })
    await shots.getByRole('link', { name: /table, primed, under the north window/ }).click()

    // A known length by pointer, then an edge by the keyboard alone.
    const photo = page.getByRole('application')
    const box = (await photo.boundingBox())!
    await photo.click({ position: { x: 2, y: 20 } })
    await photo.click({ position: { x: box.width - 2, y: 20 } })
    await page.getByLabel('It is known to be').fill('4')
    await page.getByLabel('give or take').fill('0,01')
    await page.getByRole('button', { name: 'Keep this scale' }).click()
    await expect(page.getByRole('row', { name: /Known length 4\.000 mm/ })).toBeVisible()
    await page.getByRole('button', { name: 'Edge', exact: true }).click()
    await photo.focus()
    // The cross lies where the last click was, at the right border.
    for (let n = 0; n < 14; n++) await page.keyboard.press('Shift+ArrowLeft')
    for (let n = 0; n < 12; n++) await page.keyboard.press('Shift+ArrowDown')
    await page.keyboard.press('Enter')
    for (let n = 0; n < 12; n++) await page.keyboard.press('Shift+ArrowLeft')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('row', { name: /Width of an edge, 10–90 % [\d.]+ µm/ })).toBeVisible()
  }
  // What is no picture is refused in a sentence, and what was typed stays.
  await page.getByRole('link', { name: `Back to ${codes[1]}` }).click()
  const panel = page.getByRole('region', { name: `Photographs of ${codes[1]}` })
  await panel.getByText(`Add photographs of ${codes[1]}`).click()
  await panel.getByLabel('Choose pictures: files').setInputFiles([
    { name: 'IMG_1.jpg', mimeType: 'image/jpeg', buffer: Buffer.from('\0\0\0\x18ftypheic\0\0\0\0', 'latin1') },
    { name: 'holiday.jpg', mimeType: 'image/jpeg', buffer: Buffer.from('MZ a program', 'latin1') },
  ])
  await expect(panel.getByLabel('Pictures on their way')).toContainText('most compatible format (JPEG)')
  await expect(panel.getByLabel('Pictures on their way')).toContainText('is a program and no picture')
  await expect(panel.getByLabel('Light')).toHaveValue('the north window')

  await page.goto(comparison)
  const edges = page.getByLabel('Figures').getByRole('table', { name: /^Width of edges.*taken on the table, primed/ })
  await expect(edges.getByRole('row', { name: /^A/ })).toContainText(/0\.0\d+ mm.*1 print/)
  await expect(edges.getByRole('row', { name: /^B/ })).toContainText('Not read.')
  await expect(pictures.getByRole('row', { name: /on the table, painted/ }).getByRole('checkbox')).toHaveCount(2)
  for (const box of await pictures
    .getByRole('row', { name: /on the table, primed/ })
    .getByRole('checkbox')
    .all())
    await box.check()
  await pictures.getByRole('link', { name: 'Lay the 2 chosen side by side' }).click()
  await expect(page.getByText('All are shown to one scale.')).toBeVisible()
  await expect(page.getByRole('figure')).toHaveCount(2)
  const first = page.getByRole('img').first()
  const before = await first.evaluate((e) => e.style.transform)
  await page.getByRole('button', { name: 'Enlarge all' }).click()
  await expect.poll(() => first.evaluate((e) => e.style.transform)).not.toBe(before)
  for (const mode of ['Wipe', 'Blink', 'Loupe']) {
    await page.getByRole('button', { name: mode, exact: true }).click()
    await expect(page.getByRole('button', { name: mode, exact: true })).toHaveAttribute('aria-pressed', 'true')
    await expect(page.getByRole('img').first()).toBeVisible()
  }
  const sheet = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Save the blind sheet, codes only' }).click()
  expect(
    readFileSync(await (await sheet).path())
      .subarray(1, 4)
      .toString(),
  ).toBe('PNG')
  await page.getByText(/^Key of the blind sheet/).click()
  await expect(page.getByLabel('Picture sheets').getByRole('listitem')).toHaveText([/is [AC], S-/, /is [AC], S-/])
  await open(page, /Panel or projector/)
  await expect(writeUp(page)).toContainText(/Cage lantern, on the table, primed\. A: H-\d+ of S-.*; C: H-\d+ of S-/)
})
