import { expect, test, type Page } from './clock'
import { bench, printTheRest } from './bench'
import { boxSTL } from './mesh'

// Two machines on an empty record: what three prints of each bear, how round they are, what they took to sand and
// what it is like to live with either stands in one comparison and in the write-up.
const base = 'http://127.0.0.1:8482'
test.use({ baseURL: base })
test.describe.configure({ mode: 'serial' })

type Sheet = { run: { id: string }; specimens: { id: string; code: string }[]; forms: { id: string }[] }
const first: string[] = []
const second: string[] = []
let machines: string[] = []

test.beforeAll(async ({ playwright }) => {
  const request = await playwright.request.newContext({ baseURL: base })
  const post = async (path: string, data: unknown) => {
    const answer = await request.post(`/api/v1/${path}`, { data })
    expect(answer.ok(), `${path}: ${await answer.text()}`).toBe(true)
    return (await answer.json()) as never
  }
  const got = async (path: string) => (await (await request.get(`/api/v1/${path}`)).json()) as never
  await bench(request, base)
  const [{ machine }] = (await got('machines')) as [{ machine: { id: string } }]
  const [{ profile }] = (await got('profiles')) as [{ profile: { id: string } }]
  const [{ piece }] = (await got('pieces')) as [{ piece: { id: string } }]
  const [{ plate }] = (await got('plates')) as [{ plate: { id: string } }]
  const other = (await post('machines', { ...machine, id: '', name: 'Kestle 5', px_x: 8000, px_y: 4500 })) as {
    machine: { id: string }
  }
  const settings = (await post('profiles', { ...profile, id: '', machine_id: other.machine.id })) as { id: string }
  machines = [machine.id, other.machine.id]
  for (const [machine_id, profile_id] of [
    [machine.id, profile.id],
    [other.machine.id, settings.id],
  ])
    for (const n of [1, 2, 3])
      await post('plates', {
        plate: { ...plate, id: '', name: `Two towers ${n}`, machine_id, profile_id },
        placements: [30, 90].map((x_mm) => ({ piece_id: piece.id, scale_pct: 100, x_mm, y_mm: 40, turn_deg: 0 })),
      })
  await printTheRest(request)
  const { lines } = (await got('runs?limit=20')) as { lines: { id: string; machine: string; printed: string }[] }
  for (const run of lines.filter((r) => r.printed.startsWith('2 ')))
    (run.machine === 'Ossik 7' ? first : second).push(run.id)
  expect([first.length, second.length]).toEqual([3, 3])

  // A rim is rounder on the second machine; its copies are sanded for a shorter time, and then primed.
  await post(`pieces/${piece.id}/forms`, { kind: 'round', name: 'Rim' })
  for (const [side, ids] of [first, second].entries())
    for (const [n, id] of ids.entries()) {
      const sheet = (await got(`runs/${id}`)) as Sheet
      for (const s of sheet.specimens)
        await post(`runs/${id}/form-readings`, {
          reading: {
            specimen_id: s.id,
            form_id: sheet.forms[0]!.id,
            measured: [20, 20 + (side === 0 ? 0.08 : 0.02) + 0.002 * n, 20.01],
          },
        })
      await post(`runs/${id}/stages`, {
        specimen_ids: sheet.specimens.map((s) => s.id),
        stage: 'primed',
        rework_min: (side === 0 ? 12 : 4) + n,
      })
    }
  await request.dispose()
})

const codes = async (page: Page, ids: string[]) =>
  Promise.all(
    ids.map(async (id) => {
      const sheet = (await (await page.request.get(`/api/v1/runs/${id}`)).json()) as { run: { code: string } }
      return sheet.run.code
    }),
  )
const compared = (question: string) =>
  `/compare?question=${question}&under=machine&side=${first.join(',')}&side=${second.join(',')}`

