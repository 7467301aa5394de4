-- name: SaveWorkroom :exec
INSERT INTO workroom (id, code, version, created_ms, name, room_temp_c, humidity_pct, heater_on, note, retired_ms)
VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  version = excluded.version,
  room_temp_c = excluded.room_temp_c,
  humidity_pct = excluded.humidity_pct,
  heater_on = excluded.heater_on,
  note = excluded.note,
  retired_ms = excluded.retired_ms;

-- name: WorkroomByID :one
SELECT * FROM workroom WHERE id = ?;

-- name: Workrooms :many
SELECT * FROM workroom ORDER BY created_ms, code;

-- name: SaveChecklist :exec
INSERT INTO checklist (id, code, version, created_ms, kind, checkpoints) VALUES (?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  version = excluded.version,
  checkpoints = excluded.checkpoints;

-- name: ChecklistByID :one
SELECT * FROM checklist WHERE id = ?;

-- name: Checklists :many
SELECT * FROM checklist ORDER BY kind;

-- name: RoomReadingsBetween :many
SELECT run.machine_id, run.code, sqlc.embed(room_reading) FROM room_reading JOIN run ON run.id = room_reading.run_id
WHERE room_reading.at_ms BETWEEN sqlc.arg(from_ms) AND sqlc.arg(to_ms) AND room_reading.taken_back_ms IS NULL
ORDER BY room_reading.at_ms DESC, room_reading.rowid DESC;
