-- name: SaveMachineEvent :exec
INSERT INTO machine_event (
  id, machine_id, at_ms, kinds, note, created_ms, changes, film_layers, light_h, unknown_before, resin_id, version, retired_ms, retired_why, claimed_time_pct
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  at_ms = excluded.at_ms,
  kinds = excluded.kinds,
  note = excluded.note,
  changes = excluded.changes,
  film_layers = excluded.film_layers,
  light_h = excluded.light_h,
  unknown_before = excluded.unknown_before,
  resin_id = excluded.resin_id,
  version = excluded.version,
  retired_ms = excluded.retired_ms,
  retired_why = excluded.retired_why,
  claimed_time_pct = excluded.claimed_time_pct;

-- name: MachineEvents :many
SELECT * FROM machine_event ORDER BY machine_id, at_ms, id;

-- name: MachineEventByID :one
SELECT * FROM machine_event WHERE id = ?;

-- name: EventsOfMachine :many
SELECT * FROM machine_event WHERE machine_id = ? ORDER BY at_ms, id;
