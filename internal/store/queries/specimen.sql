-- name: SaveSpecimen :exec
INSERT INTO specimen (
  id, run_id, copy, code, outcome, note, piece_id, x_mm, y_mm, turn_deg, exposure_s, swapped_with, version, scale_pct, failed, failed_by, micro_printed, accident
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  run_id = excluded.run_id,
  copy = excluded.copy,
  code = excluded.code,
  outcome = excluded.outcome,
  note = excluded.note,
  piece_id = excluded.piece_id,
  x_mm = excluded.x_mm,
  y_mm = excluded.y_mm,
  turn_deg = excluded.turn_deg,
  exposure_s = excluded.exposure_s,
  swapped_with = excluded.swapped_with,
  version = excluded.version,
  scale_pct = excluded.scale_pct,
  failed = excluded.failed,
  failed_by = excluded.failed_by,
  micro_printed = excluded.micro_printed,
  accident = excluded.accident;

-- name: SpecimensOfRun :many
SELECT * FROM specimen WHERE run_id = ? ORDER BY copy;

-- name: Specimens :many
SELECT * FROM specimen ORDER BY run_id, copy;

-- name: SpecimenByCode :one
SELECT * FROM specimen WHERE code = ?;

-- name: BottleUse :one
SELECT count(*) AS runs, count(resin_used_g) AS noted, CAST(coalesce(sum(resin_used_g), 0) AS REAL) AS used_g
FROM run WHERE bottle_id = ? AND started_ms >= ?;

-- name: SpecimensOfRuns :many
SELECT * FROM specimen WHERE run_id IN (sqlc.slice('run_ids')) ORDER BY run_id, copy;

-- name: RunOfSpecimen :one
SELECT run_id FROM specimen WHERE id = ?;

-- name: SpecimenByID :one
SELECT * FROM specimen WHERE id = ?;
