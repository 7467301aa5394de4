import { expect, test, type Page } from './clock'
import { readFileSync } from 'node:fs'
import { printTheRest } from './bench'
import { boxSTL } from './mesh'

// From an empty record: two machines, settings by duplicate and change, two mixed
// plates put on record afterwards, one of them stopped and its time corrected,
// an accident, a note that changes; then every page says the same of them. The steps
// build on each other.
test.describe.configure({ mode: 'serial' })
const base = 'http://127.0.0.1:8477'

let page: Page
test.beforeAll(async ({ browser }) => {
  page = await browser.newPage({ baseURL: base })
})
test.afterAll(() => page.close())

/** Fills the first field of that label. */
const fill = (label: string, value: string) => page.getByLabel(label, { exact: true }).first().fill(value)
const choose = (label: string, option: string) =>
  page.getByRole('combobox', { name: label, exact: true }).selectOption({ label: option })
const press = (name: string | RegExp) =>
  page
    .getByRole('button', { name, exact: typeof name === 'string' })
    .first()
    .click()

test('1 two machines, a resin and two pieces', async () => {
  for (const [name, width] of [
    ['Ossik 7', '160'],
    ['Grell Mini', '128'],
  ] as const) {
    await page.goto('/kit/machines/new')
    await fill('Name', name)
    await fill('Plate widthmm', width)
    await fill('Plate depthmm', '80')
    await fill('Height it printsmm', '160')
    await fill('Pixels along the width', String(Number(width) * 25))
    await fill('Pixels along the depth', '2000')
    await fill('Lift, first stagemm', '6')
    await page.locator('[name=lift1_mm_min]').fill('60')
    await fill('Retract, firstmm', '6')
    await page.locator('[name=retract1_mm_min]').fill('150')
    await fill('Power while printingW', '50')
    await page.locator('[name=film_life_layers]').fill('30000')
    await press('Save the machine')
    await expect(page.getByRole('link', { name })).toBeVisible()
  }
  await page.goto('/kit/resins/new')
  await fill('Name', 'Plain Grey')
  await fill('or by massg', '1100')
  await fill('Densityg/ml', '1.1')
  await fill('Price of a bottle', '30')
  await press('Save the resin')
  await fill('Lot', 'A17')
  await press('Add this bottle')
  await expect(page.getByRole('cell', { name: 'A17' })).toBeVisible()
  for (const [name, size] of [
    ['Turret', 20],
    ['Lattice', 10],
  ] as const) {
    await page.goto('/kit/pieces/new')
    await page.getByLabel('Mesh files (STL, 3MF or OBJ)').setInputFiles({
      name: `${name}.stl`,
      mimeType: 'model/stl',
      buffer: Buffer.from(boxSTL(size, size, 20)),
    })
    await press('Keep this piece')
    await expect(page.getByRole('heading', { level: 1, name })).toBeVisible()
  }
})

test('2 settings: by hand once, then duplicated and changed, named and told apart', async () => {
  await page.goto('/kit?tab=settings')
  await press('Enter settings by hand')
  const form = page.getByRole('form', { name: 'Settings by hand' })
  await choose('Machine', 'Ossik 7')
  await choose('Resin', 'Plain Grey')
  await fill('A name of its own', 'out of the box')
  await fill('Exposures', '2.5')
  await press('Keep these settings')
  await expect(form).toBeHidden()
  await press(/^Duplicate and change .*out of the box/)
  await expect(form.getByLabel('A name of its own')).toBeFocused()
  await fill('A name of its own', 'slower lift')
  await fill('Exposures', '2.4')
  await fill('lifted atmm/min', '30')
  await press('Keep these settings')
  const slower = page.getByRole('listitem').filter({ hasText: 'slower lift' })
  await expect(slower).toContainText('Changed from')
  await expect(slower).toContainText('2.5 s → 2.4 s (−4 %)')
  await expect(slower).toContainText('60 mm/min')
  await expect(slower).toContainText('30 mm/min')
  await press(/^Duplicate and change .*out of the box/)
  await choose('Machine', 'Grell Mini')
  await fill('A name of its own', 'carried over')
  await choose('Basis', 'own, by long use')
  await press('Keep these settings')
  await expect(page.getByRole('heading', { level: 3, name: /carried over/ })).toBeVisible()
})

