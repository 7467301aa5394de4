-- name: SaveMachineEvent :exec
INSERT INTO machine_event (
  id, machine_id, at_ms, kind, note, created_ms, changes
) VALUES (?, ?, ?, ?, ?, ?, ?);

-- name: MachineEvents :many
SELECT * FROM machine_event ORDER BY machine_id, at_ms, id;

-- name: MachineEventByID :one
SELECT * FROM machine_event WHERE id = ?;

-- name: EventsOfMachine :many
SELECT * FROM machine_event WHERE machine_id = ? ORDER BY at_ms, id;
