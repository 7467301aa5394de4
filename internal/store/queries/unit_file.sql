-- name: SaveUnitFile :exec
INSERT INTO unit_file (id, machine_id, version, created_ms, status, received_on, revision, serial, firmware, body_width_mm, body_depth_mm, body_height_mm, lid_open_mm, mass_kg, contents, peels, ports, openness, contacts, claimed, note, unpack_min, set_up_by)
VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET version = excluded.version, status = excluded.status, received_on = excluded.received_on, revision = excluded.revision, serial = excluded.serial,
  firmware = excluded.firmware, body_width_mm = excluded.body_width_mm, body_depth_mm = excluded.body_depth_mm, body_height_mm = excluded.body_height_mm, lid_open_mm = excluded.lid_open_mm,
  mass_kg = excluded.mass_kg, contents = excluded.contents, peels = excluded.peels, ports = excluded.ports, openness = excluded.openness, contacts = excluded.contacts,
  claimed = excluded.claimed, note = excluded.note, unpack_min = excluded.unpack_min, set_up_by = excluded.set_up_by;

-- name: UnitFiles :many
SELECT * FROM unit_file ORDER BY created_ms, rowid;

-- name: UnitFileOfMachine :one
SELECT * FROM unit_file WHERE machine_id = ?;
