-- name: SaveBench :exec
INSERT INTO bench (
  id, currency, energy_per_kwh, labour_per_h, waste_pct, version
) VALUES (?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  currency = excluded.currency,
  energy_per_kwh = excluded.energy_per_kwh,
  labour_per_h = excluded.labour_per_h,
  waste_pct = excluded.waste_pct,
  version = excluded.version;

-- name: BenchByID :one
SELECT * FROM bench WHERE id = ?;
