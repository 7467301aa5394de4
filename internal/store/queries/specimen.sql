-- name: SaveSpecimen :exec
INSERT INTO specimen (
  id, run_id, copy, code, outcome, symptom, origin, fault, note, piece_id, x_mm, y_mm, turn_deg, exposure_s, severity, began_layer, began_mm, swapped_with, version
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  run_id = excluded.run_id,
  copy = excluded.copy,
  code = excluded.code,
  outcome = excluded.outcome,
  symptom = excluded.symptom,
  origin = excluded.origin,
  fault = excluded.fault,
  note = excluded.note,
  piece_id = excluded.piece_id,
  x_mm = excluded.x_mm,
  y_mm = excluded.y_mm,
  turn_deg = excluded.turn_deg,
  exposure_s = excluded.exposure_s,
  severity = excluded.severity,
  began_layer = excluded.began_layer,
  began_mm = excluded.began_mm,
  swapped_with = excluded.swapped_with,
  version = excluded.version;

-- name: SpecimensOfRun :many
SELECT * FROM specimen WHERE run_id = ? ORDER BY copy;

-- name: Specimens :many
SELECT * FROM specimen ORDER BY run_id, copy;

-- name: SpecimenByCode :one
SELECT * FROM specimen WHERE code = ?;

-- name: BottleUse :one
SELECT count(*) AS runs, count(resin_used_g) AS noted, CAST(coalesce(sum(resin_used_g), 0) AS REAL) AS used_g
FROM run WHERE bottle_id = ? AND started_ms >= ?;
