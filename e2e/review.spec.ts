import { expect, test, type Page } from './clock'
import { readFileSync } from 'node:fs'

// Two reviews of the demo record, each worked on from its question to what goes out.
const base = 'http://127.0.0.1:8478'
test.use({ baseURL: base })
test.describe.configure({ mode: 'serial' })

const open = async (page: Page, question: RegExp) => {
  await page.goto('/verdict')
  await page.getByRole('link', { name: question }).click()
}

const writeUp = (page: Page) => page.getByLabel('The write-up as Markdown')

test('six settings on one machine, one not printed: what can be told, and why they take so long', async ({ page }) => {
  await open(page, /Which lift and rest/)
  const tested = page.getByLabel('What was put to the test')
  await expect(tested).toContainText('These prints tell the effects of lift and rest after lift, each by itself.')
  await expect(tested).toContainText('Whether lift and rest after lift work on each other cannot be told yet.')
  const rows = tested.getByRole('row')
  await expect(rows).toHaveCount(7)
  await expect(rows.filter({ hasText: '3 prints' })).toHaveCount(5)
  await expect(rows.filter({ hasText: '3 planned' })).toContainText('6 mm at 180 mm/min')
  await expect(tested).toContainText('Once what is planned is printed')
  await expect(writeUp(page)).toContainText(
    'Once what is planned is printed: Whether lift and rest after lift work on each other can be told.',
  )

  // A declaration after the prints says so, and keeps its p apart.
  await page.getByText('Declare what decides').click()
  await page.getByLabel('Measure').selectOption('Failures, all')
  await page.getByLabel('Against').selectOption({ index: 2 })
  await page.getByRole('button', { name: 'Declare it' }).click()
  const decides = page.getByLabel('What decides', { exact: true })
  await expect(decides).toContainText(/with 15 prints of it on record, failures, all was declared to decide/)
  await page.getByRole('link', { name: 'Compare', exact: true }).last().click()
  await expect(page).toHaveURL(/compare\?review=/)
  await expect(decides).toContainText('with 15 prints of it on record')
  await expect(page.getByLabel('Figures')).toContainText('but the 4 declared to decide among themselves')
  await expect(page.getByLabel('All against')).toHaveValue('-1')
  await page.getByLabel('All against').selectOption('A')
  await expect(page.getByLabel('Figures')).not.toContainText('declared to decide')
  await page.getByLabel('Question').selectOption('time')
  const figures = page.getByLabel('Figures')
  await expect(figures.getByRole('table', { name: /^Time of a plate of 4/ }).getByRole('row')).toHaveCount(6)
  const split = figures.getByRole('table', { name: /^Time of a plate by what the machine does/ })
  await expect(split.getByRole('row')).toHaveCount(6)
  await expect(split.getByRole('row', { name: /^E/ })).toContainText('lift')
  await expect(figures).toContainText(/The lift accounts for .* less: most of it\./)
  await expect(figures).toContainText(/The waits account for .* less: part of it\./)
  // Five sides of three prints each cannot show a difference in failures, and the page says so.
  await page.getByLabel('Question').selectOption('failure')
  await expect(figures).toContainText('so few prints could not have shown a difference, whatever came out')
  const faults = figures.getByRole('table', { name: /on which a symptom was seen/ })
  await expect(faults.getByRole('row').nth(1)).toContainText(/on \d of 3 prints.*(it repeats|until|no one side)/)
  // Another baseline turns the reasons about; the address keeps it.
  await page.getByLabel('Question').selectOption('time')
  await page.getByLabel('All against').selectOption('E')
  await expect(figures).toContainText(/The lift accounts for .* longer: most of it\./)
  await expect(page).toHaveURL(/baseline=4/)
})

