import { expect, now, type APIRequestContext } from './clock'
import { boxSTL } from './mesh'

type Json = Record<string, never> & { id: string }

/** What the calls need that prepare a bench: everything else of a test is done on the pages. */
export async function bench(request: APIRequestContext, base: string) {
  const post = async (path: string, data: unknown): Promise<never> => {
    const answer = await request.post(`${base}/api/v1/${path}`, { data })
    expect(answer.ok(), `${path}: ${await answer.text()}`).toBe(true)
    return (await answer.json()) as never
  }
  const price = { price_discount: 0, price_shipping: 0, price_tax_pct: 0, price_tax_included: true }
  const { machine } = (await post('machines', {
    name: 'Ossik 7',
    maker: '',
    light_engine: 'masked_lcd',
    width_mm: 160,
    depth_mm: 90,
    height_mm: 160,
    px_x: 4000,
    px_y: 2250,
    dial_step_s: 0.1,
    lift: [{ mm: 6, mm_min: 60 }],
    retract: [{ mm: 6, mm_min: 150 }],
    wait_before_s: 0,
    wait_after_s: 0,
    wait_lift_s: 0,
    start_s: 20,
    end_s: 10,
    power_w: 50,
    price_extras: 0,
    supplied_by: '',
    notes: '',
    vat_max_ml: 60,
    vat_dead_ml: 20,
    film_life_layers: 450,
    ...price,
  })) as { machine: Json }
  // What its film had seen before the record began, as the machine shows it.
  await post('machine-events', {
    machine_id: machine.id,
    at_ms: now() - 60_000,
    kinds: ['counter'],
    film_layers: 400,
    note: '',
  })
  const { resin } = (await post('resins', {
    name: 'Plain Grey',
    maker: '',
    family: '',
    colour: '#5b6b73',
    bottle_ml: 1000,
    density_g_ml: 1.1,
    price_list: 30,
    stated_wash_s: 120,
    stated_cure_s: 60,
    notes: '',
    ...price,
  })) as { resin: Json }
  const profile = (await post('profiles', {
    machine_id: machine.id,
    resin_id: resin.id,
    layer_um: 50,
    exposure_s: 2.5,
    bottom_layers: 5,
    bottom_exposure_s: 30,
    transition_layers: 0,
    antialiasing: 'none',
    basis: 'default',
    sealed_name: '',
    note: '',
  })) as Json
  const form = {
    name: 'Tower',
    revision: '1',
    support_pct: '10',
    file: { name: 'tower.stl', mimeType: 'model/stl', buffer: Buffer.from(boxSTL(20, 20, 20)) },
  }
  const made = await request.post(`${base}/api/v1/pieces`, { multipart: form })
  const card = (await made.json()) as { piece: Json; features_version: string }
  const piece = card.piece
  const measured = await request.put(`${base}/api/v1/pieces/${piece.id}/features`, {
    data: {
      version: card.features_version,
      features: [
        {
          piece_id: piece.id,
          kind: 'dimension',
          name: 'Width',
          nominal_mm: 20,
          axis: 'x',
          face: 'outer',
          rungs_mm: [],
          place: '',
        },
      ],
    },
  })
  if (!measured.ok()) throw new Error(await measured.text())
  const places = [20, 55, 90, 125].flatMap((x) =>
    [25, 60].map((y) => ({ piece_id: piece.id, scale_pct: 100, x_mm: x, y_mm: y, turn_deg: 0 })),
  )
  await post('plates', {
    plate: {
      name: 'Eight towers',
      machine_id: machine.id,
      profile_id: profile.id,
      margin_mm: 2,
      spacing_mm: 2,
      overlap_allowed: false,
      drip_ml: 4,
      liquid_ratio: 1.06,
      software: '',
    },
    placements: places,
  })
}

interface Laid {
  plate: { id: string; machine_id: string; profile_id: string; code: string }
  run_ids: string[]
}

/** Puts a finished print of every plate on record that waits for one, whole throughout. */
export async function printTheRest(request: APIRequestContext) {
  const profiles = (await (await request.get('/api/v1/profiles')).json()) as {
    profile: { id: string; resin_id: string }
  }[]
  const plates = (await (await request.get('/api/v1/plates')).json()) as Laid[]
  const nothing = [
    'software',
    'software_estimate_s',
    'resin_used_g',
    'attended_min',
    'room_temp_c',
    'resin_temp_c',
    'film_clouded',
  ]
  const unknown = [...nothing, 'orientation', 'supports', 'wash_s', 'cure_s', 'surface']
  for (const [i, { plate }] of plates.filter((p) => p.run_ids.length === 0).entries()) {
    const started = now() - 3_600_000 * (20 - 2 * i)
    const resin = profiles.find((p) => p.profile.id === plate.profile_id)!.profile.resin_id
    const made = await request.post('/api/v1/runs', {
      data: {
        ...Object.fromEntries(unknown.map((name) => [name, null])),
        ...{ machine_id: plate.machine_id, resin_id: resin, profile_id: plate.profile_id, plate_id: plate.id },
        ...{ started_ms: started, ended_ms: started + 3_600_000 + 60_000 * i, notes: '', confirmed: true },
      },
    })
    expect(made.ok(), await made.text()).toBe(true)
    const sheet = (await made.json()) as { run: { id: string }; specimens: object[] }
    const judged = await request.put(`/api/v1/runs/${sheet.run.id}/outcomes`, {
      data: sheet.specimens.map((s) => ({ ...s, outcome: 'whole' })),
    })
    expect(judged.ok(), await judged.text()).toBe(true)
  }
}