async function record(o: { machine: string; settings: RegExp; from: string; to: string; how: string; note: string }) {
  await page.goto('/runs/new')
  await choose('Machine', o.machine)
  await page.getByLabel('Piece', { exact: true }).selectOption({ label: 'Turret' })
  await fill('Copies', '2')
  const more = page.getByLabel('Piece 2', { exact: true })
  if ((await more.count()) === 0) await press('Another piece on this plate')
  await more.selectOption({ label: 'Lattice' })
  await fill('Copies 2', '1')
  await choose('Resin', 'Plain Grey')
  const settings = page.getByLabel('Settings', { exact: true })
  const option = await settings.locator('option').filter({ hasText: o.settings }).first().textContent()
  await settings.selectOption({ label: option! })
  await fill('Started', o.from)
  await fill('Ended', o.to)
  await page.getByLabel('How it ended').selectOption(o.how)
  await fill('Notes', o.note)
  await press('Record this print')
  await press('None of these is known')
  await press('Record this print')
}

const contents = '2 × Turret, 1 × Lattice'

test('3 a plate of two pieces is put on record afterwards, with a knot older than it', async () => {
  await page.goto('/')
  await press('A machine was changed')
  await choose('Machine', 'Ossik 7')
  await page.getByRole('checkbox', { name: 'new film', exact: true }).check()
  await fill('When', '2026-09-20T08:00')
  await press('Tie this knot')
  await expect(page.getByRole('button', { name: 'A machine was changed' })).toBeVisible()
  await record({
    machine: 'M1 Ossik 7',
    settings: /slower lift/,
    from: '2026-10-02T09:00',
    to: '2026-10-02T10:30',
    how: 'finished',
    note: 'First one.',
  })
  await expect(page.getByRole('heading', { level: 1, name: `R-001: ${contents}` })).toBeVisible()
  await expect(page.getByText('1 h 30 min').first()).toBeVisible()
  // 20 mm in layers of 50 µm; the film was new and had seen none.
  await expect(page.getByText('0 layers', { exact: true })).toBeVisible()
})

test('4 the second was stopped; its time is corrected, and what it was before stays', async () => {
  await record({
    machine: 'M1 Ossik 7',
    settings: /slower lift/,
    from: '2026-10-05T09:00',
    to: '2026-10-05T09:40',
    how: 'stopped',
    note: 'Stopped: the film had torn.',
  })
  await expect(page.getByRole('heading', { level: 1, name: `R-002: ${contents}` })).toBeVisible()
  await expect(page.getByText('it was stopped before its end, after 40 min')).toBeVisible()
  // The first print of the same machine is on the film now.
  await expect(page.getByText('400 layers', { exact: true })).toBeVisible()
  await page.getByRole('link', { name: 'Change what is known' }).click()
  await fill('Ended', '2026-10-05T09:50')
  await fill('It got to layer', '150')
  await fill('Why it is changed', 'read from the machine')
  await press('Save what is known')
  const history = page.getByRole('region', { name: 'History' })
  await expect(page.getByText('it was stopped before its end, after 50 min, in layer 150 of 400')).toBeVisible()
  await expect(history).toContainText('read from the machine')
  await page.getByRole('link', { name: 'Change what is known' }).click()
  await fill('Notes', 'Stopped: a torn film.')
  await press('Save what is known')
  await expect(history).toContainText('Stopped: the film had torn. → Stopped: a torn film.')
})

