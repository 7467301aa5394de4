-- name: SaveMachineEvent :exec
INSERT INTO machine_event (
  id, machine_id, at_ms, kind, note, created_ms
) VALUES (?, ?, ?, ?, ?, ?);

-- name: MachineEventByID :one
SELECT * FROM machine_event WHERE id = ?;

-- name: MachineEvents :many
SELECT * FROM machine_event ORDER BY machine_id, at_ms, id;
