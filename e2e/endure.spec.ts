import { expect, now, test } from './clock'
import { bench, printTheRest } from './bench'
import { edgePNG } from './picture'

// What specimens and machines go through, from a bench with eight towers printed: falls, loads, fits, coats, and daily use.
const base = 'http://127.0.0.1:8481'
test.use({ baseURL: base })
test.describe.configure({ mode: 'serial' })

test.beforeAll(async ({ playwright }) => {
  const request = await playwright.request.newContext({ baseURL: base })
  await bench(request, base)
  await printTheRest(request)
  await request.dispose()
})

test('eight towers are let fall in a drawn order, by keyboard, and what breaks is no failure of their print', async ({
  page,
}) => {
  await page.goto('/inspect')
  await page.getByRole('link', { name: 'Stress series' }).click()
  await expect(page.getByText('Nothing was stressed yet')).toBeVisible()
  await page.getByRole('link', { name: 'Plan a series' }).first().click()
  await page.getByLabel('Codes of specimens').fill('r-001 S-009-01')
  await expect(page.getByLabel('Not in the series')).toContainText('S-009-01: no specimen or print on record')
  await expect(page.getByText('8 specimens in the series')).toBeVisible()
  await expect(page.getByText('One set-up: this says how much it bears')).toBeVisible()
  await page.getByRole('button', { name: 'Draw the order and begin' }).click()
  await expect(page.getByRole('alert').first()).toBeVisible()
  await page.getByLabel('Name of the series').fill('Towers from the table')
  await page.getByLabel('On or under what').fill('onto oak')
  await page.getByLabel(/^Levels/).fill('300 600')
  await page.getByLabel('Codes of specimens').fill('R-001')
  await page.getByRole('button', { name: 'Draw the order and begin' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('X-01: Towers from the table')
  await expect(page.getByText(/each specimen once; 8 specimens, order drawn from seed \d+/)).toBeVisible()

  await page.getByText('Mass of each specimen').click()
  await page.getByLabel('Mass of S-001-01, g').focus()
  for (let n = 1; n <= 8; n++) {
    await expect(page.getByLabel(`Mass of S-001-0${n}, g`)).toBeFocused()
    await page.keyboard.type('9,4')
    await page.keyboard.press('Enter')
  }
  await expect(page.getByText('all measured')).toBeVisible()
  await page.reload()

  const turn = page.getByRole('heading', { level: 2, name: / at \d+ mm$/ })
  const tower = async (n: number) => {
    await expect(page.getByText(`Test ${n} of 8`)).toBeVisible()
    return (await turn.textContent())!
  }
  const seen: string[] = []
  for (let n = 1; n <= 8; n++) {
    const words = await tower(n)
    seen.push(words)
    const fall = words.endsWith('600 mm')
    if (fall) {
      await page.getByLabel('Which part').fill('corner')
      await page.getByRole('radio', { name: /^0/ }).focus()
    }
    await page.keyboard.press(fall ? '3' : '1')
    await page.keyboard.press('Enter')
    if (n === 3) {
      // One key takes the last test back; the same specimen is next again.
      await tower(4)
      await page.keyboard.press('Backspace')
      expect(await tower(3)).toBe(words)
      await page.keyboard.press(fall ? '4' : '0')
      await page.keyboard.press('Enter')
    }
  }
  expect(new Set(seen.map((w) => w.slice(0, 8))).size).toBe(8)
  expect(seen.map((w) => w.slice(-6))).toEqual([...Array(4).fill('300 mm'), ...Array(4).fill('600 mm')])
  const held = page.getByRole('table', { name: /Held at each level/ })
  await expect(held.getByRole('row', { name: /300 mm/ })).toContainText(/4 of 4, 1 print.*100 % .*27\.7 mJ/)
  await expect(held.getByRole('row', { name: /600 mm/ })).toContainText(/0 of 4, 1 print/)
  await expect(page.getByText('What broke: corner (')).toBeVisible()

  await page.goto('/specimens/S-001-01')
  await expect(page.getByRole('region', { name: 'Stress tests of S-001-01' })).toContainText(
    'X-01 Towers from the table',
  )
  const run = page.url().match(/inspect\/([^?]+)/)![1]!
  const sheet = (await (await page.request.get(`/api/v1/runs/${run}`)).json()) as { counts: { failed: number } }
  expect(sheet.counts.failed).toBe(0)
  await page.goto('/inspect/stress/new')
  await page.getByLabel('Codes of specimens').fill('S-001-02')
  await expect(page.getByLabel('Not in the series')).toContainText('it was stressed in X-01 and is fresh no more')

  // What has all its tests cannot end early.
  await page.goto('/inspect/stress')
  await page.getByRole('link', { name: /X-01/ }).click()
  await expect(page.getByText('8 tests in their order')).toBeVisible()
  await expect(page.getByText('End it before all is tested')).toHaveCount(0)
})

test('a bar comes from the generator; bars are loaded one after the other, and their stiffness stands on the resin', async ({
  page,
}) => {
  await page.goto('/kit/coupons/new')
  await page.getByLabel('What is made').selectOption('bar')
  await expect(page.getByLabel('Name')).toHaveValue('Bar for bending')
  await page.getByLabel('Thickness').fill('9')
  await expect(page.getByRole('alert')).toContainText('between 0.5 and 6 mm it can be bent')
  await page.getByLabel('Thickness').fill('3')
  await expect(page.getByLabel('The coupon', { exact: true })).toContainText('80 × 10')
  await page.getByRole('button', { name: 'Keep this bar' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Bar for bending')

  // What broke in the falls cannot be loaded; the four that held can.
  await page.goto('/inspect/stress/new')
  await page.getByText('Stiffness of a bar').click()
  await page.getByLabel('Name of the series').fill('Towers as bars')
  await page.getByLabel('On or under what').fill('on two rods')
  await page.getByLabel(/^Levels/).fill('50 150')
  await page.getByLabel('Between the supports').fill('18')
  await page.getByLabel('Codes of specimens').fill('R-001')
  await expect(page.getByText('4 specimens in the series')).toBeVisible()
  await expect(page.getByText(/Not in the series: .*it failed in X-01/)).toBeVisible()
  await page.getByRole('button', { name: 'Draw the order and begin' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('X-02: Towers as bars')
  const boxes = page.getByRole('textbox', { name: /^(Width|Thickness) of S-001/ })
  await expect(boxes).toHaveCount(8)
  await boxes.first().focus()
  for (let n = 0; n < 8; n++) {
    await page.keyboard.type(n % 2 === 0 ? '10' : '3')
    await page.keyboard.press('Enter')
  }
  await expect(page.getByText('all measured')).toBeVisible()
  await page.reload()
  // It is ended for a reason, and goes on: that was a slip.
  await page.getByText('End it before all is tested').click()
  await page.getByRole('button', { name: 'End this series' }).click()
  await expect(page.getByRole('alert')).toContainText('say why the series ends')
  await page.getByLabel('Why it ends').fill('a rod rolled away')
  await page.getByRole('button', { name: 'End this series' }).click()
  await expect(page.getByRole('region', { name: 'Its end' })).toContainText('after 0 tests of 8: a rod rolled away')
  await page.getByRole('button', { name: 'Go on with it' }).click()
  for (let n = 1; n <= 8; n++) {
    await expect(page.getByText(`Test ${n} of 8`)).toBeVisible()
    await expect(page.getByLabel('Deflection')).toBeFocused()
    if (n === 2) {
      // A heavier load that bends it less is refused; the box keeps what was typed.
      await page.keyboard.type('0,01')
      await page.keyboard.press('Enter')
      await expect(page.getByRole('alert')).toContainText('under the lighter 50 g it was 0.02 mm')
      await page.getByLabel('Deflection').fill('')
    }
    await page.keyboard.type(n % 2 === 1 ? '0,02' : '0,06')
    await page.keyboard.press('Enter')
  }
  // 9.80665 · 0.1 · 18³ / (4 · 10 · 3³ · 0.04) = 132 MPa
  await expect(page.getByRole('table', { name: /Stiffness by three-point bending/ })).toContainText('132 MPa')
  const [resin] = (await (await page.request.get('/api/v1/resins')).json()) as { resin: { id: string } }[]
  await page.goto(`/kit/resins/${resin!.resin.id}`)
  await expect(page.getByRole('row', { name: /Stiffness in bending/ })).toContainText(
    /132 MPa.*1 print, 4 bars.*on two rods/,
  )
})

test('a rim, a fit and a thread are defined on the piece, read on a copy, and say what they come to', async ({
  page,
}) => {
  const [card] = (await (await page.request.get('/api/v1/pieces')).json()) as { piece: { id: string } }[]
  await page.goto(`/kit/pieces/${card!.piece.id}`)
  await page.getByText('Roundness, angles, warp, fits and threads').click()
  const form = page.getByRole('form', { name: 'Another form' })
  for (const [kind, name, rungs] of [
    ['Roundness', 'Rim', ''],
    ['Fit', 'Socket', '0.05 0.1'],
    ['Thread', 'Bolt', ''],
  ]) {
    await form.getByLabel('Form', { exact: true }).selectOption(kind!)
    await form.getByLabel('Name').fill(name!)
    if (rungs) await form.getByLabel(/^Clearances/).fill(rungs)
    await form.getByRole('button', { name: 'Add this form' }).click()
    await expect(page.getByRole('list', { name: 'Forms' })).toContainText(name!)
  }
  await form.getByLabel('Form', { exact: true }).selectOption('Angle')
  await form.getByLabel('Name').fill('Corner')
  await form.getByRole('button', { name: 'Add this form' }).click()
  await expect(form.getByRole('alert').first()).toContainText('say which angle it should have')

  await page.goto('/specimens/S-001-02')
  const rim = page.getByRole('form', { name: 'Rim of S-001-02' })
  await rim.getByLabel('a diameter').fill('20,00')
  for (const next of ['20,04', '20,01']) {
    await page.keyboard.press('Enter')
    await page.keyboard.type(next)
  }
  await page.keyboard.press('Enter')
  await expect(rim.getByRole('list')).toContainText('20, 20.04, 20.01 mm ● out of round +40 µm ◇')
  await rim.getByLabel('a diameter').fill('20')
  for (const next of ['26', '20']) {
    await page.keyboard.press('Enter')
    await page.keyboard.type(next)
  }
  await page.keyboard.press('Enter')
  await expect(rim.getByRole('alert')).toContainText('26.00 beside 20.00 of one Rim? Enter again keeps it.')

  const socket = page.getByRole('form', { name: 'Socket of S-001-02' })
  await socket.getByLabel('Socket 0.05 mm with part 1').selectOption('does not go')
  await socket.getByLabel('Socket 0.1 mm with part 1').selectOption('holds')
  await socket.getByRole('button', { name: 'Keep this fit' }).click()
  await expect(socket.getByRole('alert')).toContainText('name the part that it was tried with')
  await socket.getByLabel('Tried with, part 1').fill('peg of brass')
  await socket.getByRole('button', { name: 'Another mating part' }).click()
  await socket.getByLabel('Tried with, part 2').fill('peg of bone')
  await socket.getByLabel('Socket 0.1 mm with peg of bone').selectOption('loose')
  await socket.getByRole('button', { name: 'Keep this fit' }).click()
  await expect(socket.getByRole('list')).toContainText(
    'tightest that goes 0.1 mm, loosest that holds 0.1 mm, with peg of brass',
  )
  // Every peg by every clearance, over all copies: the next copy begins with the same pegs.
  const matrix = page.getByRole('table', { name: 'Socket over all copies' })
  await expect(matrix.getByRole('row', { name: /peg of bone/ })).toContainText('–loose 1')
  await page.goto('/specimens/S-001-03')
  const second = page.getByRole('form', { name: 'Socket of S-001-03' })
  await expect(second.getByLabel('Tried with, part 2')).toHaveValue('peg of brass')
  await second.getByLabel('Socket 0.1 mm with peg of brass').selectOption('tight')
  await second.getByRole('button', { name: 'Keep this fit' }).click()
  await expect(matrix.getByRole('row', { name: /peg of brass/ })).toContainText('does not go 1tight 1, holds 1')
  await page.goto('/specimens/S-001-02')
  const bolt = page.getByRole('form', { name: 'Bolt of S-001-02' })
  await bolt.getByLabel('Tried with').fill('nut M3')
  await bolt.getByRole('button', { name: 'binds' }).click()
  await expect(bolt.getByRole('list')).toContainText('binds, with nut M3')
  await bolt.getByRole('button', { name: 'Take back binds, with nut M3' }).click()
  await bolt.getByLabel('Why it is taken back').fill('sand in the thread')
  await bolt.getByRole('button', { name: 'Take it back' }).click()
  await expect(bolt.getByRole('list')).toContainText('taken back: sand in the thread')
})

test('a copy is sanded and primed: what lay below can be judged no more, and its resin is weighed', async ({
  page,
}) => {
  await page.goto('/specimens/S-001-02')
  const panel = page.getByRole('region', { name: 'Photographs of S-001-02' })
  await panel.getByLabel('Light').fill('a lamp')
  const files = panel.getByLabel('Choose pictures: files')
  const picture = (name: string, seed: number) => ({ name, mimeType: 'image/png', buffer: edgePNG(300, 200, 6, seed) })
  await files.setInputFiles(picture('raw.png', 11))
  await expect(panel.getByLabel('Pictures on their way')).toContainText('raw.png of S-001-02 kept')
  await page.getByText(/^Surface of S-001-02:/).click()
  const next = page.getByRole('form', { name: 'The next stage' })
  await next.getByLabel('It is now').selectOption('primed')
  await next.getByLabel(/Sanding, filling/).fill('4,5')
  await next.getByLabel('Note').fill('two thin coats')
  await next.getByRole('button', { name: 'Keep this' }).click()
  await expect(page.getByText(/^Surface of S-001-02: primed, 4\.5 min of rework$/)).toBeVisible()
  await panel.getByLabel('Stage of the surface').selectOption('primed')
  await files.setInputFiles(picture('primed.png', 12))
  const shots = panel.getByRole('list', { name: 'Photographs of S-001-02' })
  await expect(shots.getByRole('link', { name: /raw, under a lamp/ })).toBeVisible()
  await expect(shots.getByRole('link', { name: /primed, under a lamp/ })).toBeVisible()
  const run = page.url().match(/inspect\/([^?]+)/)![1]!
  const refused = await page.request.post(`/api/v1/runs/${run}/stages`, {
    data: { specimen_ids: [page.url().match(/specimen=(.+)$/)![1]], stage: 'raw' },
  })
  expect(refused.status()).toBe(422)
  expect(await refused.text()).toContain('primed already')

  const [resin] = (await (await page.request.get('/api/v1/resins')).json()) as { resin: { id: string } }[]
  await page.goto(`/kit/resins/${resin!.resin.id}`)
  await expect(page.getByLabel('Not known yet')).toContainText('Density is not known yet')
  await page.getByText('Weigh a volume of it').click()
  const weigh = page.getByRole('form', { name: 'A weighing' })
  await weigh.getByLabel(/^Volume/).fill('10')
  await weigh.getByLabel(/^Mass of it/).fill('11,1')
  await weigh.getByRole('button', { name: 'Keep this weighing' }).click()
  await expect(page.getByRole('row', { name: /Density, liquid/ })).toContainText('1.11 g/ml')
  await expect(page.getByRole('row', { name: /^Drop/ })).toContainText(/300 mm: 4 of 4 held; 600 mm: 0 of 4 held/)
})

test('a machine is rated by how it is to live with: an anchor a press, conditions asked for, a slip taken back', async ({
  page,
}) => {
  const [machine] = (await (await page.request.get('/api/v1/machines')).json()) as { machine: { id: string } }[]
  await page.goto(`/kit/machines/${machine!.machine.id}`)
  const living = page.getByRole('region', { name: 'Living with it' })
  await living.getByRole('button', { name: 'heard over music' }).click()
  await expect(living.getByRole('alert')).toContainText('say who judged it')
  await living.getByLabel('Judged by').fill('Marn')
  await living.getByRole('button', { name: 'heard over music' }).click()
  await expect(living.getByRole('alert')).toContainText('say from how far, and in which room')
  await living.getByLabel('Under which conditions').fill('at 1 m in the cellar')
  await living.getByRole('button', { name: 'heard over music' }).click()
  await expect(living.getByRole('table')).toContainText('2 of 4: heard over music, n = 1 by 1 person')
  // The next scale waits; who judges stays.
  await expect(living.getByRole('combobox', { name: 'What is judged' }).locator('option:checked')).toHaveText(
    'Smell kept in',
  )
  await expect(living.getByLabel('Judged by')).toHaveValue('Marn')
  await living.getByRole('combobox', { name: 'What is judged' }).selectOption('Lid or cover')
  await living.getByRole('button', { name: 'two hands and a free table' }).click()
  await expect(living.getByRole('row', { name: /Lid or cover/ })).toContainText('0 of 4')
  await living.getByText('Every rating, and how to take one back').click()
  await living.getByRole('button', { name: /^Take back Lid or cover: 0/ }).click()
  await living.getByLabel('Why it is taken back').fill('the wrong machine')
  await living.getByRole('button', { name: 'Take it back' }).click()
  await expect(living.getByRole('row', { name: /Lid or cover/ })).toHaveCount(0)
  await expect(living.getByRole('list')).toContainText('taken back: the wrong machine')

  // A scale of one's own stands among the others as soon as it is kept.
  await living.getByText('A scale of your own').click()
  const own = living.getByRole('form', { name: 'A scale of your own' })
  await own.getByLabel('What is judged on it').fill('Lid or cover')
  for (const [i, anchor] of ['burns', 'hot', 'warm', 'tepid', 'cool'].entries())
    await own.getByLabel(`Step ${i} is`).fill(anchor)
  await own.getByLabel(/^Conditions that a score needs/).fill('after how long a print')
  await own.getByRole('button', { name: 'Keep this scale' }).click()
  await expect(own.getByRole('alert')).toContainText('is a scale of machines already')
  await own.getByLabel('What is judged on it').fill('Heat of the lid')
  await own.getByRole('button', { name: 'Keep this scale' }).click()
  await living.getByRole('combobox', { name: 'What is judged' }).selectOption('Heat of the lid')
  await living.getByLabel('Under which conditions').fill('after six hours')
  await living.getByRole('button', { name: 'tepid' }).click()
  await expect(living.getByRole('row', { name: /Heat of the lid/ })).toContainText('3 of 4: tepid, n = 1 by 1 person')
})

test('a caliper reads a plate of eight from the code to its corrections, with no key pressed between', async ({
  page,
}) => {
  const [card] = (await (await page.request.get('/api/v1/pieces')).json()) as {
    piece: { id: string }
    features: object[]
    features_version: string
  }[]
  const step = (nominal_mm: number) => ({
    ...{ piece_id: card!.piece.id, kind: 'dimension', name: `Step of ${nominal_mm}`, nominal_mm },
    ...{ axis: 'y', face: 'outer', rungs_mm: [], place: '' },
  })
  const put = await page.request.put(`/api/v1/pieces/${card!.piece.id}/features`, {
    data: { version: card!.features_version, features: [...card!.features, step(14), step(8)] },
  })
  expect(put.ok(), await put.text()).toBe(true)
  const made = await page.request.post('/api/v1/instruments', {
    data: { kind: 'caliper', name: 'Caliper of the bench', resolution_mm: 0.01, reference_u_mm: 0.01 },
  })
  expect(made.ok(), await made.text()).toBe(true)
  await page.goto('/devices')
  const device = page.getByRole('form', { name: 'A new device' })
  await device.getByLabel('Device').fill('Caliper of the bench')
  await device.getByRole('combobox', { name: 'Kind' }).selectOption('caliper')
  await device.getByRole('button', { name: 'Make its token' }).click()
  const token = await page.locator('p.select-all').innerText()
  await page.goto('/inspect')
  await page.getByLabel('Code on the label').fill('s-001-01')
  await page.keyboard.press('Enter')
  let sequence = 0
  for (let copy = 1; copy <= 8; copy++) {
    const sizes = page.getByRole('region', { name: `Sizes of S-001-0${copy}` })
    for (const [name, mm] of [
      ['Width', 20],
      ['Step of 14', 14],
      ['Step of 8', 8],
    ] as const) {
      await expect(sizes.getByLabel(`${name}, next reading in mm`)).toBeFocused()
      const sent = await page.request.post(`${base}/api/v1/feed`, {
        headers: { Authorization: `Bearer ${token}`, 'Content-Type': 'text/plain' },
        data: `b1 ${++sequence} ${now()} reading ${(mm + 0.1 + 0.01 * (copy % 3)).toFixed(2)} mm`,
      })
      expect(sent.ok()).toBe(true)
    }
  }
  await expect(page.getByRole('status').filter({ hasText: 'Every size of every copy here' })).toBeVisible()
  // The second copy was primed, and a coat adds to sizes: seven count.
  const width = page.getByLabel('Summary of the plate').getByRole('row', { name: /Width/ })
  await expect(width.getByRole('cell').nth(1)).toHaveText('7')
  await expect(page.getByRole('region', { name: 'Corrections' })).toContainText(
    /Move every outline in by 5\d\.?\d* µm a side/,
  )
})
