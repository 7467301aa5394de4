-- name: SaveRunEvent :exec
INSERT INTO run_event (
  id, run_id, at_ms, kind, ml, note, created_ms, position, layer
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?);

-- name: RunEvents :many
SELECT * FROM run_event ORDER BY run_id, position;

-- name: EventsOfRun :many
SELECT * FROM run_event WHERE run_id = ? ORDER BY position;