for (const [kind, under, levels, unit] of [
  ['Bend and snap', 'over a rod of 10 mm', '20 60', '°'],
  ['Warmth', 'in water, ten minutes', '50 70', '°C'],
  ['Light and age', 'behind a south window', '24 168', 'h'],
] as const)
  test(`${kind.toLowerCase()}: specimens of both sides are tried in a drawn order, and the comparison says which bears more`, async ({
    page,
  }) => {
    const n = { 'Bend and snap': 0, Warmth: 1, 'Light and age': 2 }[kind]
    const [a, b] = [await codes(page, [first[n]!]), await codes(page, [second[n]!])]
    await page.goto('/inspect/stress/new')
    await page.getByText(kind, { exact: false }).first().click()
    await page.getByLabel('Name of the series').fill(`${kind} of towers`)
    await page.getByLabel('On or under what').fill(under)
    await page.getByLabel(/^Levels/).fill(levels)
    await page.getByLabel('Stage of the surface').selectOption('primed')
    await page.getByLabel('How often one is stressed').selectOption('one specimen through all levels, until it fails')
    await page.getByLabel('Codes of specimens').fill(`${a[0]} ${b[0]}`)
    await expect(page.getByText('4 specimens in the series')).toBeVisible()
    await page.getByRole('button', { name: 'Draw the order and begin' }).click()
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(`X-0${n + 1}: ${kind} of towers`)
    const turn = page.getByRole('heading', { level: 2, name: new RegExp(` at [\\d.]+\\s?${unit}$`) })
    // Copies of the first machine fail at the first level, those of the second at none: six tests.
    const weak = `S-${a[0]!.slice(2)}`
    for (let test = 0; test < 6; test++) {
      await expect(page.getByText(new RegExp(`Test ${test + 1} of`))).toBeVisible()
      const words = (await turn.textContent())!
      await page.keyboard.press(words.startsWith(weak) ? '4' : '0')
      await page.keyboard.press('Enter')
    }
    await expect(turn).toHaveCount(0)

    await page.goto(compared('strength'))
    const figures = page.getByRole('region', { name: 'Figures' })
    await expect(figures).toContainText(`X-0${n + 1}`)
    const held = figures.getByRole('table', { name: new RegExp(`^${kind}.*${levels.split(' ')[0]}`) })
    await expect(held.getByRole('row', { name: /^A/ })).toContainText('0 of 2 specimens')
    await expect(held.getByRole('row', { name: /^B/ })).toContainText('2 of 2 specimens')
    await expect(held).toContainText('so few prints could not have shown it')
  })

test('roundness and minutes of rework are compared print by print, with what the difference shows', async ({
  page,
}) => {
  await page.goto(compared('dimension'))
  const figures = page.getByRole('region', { name: 'Figures' })
  await expect(figures.getByRole('table', { name: /Rim/ }).getByRole('row', { name: /^B/ })).toContainText('3 prints')
  await page.goto(compared('finish'))
  const rework = figures.getByRole('table', { name: /Rework of a copy/ })
  await expect(rework.getByRole('row', { name: /^A/ })).toContainText(/13 min.*3 prints/)
  await expect(rework.getByRole('row', { name: /^B/ })).toContainText(/5 min.*3 prints/)
})

test('scores from one sitting stand beside what eyes can tell at that distance', async ({ page }) => {
  const post = async (path: string, data: unknown) => {
    const answer = await page.request.post(`/api/v1/${path}`, { data })
    expect(answer.ok(), await answer.text()).toBe(true)
    return (await answer.json()) as { id: string }
  }
  const sitting = await post('sittings', {
    rater: 'Marn',
    station: 'in_hand',
    stage: 'primed',
    light: 'daylight',
    scales: ['edges'],
  })
  for (const [side, ids] of [first, second].entries())
    for (const id of ids) {
      const sheet = (await (await page.request.get(`/api/v1/runs/${id}`)).json()) as Sheet
      for (const s of sheet.specimens)
        await post('ratings', {
          sitting_id: sitting.id,
          of_id: id,
          specimen_id: s.id,
          scale: 'edges',
          score: side === 0 ? 1 : 3,
        })
    }
  await page.goto(compared('finish'))
  const figures = page.getByRole('region', { name: 'Figures' })
  await expect(figures.getByRole('table', { name: /edges.*in hand/i }).getByRole('row', { name: /^B/ })).toContainText(
    '3 prints',
  )
  await expect(page.getByRole('region', { name: 'What eyes can tell between the sides' })).toContainText('20, 40 µm')
  await expect(figures.getByRole('region', { name: 'Ratings together' })).toContainText(
    'pixels or spot differ by 20 µm',
  )
})

