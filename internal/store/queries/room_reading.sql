-- name: SaveRoomReading :exec
INSERT INTO room_reading (id, run_id, at_ms, moment, room_temp_c, humidity_pct, resin_temp_c, heater_on, device_id, note, taken_back_ms, taken_back_why)
VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET taken_back_ms = excluded.taken_back_ms, taken_back_why = excluded.taken_back_why;

-- name: RoomReading :one
SELECT * FROM room_reading WHERE id = ?;

-- name: RoomReadings :many
SELECT * FROM room_reading ORDER BY at_ms, rowid;

-- name: RoomReadingsOfRuns :many
SELECT * FROM room_reading WHERE run_id IN (sqlc.slice('run_ids')) ORDER BY run_id, at_ms, rowid;
