-- name: SaveSpecimen :exec
INSERT INTO specimen (
  id, run_id, copy, code, outcome, symptom, origin, fault, note
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  run_id = excluded.run_id,
  copy = excluded.copy,
  code = excluded.code,
  outcome = excluded.outcome,
  symptom = excluded.symptom,
  origin = excluded.origin,
  fault = excluded.fault,
  note = excluded.note;

-- name: SpecimensOfRun :many
SELECT * FROM specimen WHERE run_id = ? ORDER BY copy;

-- name: Specimens :many
SELECT * FROM specimen ORDER BY run_id, copy;
