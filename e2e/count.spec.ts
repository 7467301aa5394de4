import { expect, now, test, type Locator, type Page } from './clock'
import { axeFinds } from './axe'
import { boxSTL } from './mesh'

// Three reviews from an empty record to the comparison, through the tables. What a user types, chooses, clicks and
// presses is counted: a cell or field is one, and so is a fill-down, an Enter that goes on to the next row, and each
// file of several. Nothing is pasted: whoever has a spreadsheet needs less.

class Hand {
  count = 0
  constructor(readonly page: Page) {}

  async type(into: Locator, text: string) {
    await into.fill(text)
    this.count++
  }

  async click(on: Locator) {
    await on.click()
    this.count++
  }

  async check(box: Locator) {
    await box.check()
    this.count++
  }

  async press(key: string) {
    await this.page.keyboard.press(key)
    this.count++
  }

  /** Opens a table by the links on the pages, as a user would. */
  async table(kind: string) {
    await this.click(
      this.page.getByRole('navigation', { name: 'Tables' }).getByRole('link', { name: kind, exact: true }),
    )
    await expect(this.cell(/./, 1).first()).toBeVisible()
  }

  cell(label: RegExp | string, row: number) {
    return typeof label === 'string'
      ? this.page.getByLabel(new RegExp(`^${label}(, .*)?, row ${row}$`))
      : this.page.getByLabel(new RegExp(`, row ${row}$`))
  }

  /** Types rows, each as the cells that differ from what it begins with. */
  async rows(rows: Record<string, string>[]) {
    for (const [i, row] of rows.entries()) {
      for (const [label, text] of Object.entries(row)) await this.type(this.cell(label, i + 1), text)
      if (i < rows.length - 1) await this.press('Enter')
    }
  }

  /** Fills the cells below with what stands in one. */
  async down(label: string, row = 1) {
    await this.cell(label, row).focus()
    await this.press('Alt+Shift+ArrowDown')
  }

  async keep(rows: number) {
    await this.click(this.page.getByRole('button', { name: `Keep ${rows} row${rows === 1 ? '' : 's'}` }))
    await expect(this.page.getByText(`${rows} row${rows === 1 ? '' : 's'} kept.`)).toBeVisible()
  }

  async pieces(boxes: { name: string; size: [number, number, number] }[]) {
    const { page } = this
    await this.click(page.getByRole('navigation', { name: 'Tables' }).getByRole('link', { name: 'Pieces' }))
    await page.getByLabel('Mesh files').setInputFiles(
      boxes.map(({ name, size }) => ({
        name: `${name}.stl`,
        mimeType: 'model/stl',
        buffer: Buffer.from(boxSTL(...size)),
      })),
    )
    this.count += boxes.length
    const many = boxes.length > 1
    await this.click(page.getByRole('button', { name: many ? `Keep ${boxes.length} pieces` : 'Keep this piece' }))
    if (many) await this.click(page.getByRole('link', { name: 'Say what is measured on them' }))
    else {
      await expect(page.getByRole('heading', { name: boxes[0]!.name })).toBeVisible()
      await this.click(page.getByRole('link', { name: 'What is measured, as a table' }))
    }
  }

  async underTest(...factors: string[]) {
    await this.click(this.page.getByText('Under test: nothing chosen'))
    const fields = this.page.getByRole('group', { name: 'Factors that vary on purpose' })
    for (const factor of factors) await this.check(fields.getByLabel(factor, { exact: true }))
  }

  /** States the question and opens its comparison. */
  async compare(question: string, about: () => Promise<void>, anyway = false) {
    const { page } = this
    await this.click(page.getByRole('link', { name: 'Verdict' }))
    await this.click(page.getByRole('link', { name: 'State a question' }))
    await this.type(page.getByLabel('Question', { exact: true }), question)
    await page.getByLabel('Settings', { exact: true }).selectOption('maker_default')
    this.count++
    await about()
    await this.click(page.getByRole('button', { name: 'Save the review' }))
    await expect(page.getByRole('heading', { name: question })).toBeVisible()
    await this.click(page.locator('#main').getByRole('link', { name: 'Compare' }))
    await page.getByRole('combobox', { name: 'Question' }).selectOption('failure')
    this.count++
    await expect(page.getByRole('region', { name: 'Fairness audit' })).toContainText('for failure')
    if (anyway) await this.click(page.getByText('show the figures all the same'))
    await expect(page.getByRole('region', { name: 'Figures' }).getByRole('table').first()).toBeVisible()
  }
}