test('five resins: a print is counted again and left out again, with what that does', async ({ page }) => {
  await open(page, /Which of five resins/)
  const left = page.getByLabel('Prints left out')
  await expect(left).toContainText('The heating was off that night')
  await expect(left).toContainText('Siskin 4, Bistre Bend')
  await expect(left).toContainText(
    /Time of a plate of 2 × Step coupon.* with it, .* without\..*\(3 prints\) with it, .*\(2 prints\) without\./,
  )
  await expect(writeUp(page)).toContainText('Prints left out')
  const tested = page.getByLabel('What was put to the test')
  const bistre = tested.getByRole('row', { name: /^Bistre Bend/ })
  await expect(bistre).toContainText('1 left out')

  await left.getByRole('button', { name: /^Count R-\d+ again$/ }).click()
  await expect(bistre).toContainText('3 prints')
  await expect(bistre).not.toContainText('left out')
  await expect(left).not.toContainText('The heating was off')
  await expect(writeUp(page)).not.toContainText('Prints left out')

  // Without a reason nothing is left out.
  const code = (await left.getByRole('combobox').getByRole('option').nth(1).textContent())!
  await left.getByRole('combobox').selectOption(code)
  await expect(left.getByRole('button', { name: 'Leave it out' })).toBeDisabled()
  await left.getByLabel('Why it does not count').fill('Printed with the door open.')
  await left.getByLabel('Why it does not count').press('Enter')
  await expect(left.getByRole('link', { name: code })).toBeVisible()
  await expect(left).toContainText('Printed with the door open.')
  await expect(writeUp(page)).toContainText(`${code} of Siskin 4`)
  await expect(writeUp(page)).toContainText('Left out of the figures: Printed with the door open.')

  // The comparison says it too, and the table that goes out.
  await page.getByRole('link', { name: 'Compare', exact: true }).last().click()
  await expect(page.getByLabel('Prints left out')).toContainText('Printed with the door open.')
  await expect(page.getByLabel('Fairness audit')).toContainText('Resin is what is tested')
  const reviews = await (await page.request.get('/api/v1/reviews')).json()
  const five = reviews.find((r: { question: string }) => r.question.startsWith('Which of five'))
  const table = await (await page.request.get(`/api/v1/reviews/${five.id}/tables/runs`)).text()
  expect(table.split('\n').filter((line) => line.includes('Printed with the door open.'))).toHaveLength(1)
})

