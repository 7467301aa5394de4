-- name: SaveMachineEvent :exec
INSERT INTO machine_event (
  id, machine_id, at_ms, kind, note, created_ms
) VALUES (?, ?, ?, ?, ?, ?);

-- name: MachineEvents :many
SELECT * FROM machine_event ORDER BY machine_id, at_ms, id;