/** The start of a print, so many hours ago, as a cell takes it. */
const ago = (hours: number) => new Date(now() - hours * 3_600_000).toISOString().slice(0, 16).replace('T', ' ')

const machine = (name: string, width: string, pixels: string): Record<string, string> => ({
  Name: name,
  Light: 'masked LCD',
  'Plate width': width,
  'Plate depth': '90',
  Height: '165',
  'Pixels across': pixels,
  'Pixels deep': String(Math.round((Number(pixels) * 90) / Number(width))),
  Lift: '3 at 40; 4 at 120',
  Retract: '7 at 150',
})

async function begin(page: Page): Promise<Hand> {
  const hand = new Hand(page)
  await page.goto('/')
  await hand.click(page.getByRole('link', { name: 'Kit' }))
  await hand.click(page.getByRole('link', { name: 'Several as a table' }))
  return hand
}

test.describe('six settings on one piece', () => {
  test.use({ baseURL: 'http://127.0.0.1:8483' })

  test('take at most 90 inputs from an empty record to the comparison', async ({ page }) => {
    const hand = await begin(page)
    await hand.rows([machine('Harrow', '153', '5120')])
    await hand.keep(1)
    expect(await axeFinds(page)).toEqual([])
    await hand.table('Resins and bottles')
    await hand.rows([{ Name: 'Slate', 'Sold by': '1000', 'List price': '32' }])
    await hand.keep(1)
    await hand.table('Settings')
    await hand.rows([
      {
        Machine: 'Harrow',
        Resin: 'Slate',
        'Layer height': '50',
        Exposure: '2.0',
        'Bottom layers': '5',
        'Bottom exposure': '30',
      },
      ...['2.2', '2.4', '2.6', '2.8', '3.0'].map((s) => ({ Exposure: s })),
    ])
    await hand.keep(6)
    await hand.pieces([{ name: 'Post', size: [12, 12, 20] }])
    await hand.rows([
      { 'Piece or pieces': 'all pieces', Kind: 'dimension', Name: 'Width', Nominal: '12', Axis: 'x', Face: 'outer' },
      { Name: 'Height', Nominal: '20', Axis: 'z' },
    ])
    await hand.keep(2)
    await hand.table('Prints')
    await hand.rows([
      { Settings: 'U-01', Pieces: '4 × Post', Began: ago(20), Took: '1h20', 'Whole copies': 'all', Room: '22' },
      ...[2, 3, 4, 5, 6].map((n) => ({ Settings: `U-0${n}`, Began: ago(20 - 2 * n) })),
    ])
    for (const measured of ['Took', 'Whole copies', 'Room']) await hand.down(measured)
    await hand.keep(6)
    await hand.compare(
      'Which exposure?',
      async () => {
        await hand.check(page.getByLabel('Harrow'))
        await hand.check(page.getByLabel('Slate'))
        await hand.check(page.getByLabel('Post'))
        await hand.underTest('exposure s')
      },
      true,
    )
    await expect(page.getByText('6 of 6 set-ups as sides')).toBeVisible()
    console.log(`six settings on one piece: ${hand.count} inputs`)
    expect(hand.count).toBeLessThanOrEqual(90)
  })
})

test.describe('five resins with two pieces', () => {
  test.use({ baseURL: 'http://127.0.0.1:8484' })

  test('take at most 130 inputs from an empty record to the comparison', async ({ page }) => {
    const hand = await begin(page)
    const resins = ['Slate', 'Dune', 'Moss', 'Chalk', 'Rust']
    await hand.rows([machine('Tern', '130', '4096')])
    await hand.keep(1)
    await hand.table('Resins and bottles')
    await hand.rows(
      resins.map((name, i) => ({
        Name: name,
        'List price': String(24 + 3 * i),
        ...(i === 0 && { 'Sold by': '1000' }),
      })),
    )
    await hand.keep(5)
    await hand.table('Settings')
    await hand.rows(
      resins.map((resin, i) => ({
        Resin: resin,
        Exposure: (2 + 0.3 * i).toFixed(1),
        ...(i === 0 && { Machine: 'Tern', 'Layer height': '50', 'Bottom layers': '5', 'Bottom exposure': '30' }),
      })),
    )
    await hand.keep(5)
    await hand.pieces([
      { name: 'Post', size: [12, 12, 20] },
      { name: 'Slab', size: [30, 20, 6] },
    ])
    await hand.rows([
      { 'Piece or pieces': 'Post', Kind: 'dimension', Name: 'Width', Nominal: '12', Axis: 'x', Face: 'outer' },
      { 'Piece or pieces': 'Slab', Name: 'Length', Nominal: '30', Axis: 'x' },
    ])
    await hand.keep(2)
    await hand.table('Prints')
    await hand.rows(
      resins.flatMap((_, i) =>
        [0, 1].map((n) => ({
          ...(n === 0 && { Settings: `U-0${i + 1}` }),
          ...(n + i === 0 && { Pieces: '2 × Post; 2 × Slab', Took: '1h20', 'Whole copies': 'all', Room: '22' }),
          Began: ago(40 - 4 * i - n),
        })),
      ),
    )
    for (const measured of ['Took', 'Whole copies', 'Room']) await hand.down(measured)
    await hand.keep(10)
    await hand.compare('Which resin?', async () => {
      await hand.check(page.getByLabel('Tern'))
      await hand.click(page.getByRole('button', { name: 'All 5 resins' }))
      await hand.check(page.getByLabel('Post'))
      await hand.check(page.getByLabel('Slab'))
      await hand.underTest('resin')
    })
    await expect(page.getByText('5 of 5 set-ups as sides')).toBeVisible()
    console.log(`five resins with two pieces: ${hand.count} inputs`)
    expect(hand.count).toBeLessThanOrEqual(130)
  })
})