test('two machines, two pieces: what each piece shows, and from which prints', async ({ page }) => {
  await open(page, /Which of these two for a 32 mm warband/)
  const tested = page.getByLabel('What was put to the test')
  await expect(tested).toContainText('These prints tell the effect of machine.')
  for (const machine of ['Harrow 6', 'Tern Mini']) {
    const row = tested.getByRole('row', { name: new RegExp(`^${machine}`) })
    await expect(row.getByRole('cell')).toHaveCount(3)
    await expect(row).toContainText(/3 prints.*\d prints/)
  }
  await page.getByRole('link', { name: 'Compare', exact: true }).last().click()
  await expect(page).toHaveURL(/compare\?review=/)
  const piece = page.getByRole('combobox', { name: /^Piece/ })
  await expect(piece).toHaveValue(/.+/)
  const audit = page.getByLabel('Fairness audit')
  await expect(audit).toContainText('R-001, R-003, R-006')
  const figures = page.getByLabel('Figures')
  await page.getByLabel('Question').selectOption('dimension')
  const length = figures.getByRole('table', { name: /Block length.*error/ })
  await expect(length.getByRole('row', { name: /^A/ })).toContainText('3 prints')
  await expect(length.getByRole('row', { name: /^B/ })).toContainText(/µm to .*µm/)
  await expect(figures.getByRole('table', { name: /sizes read on all prints: mean absolute error/ })).toBeVisible()

  // What is drawn can be kept as a file, and its numbers stand beside it.
  await expect(figures.getByRole('img', { name: /^Errors of \d+ sizes/ })).toBeVisible()
  await figures.getByText('Its numbers').click()
  await expect(figures.getByRole('row', { name: /^A Block length x, outer 12 mm/ })).toBeVisible()
  for (const kind of ['svg', 'png']) {
    const [file] = await Promise.all([
      page.waitForEvent('download'),
      figures
        .getByRole('button', { name: `Save as ${kind.toUpperCase()}` })
        .first()
        .click(),
    ])
    expect(file.suggestedFilename()).toBe(`errors-of-sizes-over-nominal.${kind}`)
    const kept = readFileSync(await file.path())
    if (kind === 'svg') expect(kept.toString()).not.toMatch(/class=|var\(/)
    else expect(kept.subarray(1, 4).toString()).toBe('PNG')
  }
  await figures.getByRole('button', { name: /^As a picture of Block length/ }).click()
  await expect(figures.getByRole('img', { name: /^Block length.*: A .*, B / })).toBeVisible()

  // The other piece is another comparison: other prints, other plates.
  await piece.selectOption({ label: 'Warden with staff' })
  await expect(audit).toContainText('R-009, R-012')
  await page.getByLabel('Question').selectOption('failure')
  const failures = figures.getByRole('table', { name: 'Failures, all' })
  await expect(failures.getByRole('row', { name: /^A/ })).toContainText(/5 prints.*of 24 specimens/)
  await expect(failures.getByRole('row', { name: /^B/ })).toContainText(/4 prints.*of 12 specimens/)
  await expect(page).toHaveURL(/piece=/)

  // All pieces together: each is set against its own.
  await piece.selectOption({ label: 'all pieces, matched' })
  await expect(page).toHaveURL(/piece=all/)
  await figures.getByText('show the figures all the same').click()
  await expect(
    figures.getByRole('table', { name: 'Failures, all; differences piece by piece' }).getByRole('row', { name: /^B/ }),
  ).toContainText('over 2 kinds that both have')
  await piece.selectOption({ label: 'Warden with staff' })

  // A side less, from the list of set-ups; the address keeps which.
  await page.getByText(/^2 of 2 set-ups as sides$/).click()
  await page.getByRole('checkbox', { name: /^Tern Mini/ }).click()
  await expect(page.getByText('One side more is needed')).toBeVisible()
  await page.goBack()
  await page.goForward()
  await expect(page.getByText('One side more is needed')).toBeVisible()
})

test('a panel and a projector, three pieces and two resins, on plates that mix pieces', async ({ page }) => {
  await open(page, /Panel or projector/)
  const tested = page.getByLabel('What was put to the test')
  await expect(tested.getByRole('row')).toHaveCount(5)
  const hole = tested.getByRole('row', { name: /^Wheatear P Madder Tough/ })
  await expect(hole.getByRole('cell').nth(2)).toContainText(/none.*3 planned/)
  await expect(hole.getByRole('cell').nth(3)).toContainText('3 prints')
  await page.getByRole('link', { name: 'Open the ledger of claims' }).click()
  await expect(page.getByRole('listitem').filter({ hasText: '“45 mm/h”' })).toContainText(
    /Wheatear P.*not met.* over \d+ prints.*: the claim is not met/,
  )
  await page.goBack()
  await page.getByRole('link', { name: 'Compare', exact: true }).last().click()
  await expect(page).toHaveURL(/compare\?review=/)
  await expect(page.getByLabel('Which pair answers what')).toContainText('Machine alone differs in C against A')
  const figures = page.getByLabel('Figures')
  const eyes = page.getByLabel('What eyes can tell between the sides')
  await expect(eyes.getByRole('row', { name: /^C, A pitch or spot/ })).toContainText(/49\.4, 35 µm.*mm.*no.*plain/)

  // A plate of two lanterns and a wyrm: each piece by its share, the time by the plate.
  await page.getByRole('combobox', { name: /^Piece/ }).selectOption({ label: 'Cage lantern' })
  await page.getByLabel('Question').selectOption('time')
  await expect(page.getByText('4 of 4 set-ups as sides')).toBeVisible()
  await expect(
    figures.getByRole('table', { name: /^Time of a plate of 2 × Cage lantern, 1 × Spined wyrm, cold/ }),
  ).toBeVisible()
  await expect(figures.getByLabel('Temperature')).toContainText(
    /D: At 1\d.* °C \(1 print\) against .* \(2 prints\): a plate took 1\.\d+ times as long \(.*\); 0 of 2 copies failed/,
  )
  await figures.getByText('Estimates, treatment, accidents, cost and sizes of each side').click()
  await expect(figures.getByText(/by their share of the plate/).first()).toBeVisible()
  await expect(figures.getByText(/^2 min; the label asks 3 min: 66.7 % of it$/).first()).toBeVisible()
  await expect(figures.getByText('1 accident', { exact: true })).toBeVisible()

  // Blemishes are figures of their own, and stand on a line of time.
  await page.getByLabel('Question').selectOption('finish')
  await expect(figures.getByRole('table', { name: 'With a blemish of finish' })).toBeVisible()
  await expect(figures.getByRole('img', { name: /12 judged prints of 4 sides from .* with a fault/ })).toBeVisible()
  await figures.getByText(/prints with faults, in the order of time/).click()
  await expect(
    figures.getByRole('table', { name: 'Prints with faults, the first printed first' }).getByRole('row').nth(1),
  ).toContainText(/R-\d+.* on \d cop/)

  // So few prints show no difference in failures, and the page says so before anything else can.
  await page.getByRole('combobox', { name: /^Piece/ }).selectOption({ label: 'all pieces, matched' })
  await page.getByLabel('Question').selectOption('failure')
  await expect(figures).toContainText(
    /prints could not have shown a difference, whatever came out|no difference is shown/,
  )
  await expect(
    figures.getByRole('table', { name: 'Failures, all; differences piece by piece' }).getByRole('row', { name: /^B/ }),
  ).toContainText('over 2 kinds that both have')
})

test('an upgrade is held against the prints before it, and its claim against both', async ({ page }) => {
  const bench = (await (await page.request.get('/api/v1/bench')).json()) as {
    cords: { name: string; knots: { id: string; kinds: string[] }[] }[]
  }
  const siskin = bench.cords.find((c) => c.name === 'Siskin 4')!
  await page.goto(`/knots/${siskin.knots.find((k) => k.kinds.includes('upgrade'))!.id}`)
  const effect = page.getByLabel('Before and after')
  await expect(effect).toContainText(/6 prints before \(A: R-\d+/)
  await expect(effect).toContainText('What came with it: motion and firmware.')
  await expect(effect).toContainText(/Not met\. Claimed: a print takes 70 % of the time before\. Measured: \d\d/)
  const matched = effect.getByRole('table', { name: 'Time, plate by plate' })
  await expect(matched.getByRole('row', { name: /^B/ })).toContainText('over 2 kinds that both have')
  await effect.getByText(/figures in which no difference is shown/).click()
  await expect(effect.getByRole('table', { name: /^Failures, all; differences piece by piece/ })).toBeVisible()
  // A claim is typed with the knot; what it says changes with it.
  await page.getByRole('button', { name: 'Correct or retire this knot' }).click()
  await page.getByLabel('A print is claimed to take').fill('85')
  await page.getByLabel('Why it is corrected').fill('Misread on the box.')
  await page.getByRole('button', { name: 'Correct this knot' }).click()
  await expect(effect).toContainText(/Met\. Claimed: a print takes 85 % of the time before/)
})

test('a review that names nothing yet says what to do next', async ({ page }) => {
  await page.goto('/verdict/new')
  await page.getByLabel('Question').fill('Which of the two is the quieter?')
  await page.getByRole('button', { name: 'Save the review' }).click()
  await expect(page).not.toHaveURL(/new$/)
  const tested = page.getByLabel('What was put to the test')
  await expect(tested).toContainText('Name the pieces of this review above')
  await page.getByRole('checkbox', { name: 'Spined wyrm' }).check()
  await page.getByRole('button', { name: 'Save the review' }).click()
  await expect(tested).toContainText(
    'No print of this review’s machines, resins and pieces is on record or planned yet.',
  )
  await page.getByRole('checkbox', { name: 'Corvid L' }).check()
  await page.getByRole('checkbox', { name: 'Fable Grey' }).check()
  await page.getByRole('button', { name: 'Save the review' }).click()
  await expect(tested).toContainText('Nothing is under test.')
  await expect(writeUp(page)).toContainText('Under test: not stated.')
})
