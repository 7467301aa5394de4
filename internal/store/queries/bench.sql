-- name: SaveBench :exec
INSERT INTO bench (
  id, currency, energy_per_kwh, labour_per_h, waste_pct, version, viewing_mm, attended_from_h, attended_to_h, attended_days, turnaround_min, run_h_per_week, vat_change_min, usual_software, usual_orientation, usual_supports, usual_wash_s, usual_cure_s
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  currency = excluded.currency,
  energy_per_kwh = excluded.energy_per_kwh,
  labour_per_h = excluded.labour_per_h,
  waste_pct = excluded.waste_pct,
  version = excluded.version,
  viewing_mm = excluded.viewing_mm,
  attended_from_h = excluded.attended_from_h,
  attended_to_h = excluded.attended_to_h,
  attended_days = excluded.attended_days,
  turnaround_min = excluded.turnaround_min,
  run_h_per_week = excluded.run_h_per_week,
  vat_change_min = excluded.vat_change_min,
  usual_software = excluded.usual_software,
  usual_orientation = excluded.usual_orientation,
  usual_supports = excluded.usual_supports,
  usual_wash_s = excluded.usual_wash_s,
  usual_cure_s = excluded.usual_cure_s;

-- name: BenchByID :one
SELECT * FROM bench WHERE id = ?;
