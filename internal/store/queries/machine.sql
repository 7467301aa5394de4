-- name: SaveMachine :exec
INSERT INTO machine (
  id, code, version, created_ms, name, maker, light_engine, width_mm, depth_mm, height_mm, px_x, px_y, irradiance_mw_cm2, dial_step_s, spot_um, hatch_mm, hatch_mm_s, contour_passes, contour_mm_s, settle_s, vat_max_ml, vat_dead_ml, lift, retract, release_s, wait_before_s, wait_after_s, wait_lift_s, start_s, end_s, power_w, price_list, price_discount, price_shipping, price_tax_pct, price_tax_included, price_extras, film_price, film_life_layers, light_price, light_life_h, supplied_by, notes, cell_exposure, claimed_mm_h, quirk_files, quirk_restart, quirk_height, quirk_settings, quirk_films, not_known, quirk_faults
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  code = excluded.code,
  version = excluded.version,
  name = excluded.name,
  maker = excluded.maker,
  light_engine = excluded.light_engine,
  width_mm = excluded.width_mm,
  depth_mm = excluded.depth_mm,
  height_mm = excluded.height_mm,
  px_x = excluded.px_x,
  px_y = excluded.px_y,
  irradiance_mw_cm2 = excluded.irradiance_mw_cm2,
  dial_step_s = excluded.dial_step_s,
  spot_um = excluded.spot_um,
  hatch_mm = excluded.hatch_mm,
  hatch_mm_s = excluded.hatch_mm_s,
  contour_passes = excluded.contour_passes,
  contour_mm_s = excluded.contour_mm_s,
  settle_s = excluded.settle_s,
  vat_max_ml = excluded.vat_max_ml,
  vat_dead_ml = excluded.vat_dead_ml,
  lift = excluded.lift,
  retract = excluded.retract,
  release_s = excluded.release_s,
  wait_before_s = excluded.wait_before_s,
  wait_after_s = excluded.wait_after_s,
  wait_lift_s = excluded.wait_lift_s,
  start_s = excluded.start_s,
  end_s = excluded.end_s,
  power_w = excluded.power_w,
  price_list = excluded.price_list,
  price_discount = excluded.price_discount,
  price_shipping = excluded.price_shipping,
  price_tax_pct = excluded.price_tax_pct,
  price_tax_included = excluded.price_tax_included,
  price_extras = excluded.price_extras,
  film_price = excluded.film_price,
  film_life_layers = excluded.film_life_layers,
  light_price = excluded.light_price,
  light_life_h = excluded.light_life_h,
  supplied_by = excluded.supplied_by,
  notes = excluded.notes,
  cell_exposure = excluded.cell_exposure,
  claimed_mm_h = excluded.claimed_mm_h,
  quirk_files = excluded.quirk_files,
  quirk_restart = excluded.quirk_restart,
  quirk_height = excluded.quirk_height,
  quirk_settings = excluded.quirk_settings,
  quirk_films = excluded.quirk_films,
  not_known = excluded.not_known,
  quirk_faults = excluded.quirk_faults;

-- name: MachineByID :one
SELECT * FROM machine WHERE id = ?;

-- name: Machines :many
SELECT * FROM machine ORDER BY created_ms, code;