test('5 outcomes with an accident: it counts against nobody', async () => {
  await page.getByLabel('S-002-01, outcome').selectOption('lost')
  await page.getByLabel('S-002-01, symptom').selectOption('let go midway')
  await page.getByLabel('S-002-01, attributed to').selectOption('machine')
  await page.getByLabel('S-002-02, outcome').selectOption('whole')
  await page.getByLabel('S-002-03, outcome').selectOption('lost')
  await page.getByLabel('S-002-03, symptom').selectOption('broken in handling')
  await page.getByLabel('S-002-03, came from').selectOption('handling')
  await page.getByLabel('S-002-03, attributed to').selectOption('operator')
  await press('Keep these outcomes')
  await expect(page.getByRole('button', { name: 'Keep these outcomes' })).toBeHidden()
  const counts = page.getByRole('region', { name: 'What became of the specimens' })
  await expect(counts.getByRole('row', { name: /^Turret/ })).toHaveText(
    /^Turret2 of 211 \(1 by machine, 0 by resin\)00$/,
  )
  await expect(counts.getByRole('row', { name: /^Lattice/ })).toHaveText(/^Lattice1 of 10001$/)
  await page.goto('/runs')
  await page.getByRole('link', { name: 'R-001' }).first().click()
  await press(/^All whole/)
  await expect(page.getByLabel('S-001-03, outcome')).toHaveValue('whole')
})

test('6 every page says the same: pieces by name, counts, layers, time and settings', async () => {
  await page.goto('/runs')
  for (const code of ['R-001', 'R-002']) {
    await expect(page.getByRole('row', { name: new RegExp(code) })).toContainText(contents)
    await expect(page.getByRole('row', { name: new RegExp(code) })).toContainText('slower lift')
  }
  await expect(page.getByRole('row', { name: /R-001/ })).toContainText('1 h 30 min')
  await expect(page.getByRole('row', { name: /R-002/ })).toContainText('stopped')
  await page.goto('/failures')
  const row = page.getByRole('row', { name: /Ossik 7/ }).first()
  await expect(row).toContainText('1 of 6')
  // 400 layers of the first and 150 of the one that was stopped.
  await page.goto('/upkeep')
  await expect(page.getByRole('main')).toContainText('550')
  await page.goto('/kit')
  await page.getByRole('link', { name: 'Ossik 7' }).first().click()
  await expect(page.getByRole('main')).toContainText('550 layers')
  await page.goto(
    '/runs/new?machine=' +
      ((await (await page.request.get('/api/v1/machines')).json()) as { machine: { id: string } }[])[0]!.machine.id,
  )
  await expect(page.getByText('550 layers', { exact: true })).toBeVisible()
  await page.goto('/inspect')
  await expect(page.getByRole('main')).toContainText(contents)
  await page.goto('/')
  await expect(page.getByRole('main')).toContainText(contents)
  await page.goto('/kit?tab=settings')
  await expect(page.getByRole('listitem').filter({ hasText: 'slower lift' }).first()).toContainText('2 prints')
})

test('7 the verdict and its tables say it too', async () => {
  await page.goto('/verdict/new')
  await fill('Question', 'Is the slower lift worth it?')
  await fill('Readers', 'Beginners')
  await page.getByLabel('Ossik 7').check()
  await page.getByLabel('Plain Grey').check()
  await page.getByLabel('Turret').check()
  await page.getByLabel('Lattice').check()
  await press('Save the review')
  await expect(page.getByRole('heading', { name: 'Is the slower lift worth it?' })).toBeVisible()
  const save = async (name: string) => {
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('link', { name, exact: true }).click(),
    ])
    return readFileSync(await download.path(), 'utf8')
  }
  await page.getByRole('link', { name: 'Put it in order and take it along' }).click()
  const runs = await save('runs.csv')
  expect(
    runs.split('\n').filter((l) => l.includes('2 × Turret, 1 × Lattice') || l.includes('2 × Turret; 1 × Lattice')),
  ).toHaveLength(2)
  expect(runs).toContain('slower lift')
  const specimens = await save('specimens.csv')
  expect(specimens).toMatch(/S-002-01,Turret,.*,lost,true,machine/)
  expect(specimens).toMatch(/S-002-03,Lattice,.*,lost,false/)
  expect(await save('Export Markdown')).toContain('slower lift')
})

