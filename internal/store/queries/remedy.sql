-- name: SaveRemedy :exec
INSERT INTO remedy (
  id, run_id, symptom, cause, note, came_back, at_ms
) VALUES (?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  note = excluded.note,
  came_back = excluded.came_back;

-- name: Remedies :many
SELECT * FROM remedy ORDER BY at_ms, id;
