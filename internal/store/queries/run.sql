-- name: SaveRun :exec
INSERT INTO run (
  id, code, version, created_ms, machine_id, resin_id, bottle_id, profile_id, piece_id, copies, started_ms, ended_ms, software, software_estimate_s, our_estimate_s, light_on_s, layers, estimate_model, resin_used_g, attended_min, room_temp_c, resin_temp_c, film_layers, film_clouded, days_since_level, moved_since_level, orientation, supports, scale_pct, wash_s, cure_s, surface, notes, plate_id, prepared_ms, vat_fill_ml, prediction, prediction_fail_pct
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  code = excluded.code,
  version = excluded.version,
  machine_id = excluded.machine_id,
  resin_id = excluded.resin_id,
  bottle_id = excluded.bottle_id,
  profile_id = excluded.profile_id,
  piece_id = excluded.piece_id,
  copies = excluded.copies,
  started_ms = excluded.started_ms,
  ended_ms = excluded.ended_ms,
  software = excluded.software,
  software_estimate_s = excluded.software_estimate_s,
  our_estimate_s = excluded.our_estimate_s,
  light_on_s = excluded.light_on_s,
  layers = excluded.layers,
  estimate_model = excluded.estimate_model,
  resin_used_g = excluded.resin_used_g,
  attended_min = excluded.attended_min,
  room_temp_c = excluded.room_temp_c,
  resin_temp_c = excluded.resin_temp_c,
  film_layers = excluded.film_layers,
  film_clouded = excluded.film_clouded,
  days_since_level = excluded.days_since_level,
  moved_since_level = excluded.moved_since_level,
  orientation = excluded.orientation,
  supports = excluded.supports,
  scale_pct = excluded.scale_pct,
  wash_s = excluded.wash_s,
  cure_s = excluded.cure_s,
  surface = excluded.surface,
  notes = excluded.notes,
  plate_id = excluded.plate_id,
  prepared_ms = excluded.prepared_ms,
  vat_fill_ml = excluded.vat_fill_ml,
  prediction = excluded.prediction,
  prediction_fail_pct = excluded.prediction_fail_pct;

-- name: RunByID :one
SELECT * FROM run WHERE id = ?;

-- name: Runs :many
SELECT * FROM run ORDER BY started_ms, id;

-- name: LastRunOfMachine :one
SELECT * FROM run WHERE machine_id = ? ORDER BY started_ms DESC, id DESC LIMIT 1;

-- name: RunsOfMachine :many
SELECT * FROM run WHERE machine_id = ? ORDER BY started_ms, code;

-- name: RunsOfPlate :many
SELECT * FROM run WHERE plate_id = ? ORDER BY started_ms, code;

-- name: RunsOfBottle :many
SELECT * FROM run WHERE bottle_id = ? ORDER BY started_ms, code;

-- name: OpenRuns :many
SELECT * FROM run WHERE prepared_ms IS NOT NULL AND ended_ms IS NULL ORDER BY prepared_ms, code;