test.describe('nine pieces on three machines with two resins', () => {
  test.use({ baseURL: 'http://127.0.0.1:8485' })

  test('take at most 260 inputs from an empty record to the comparison', async ({ page }) => {
    const hand = await begin(page)
    const machines = ['Harrow', 'Tern', 'Weir']
    await hand.rows([machine('Harrow', '153', '5120'), machine('Tern', '130', '4096'), machine('Weir', '143', '4096')])
    await hand.keep(3)
    await hand.table('Resins and bottles')
    await hand.rows([
      { Name: 'Slate', 'Sold by': '1000', 'List price': '32', Bottle: 'new', Lot: 'L1' },
      { Name: 'Dune', 'List price': '24', Bottle: 'new', Lot: 'K7' },
    ])
    await hand.keep(2)
    await hand.table('Settings')
    await hand.rows(
      machines.flatMap((name, m) =>
        ['Slate', 'Dune'].map((resin, r) => ({
          ...(r === 0 && { Machine: name }),
          Resin: resin,
          Exposure: (2 + 0.2 * m + 0.5 * r).toFixed(1),
          ...(m + r === 0 && { 'Layer height': '50', 'Bottom layers': '5', 'Bottom exposure': '30' }),
        })),
      ),
    )
    await hand.keep(6)
    const names = ['Ranger', 'Smith', 'Warden', 'Piper', 'Herald', 'Miller', 'Cooper', 'Fletcher', 'Mason']
    await hand.pieces(names.map((name, i) => ({ name, size: [10 + i, 10, 16 + i] })))
    await hand.rows([
      { 'Piece or pieces': 'all pieces', Kind: 'dimension', Name: 'Depth', Nominal: '10', Axis: 'y', Face: 'outer' },
      { Kind: 'checkpoint', Name: 'Blade' },
      { Name: 'Hand' },
      { Name: 'Face', Where: 'eyes and brow' },
      ...names.slice(0, 3).map((name) => ({ 'Piece or pieces': name, Name: 'Banner' })),
    ])
    await hand.keep(7)
    await hand.table('Prints')
    await hand.rows(
      [0, 1, 2, 3, 4, 5].flatMap((s) =>
        [0, 1, 2].map((n) => ({
          ...(n === 0 && { Settings: `U-0${s + 1}`, Bottle: `B${(s % 2) + 1}` }),
          ...(n + s === 0 && { Pieces: names.join('; '), Took: '1h35', 'Whole copies': 'all', Room: '22' }),
          Began: ago(60 - 3 * s - n),
        })),
      ),
    )
    for (const measured of ['Took', 'Whole copies', 'Room']) await hand.down(measured)
    await hand.keep(18)
    await hand.compare('Which for an army?', async () => {
      await hand.click(page.getByRole('button', { name: 'All 3 machines' }))
      await hand.check(page.getByLabel('Slate'))
      await hand.check(page.getByLabel('Dune'))
      await hand.click(page.getByRole('button', { name: 'All 9 pieces' }))
      await hand.underTest('machine', 'resin')
    })
    await expect(page.getByText('6 of 6 set-ups as sides')).toBeVisible()
    console.log(`nine pieces on three machines with two resins: ${hand.count} inputs`)
    expect(hand.count).toBeLessThanOrEqual(260)
  })
})