test('8 what was typed against an older version is offered, not put over the newer one', async () => {
  await page.goto('/runs')
  await page.getByRole('link', { name: 'R-001' }).first().click()
  await expect(page.getByRole('heading', { level: 1, name: /^R-001: / })).toBeVisible()
  const id = page.url().split('/').pop()!
  await page.getByRole('link', { name: 'Change what is known' }).click()
  await fill('Notes', 'Typed and not kept.')
  const { run } = (await (await page.request.get(`/api/v1/runs/${id}`)).json()) as { run: { version: number } }
  const changed = await page.request.patch(`/api/v1/runs/${id}`, {
    data: {
      version: run.version,
      change: { notes: 'Kept elsewhere.', observed: 'a smell' },
      why: '',
      confirmed: false,
    },
  })
  expect(changed.ok()).toBe(true)
  await page.reload()
  await expect(page.getByRole('status')).toContainText('it has changed on record since')
  await expect(page.getByLabel('Notes', { exact: true })).toHaveValue('Kept elsewhere.')
  await press('Put my changes in')
  await expect(page.getByLabel('Notes', { exact: true })).toHaveValue('Typed and not kept.')
  await expect(page.getByLabel('Seen to differ', { exact: true })).toHaveValue('a smell')
  await press('Save what is known')
  await expect(page.getByRole('region', { name: 'History' })).toContainText('Kept elsewhere. → Typed and not kept.')
})

test('9 a remedy counts once a later print of the piece has told', async () => {
  await page.goto('/runs')
  await page.getByRole('link', { name: 'R-002' }).first().click()
  const why = page.getByLabel('Likely causes: let go midway')
  await why.getByLabel('A cause of your own for let go midway').fill('The shelf shook')
  await why.getByLabel('What you tried against let go midway').fill('put felt under its feet')
  await why.getByRole('button', { name: 'Note it' }).click()
  await expect(why).toContainText('It has no judged print since that tells: print the same piece again')
  await page.goto('/failures')
  const remedied = page.getByRole('region', { name: 'Did the remedy help' })
  await expect(remedied).toContainText('One remedy has no print yet that tells.')
  await record({
    machine: 'M1 Ossik 7',
    settings: /slower lift/,
    from: '2026-10-07T09:00',
    to: '2026-10-07T10:30',
    how: 'finished',
    note: 'After the felt.',
  })
  await press(/^All whole/)
  await expect(page.getByLabel('S-003-03, outcome')).toHaveValue('whole')
  await page.goto('/runs')
  await page.getByRole('link', { name: 'R-002' }).first().click()
  await why.getByRole('link', { name: 'stayed away on R-003' }).click()
  await expect(page.getByRole('heading', { level: 1, name: `R-003: ${contents}` })).toBeVisible()
  await page.goto('/failures')
  await expect(remedied).toContainText('against “The shelf shook”: 1 of 1 (20.7 % to 100 %)')
  await expect(remedied).toContainText('how often it does so by itself is not known')
})