test('what living with either machine is like stands below, and everything goes into the write-up', async ({
  page,
}) => {
  for (const [i, anchor] of ['one hand, and care', 'one gloved finger, and it stays'].entries()) {
    await page.goto(`/kit/machines/${machines[i]}`)
    const living = page.getByRole('region', { name: 'Living with it' })
    await living.getByLabel('Judged by').fill('Marn')
    await living.getByRole('combobox', { name: 'What is judged' }).selectOption('Lid or cover')
    await living.getByRole('button', { name: anchor }).click()
    await expect(living.getByRole('table')).toContainText(anchor)
  }
  await page.goto(compared('strength'))
  await page.getByText('Living with the machines: what people say of one each').click()
  await expect(page.getByRole('row', { name: /Lid or cover/ })).toContainText(/2 of 4: .*4 of 4: /)

  const [{ resin }] = (await (await page.request.get('/api/v1/resins')).json()) as [{ resin: { id: string } }]
  const [{ piece }] = (await (await page.request.get('/api/v1/pieces')).json()) as [{ piece: { id: string } }]
  const review = (await (
    await page.request.post('/api/v1/reviews', {
      data: {
        question: 'Which tower lasts?',
        policy: 'maker_default',
        readers: '',
        under_test: ['machine'],
        disclosure: '',
        verdict: '',
        not_tested: '',
        machine_ids: machines,
        resin_ids: [resin.id],
        piece_ids: [piece.id],
      },
    })
  ).json()) as { id: string }
  const text = await (await page.request.get(`/api/v1/reviews/${review.id}/write-up.md`)).text()
  for (const words of [
    'Bend and snap',
    'Warmth',
    'Light and age',
    'Rim',
    'Rework',
    'Lid or cover',
    'pixels or spot differ',
  ])
    expect(text).toContain(words)
})

