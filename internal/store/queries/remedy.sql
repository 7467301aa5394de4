-- name: SaveRemedy :exec
INSERT INTO remedy (
  id, run_id, symptom, cause, note, came_back, at_ms
) VALUES (?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  note = excluded.note,
  came_back = excluded.came_back;

-- name: Remedies :many
SELECT * FROM remedy ORDER BY at_ms, id;

-- name: RemediedMachines :many
SELECT DISTINCT run.machine_id FROM remedy JOIN run ON run.id = remedy.run_id ORDER BY run.machine_id;

-- name: RemediesOfMachine :many
SELECT remedy.* FROM remedy JOIN run ON run.id = remedy.run_id WHERE run.machine_id = ? ORDER BY remedy.at_ms, remedy.id;