test('10 two machines by two resins on plates that mix both pieces: from the question to the figures', async () => {
  await page.goto('/kit/resins/new')
  await fill('Name', 'Plain Tough')
  await fill('or by massg', '1100')
  await fill('Densityg/ml', '1.1')
  await fill('Price of a bottle', '45')
  await press('Save the resin')
  await fill('Lot', 'T3')
  await press('Add this bottle')
  await expect(page.getByRole('cell', { name: 'T3' })).toBeVisible()
  await page.goto('/kit?tab=settings')
  const form = page.getByRole('form', { name: 'Settings by hand' })
  for (const [from, name] of [
    [/^Duplicate and change .*out of the box/, 'tough, larger'],
    [/^Duplicate and change .*carried over/, 'tough, smaller'],
  ] as const) {
    await press(from)
    await choose('Resin', 'Plain Tough')
    await fill('A name of its own', name)
    await fill('Exposures', '2.9')
    await press('Keep these settings')
    await expect(form).toBeHidden()
  }
  await page.goto('/verdict/new')
  await fill('Question', 'Which machine, and in which resin?')
  await fill('Readers', 'Army painters')
  for (const member of ['Ossik 7', 'Grell Mini', 'Plain Grey', 'Plain Tough', 'Turret', 'Lattice'])
    await page.getByRole('checkbox', { name: member }).check()
  await page.getByText('Under test: nothing chosen').click()
  await page.getByRole('checkbox', { name: 'machine', exact: true }).check()
  await page.getByRole('checkbox', { name: 'resin', exact: true }).check()
  await press('Save the review')
  await page.getByRole('link', { name: 'Plan what is missing' }).click()
  // All that the review names is offered, printed with or not.
  for (const level of ['Ossik 7', 'Grell Mini', 'Plain Grey', 'Plain Tough'])
    await expect(page.getByRole('checkbox', { name: level, exact: true })).toBeChecked()
  await fill('Prints of each combination', '2')
  await fill('Copies of each piece on a plate', '1')
  await page.getByRole('checkbox', { name: 'All pieces on every plate' }).check()
  await fill('Seed of the draw', '77')
  await press('Draw the order')
  const drawn = page.getByLabel('The plan as drawn')
  await expect(drawn.getByRole('table', { name: /^Combinations/ }).getByRole('row')).toHaveCount(5)
  await expect(drawn).toContainText('Whether resin and machine work on each other can be told')
  await press(/^Keep this plan: 6 plates/)
  await expect(page.getByLabel('Planned', { exact: true }).getByRole('heading', { level: 2 })).toHaveText(
    'Planned: 6 prints left',
  )
  await page.goto('/')
  await expect(page.getByText(/it is its turn in the plan of Q2/).first()).toBeVisible()
  await printTheRest(page.request)
  await page.goto('/verdict')
  await page.getByRole('link', { name: /Which machine, and in which resin/ }).click()
  const tested = page.getByLabel('What was put to the test')
  await expect(tested.getByRole('row', { name: /^Plain Tough Grell Mini/ })).toContainText('2 prints')
  await page.getByRole('link', { name: 'Compare', exact: true }).last().click()
  await expect(page.getByLabel('Which pair answers what')).toContainText(/Machine alone differs in .* against/)
  await choose('Piece', 'Turret')
  await page.getByLabel('Question').selectOption('time')
  await expect(page.getByText('4 of 4 set-ups as sides')).toBeVisible()
  const figures = page.getByLabel('Figures')
  const shown = figures.getByText('show the figures all the same')
  await shown.click() // it stays open
  await expect(figures.getByRole('table', { name: /^Time of a plate of 1 × Turret, 1 × Lattice/ })).toBeVisible()
  const filled = figures.getByLabel('Time of a piece at other fills')
  await expect(filled.getByRole('row', { name: /^A:/ })).toContainText(
    /times the model( \(.*\))?, by \d+ prints? with these settings/,
  )
  await expect(filled).toContainText(/a piece, \d+ copies a plate/)
  await choose('Piece', 'all pieces, matched')
  await page.getByLabel('Question').selectOption('failure')
  await expect(page.getByRole('heading', { name: 'How fair it is for failure' })).toBeVisible()
  await shown.click()
  // Every plate holds both pieces, so the prints are set against each other as they are.
  const failures = figures.getByRole('table', { name: 'Failures, all' }).getByRole('row', { name: /^D/ })
  await expect(failures).toContainText('2 prints0 of 4 specimens')
  await expect(failures).toContainText('so few prints could not have shown it')
})
