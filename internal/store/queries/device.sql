-- name: SaveDevice :exec
INSERT INTO device (
  id, code, version, created_ms, name, kind, machine_id, token_sha256, stand_in, retired_ms, set_aside, set_aside_why
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  code = excluded.code,
  version = excluded.version,
  name = excluded.name,
  kind = excluded.kind,
  machine_id = excluded.machine_id,
  token_sha256 = excluded.token_sha256,
  stand_in = excluded.stand_in,
  retired_ms = excluded.retired_ms,
  set_aside = excluded.set_aside,
  set_aside_why = excluded.set_aside_why;

-- name: DeviceByID :one
SELECT * FROM device WHERE id = ?;

-- name: DeviceByToken :one
SELECT * FROM device WHERE token_sha256 = ?;

-- name: Devices :many
SELECT * FROM device ORDER BY created_ms, code;

-- name: SaveDeviceSession :exec
INSERT INTO device_session (
  device_id, session, first_ms, last_ms, last_seq, received, doubled, late, disordered, lag_ms, last_state
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (device_id, session) DO UPDATE SET
  first_ms = excluded.first_ms,
  last_ms = excluded.last_ms,
  last_seq = excluded.last_seq,
  received = excluded.received,
  doubled = excluded.doubled,
  late = excluded.late,
  disordered = excluded.disordered,
  lag_ms = excluded.lag_ms,
  last_state = excluded.last_state;

-- name: DeviceSessionByKey :one
SELECT * FROM device_session WHERE device_id = ? AND session = ?;

-- name: SessionsOfDevice :many
SELECT * FROM device_session WHERE device_id = ? ORDER BY first_ms DESC LIMIT 20;

-- name: SaveDeviceMessage :execrows
INSERT INTO device_message (
  device_id, session, seq, at_ms, received_ms, kind, value, unit, state, layer, note
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT DO NOTHING;

-- name: MessagesOfDevice :many
SELECT * FROM device_message WHERE device_id = ? ORDER BY received_ms DESC, seq DESC LIMIT ?;

-- name: SaveRunFeed :exec
INSERT INTO run_feed (
  run_id, device_id, session, seq, at_ms, state, layer, layers, layer_at_ms, resin_temp_c
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (run_id) DO UPDATE SET
  device_id = excluded.device_id,
  session = excluded.session,
  seq = excluded.seq,
  at_ms = excluded.at_ms,
  state = excluded.state,
  layer = excluded.layer,
  layers = excluded.layers,
  layer_at_ms = excluded.layer_at_ms,
  resin_temp_c = excluded.resin_temp_c;

-- name: FeedOfRun :one
SELECT * FROM run_feed WHERE run_id = ?;

-- name: RunsInSession :one
SELECT count(*) FROM run_feed WHERE device_id = ? AND session = ? AND seq < ?;

-- name: DeviceSessions :many
SELECT * FROM device_session ORDER BY device_id, first_ms, session;

-- name: DeviceMessages :many
SELECT * FROM device_message
WHERE (device_id, session, seq) > (CAST(sqlc.arg(device_id) AS TEXT), CAST(sqlc.arg(session) AS TEXT), CAST(sqlc.arg(seq) AS INTEGER))
ORDER BY device_id, session, seq LIMIT sqlc.arg(most);

-- name: RunFeeds :many
SELECT * FROM run_feed ORDER BY run_id;

-- name: SetMessagesAside :exec
UPDATE device SET set_aside = set_aside + ?, set_aside_why = ? WHERE id = ?;