test('what happens at the bench is said in one line: it says what it understood, and Enter keeps that', async ({
  page,
}) => {
  const post = async (path: string, data: unknown) => {
    const answer = await page.request.post(`/api/v1/${path}`, { data })
    expect(answer.ok(), `${path}: ${await answer.text()}`).toBe(true)
    return (await answer.json()) as never
  }
  const plates = (await (await page.request.get('/api/v1/plates')).json()) as {
    plate: { id: string; machine_id: string; profile_id: string; name: string }
  }[]
  const { plate } = plates.find((p) => p.plate.name === 'Two towers 1' && p.plate.machine_id === machines[0])!
  const { run } = (await post('run-preparations', {
    machine_id: plate.machine_id,
    plate_id: plate.id,
    profile_id: plate.profile_id,
    vat_fill_ml: 55,
  })) as { run: { id: string; code: string } }
  await post(`runs/${run.id}/preflight/skip`, { reason: 'a walk' })
  await post(`runs/${run.id}/events`, { kind: 'start', at_ms: 0, note: '' })

  await page.goto('/')
  const happened = page.getByRole('form', { name: 'What happened' })
  const line = happened.getByLabel('What happened, in one line')
  await line.fill('top up 25 on Kestrel')
  await expect(happened.getByRole('status')).toContainText('names no machine that is known: "Kestrel"')
  await line.fill('top up 25,5 on Ossik')
  await expect(happened.getByRole('status')).toContainText(`25.5 ml poured in, now, while ${run.code} (2 × Tower`)
  await page.keyboard.press('Enter')
  await expect(happened.getByRole('status')).toContainText('Kept: 25.5 ml poured in')
  await expect(line).toHaveValue('')
  // Enter that is quicker than the answer keeps what was meant, once.
  await line.fill('relevel Kestle closer by a card')
  await page.keyboard.press('Enter')
  await expect(happened.getByRole('status')).toContainText('Kept: Kestle 5: relevelled, now; note: closer by a card.')
  // An end that is hard to believe is asked about once.
  await line.fill(`${run.code.toLowerCase()} done all whole but 2`)
  await expect(happened.getByRole('status')).toContainText(
    `${run.code} (2 × Tower on Ossik 7) finished, now: 1 copy is whole; copy 2 waits to be judged.`,
  )
  await page.keyboard.press('Enter')
  await expect(happened.getByRole('status')).toContainText('Enter again keeps it.')
  await page.keyboard.press('Enter')
  await expect(happened.getByRole('status')).toContainText('Kept:')
  await happened.getByRole('link', { name: 'Open it' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toContainText(run.code)
  const sheet = (await (await page.request.get(`/api/v1/runs/${run.id}`)).json()) as {
    run: { ended_how: string }
    counts: { whole: number; pending: number }
  }
  expect([sheet.run.ended_how, sheet.counts.whole, sheet.counts.pending]).toEqual(['finished', 1, 1])

  // A plate that was printed as planned is put on record by its code alone.
  const planned = (await post('plates', {
    plate: { ...plate, id: '', name: 'One more as planned' },
    placements: [{ piece_id: (await pieceOf(page)).id, scale_pct: 100, x_mm: 30, y_mm: 40, turn_deg: 0 }],
  })) as { plate: { code: string } }
  await page.goto('/')
  await line.fill(`${planned.plate.code} done 2h05 all whole`)
  await expect(happened.getByRole('status')).toContainText(
    `${planned.plate.code} (1 × Tower on Ossik 7), as planned: finished after 2 h 05 min, now: 1 copy is whole.`,
  )
  await page.keyboard.press('Enter')
  await expect(happened.getByRole('status')).toContainText(/Kept|Enter again keeps it/)
  if (await happened.getByText('Enter again keeps it').isVisible()) await page.keyboard.press('Enter')
  await expect(happened.getByRole('status')).toContainText('Kept:')
  await happened.getByRole('link', { name: 'Open it' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toContainText('1 × Tower')

  // The palette takes the same lines.
  await page.keyboard.press('/')
  await page.keyboard.type('new film on Ossik')
  const palette = page.getByRole('dialog')
  await expect(palette.getByRole('option', { selected: true })).toContainText('Keep: Ossik 7: new film, now.')
  await page.keyboard.press('Enter')
  await expect(palette.getByRole('status')).toContainText('Kept: Ossik 7: new film, now.')
  await palette.getByRole('button', { name: 'Open it' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Ossik 7')
  const bench = await (await page.request.get('/api/v1/bench')).text()
  expect(bench.match(/"kinds":\["film"\]/g)).toHaveLength(1)
})

test('a print that failed is made again with what was changed, and either knows of the other', async ({ page }) => {
  const { lines } = (await (await page.request.get('/api/v1/runs?most=1')).json()) as {
    lines: { id: string; code: string }[]
  }
  const { id, code } = lines[0]!
  const sheet = (await (await page.request.get(`/api/v1/runs/${id}`)).json()) as { specimens: object[] }
  const judged = await page.request.put(`/api/v1/runs/${id}/outcomes`, {
    data: sheet.specimens.map((s) => ({
      ...s,
      outcome: 'lost',
      defects: [{ symptom: 'void', origin: 'printed', fault: 'machine' }],
    })),
  })
  expect(judged.ok(), await judged.text()).toBe(true)

  await page.goto('/runs/prepare')
  await page.getByText('Rather print one again, failed ones first').click()
  await page.getByRole('link', { name: new RegExp(code) }).click()
  const again = page.getByRole('region', { name: 'Again', exact: true })
  await again.getByLabel('What was changed by hand').fill('fresh film, relevelled')
  await again.getByRole('button', { name: 'Prepare it again' }).click()
  await expect(page.getByRole('heading', { level: 1 })).not.toContainText(code)
  await expect(page.getByRole('heading', { level: 1 })).toContainText('2 × Tower')
  await expect(again).toContainText(`is ${code} made again: fresh film, relevelled.`)
  await again.getByRole('link', { name: code }).click()
  await expect(again).toContainText(/Made again as R-\d+, .*: fresh film, relevelled\. It is not done yet\./)
})

test('a new piece takes over what is measured on another, and its drawing says what its own mesh has of it', async ({
  page,
}) => {
  const made = await page.request.post('/api/v1/pieces', {
    multipart: {
      name: 'Low tower',
      revision: '1',
      file: { name: 'low.stl', mimeType: 'model/stl', buffer: Buffer.from(boxSTL(20, 12, 8)) },
    },
  })
  expect(made.ok(), await made.text()).toBe(true)
  const { piece } = (await made.json()) as { piece: { id: string } }
  await page.goto(`/kit/pieces/${piece.id}`)
  await page.getByLabel('Copy from').selectOption({ label: 'P1 Tower: 1 feature' })
  await page.getByRole('button', { name: 'Save what is measured' }).click()
  await expect(page.getByText('1 size of 1 found on the mesh, as they were saved.')).toBeVisible()
  await page.getByLabel('Nominal').fill('19')
  await page.getByRole('button', { name: 'Save what is measured' }).click()
  await expect(page.getByText('The mesh shows no Width of 19 mm along x.')).toBeVisible()
})

const pieceOf = async (page: Page) =>
  ((await (await page.request.get('/api/v1/pieces')).json()) as { piece: { id: string } }[])[0]!.piece
