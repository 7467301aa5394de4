-- name: SaveBottle :exec
INSERT INTO bottle (
  id, code, version, created_ms, resin_id, lot, opened_on, expires_on, tare_g
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  code = excluded.code,
  version = excluded.version,
  resin_id = excluded.resin_id,
  lot = excluded.lot,
  opened_on = excluded.opened_on,
  expires_on = excluded.expires_on,
  tare_g = excluded.tare_g;

-- name: BottleByID :one
SELECT * FROM bottle WHERE id = ?;

-- name: Bottles :many
SELECT * FROM bottle ORDER BY created_ms, code;
