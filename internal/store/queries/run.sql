-- name: SaveRun :exec
INSERT INTO run (
  id, code, version, created_ms, machine_id, resin_id, bottle_id, profile_id, copies, started_ms, ended_ms, software, software_estimate_s, our_estimate_s, light_on_s, layers, estimate_model, resin_used_g, attended_min, room_temp_c, resin_temp_c, film_clouded, orientation, supports, wash_s, cure_s, surface, notes, plate_id, prepared_ms, vat_fill_ml, prediction, prediction_fail_pct, speed_up, clock_went_back, ended_how, paused_s, level_off, observed, stopped_layer, dial_changed, end_confirmed, worn_layers, worn_light_s, area_mm2, outline_mm, job, shape, again_of_id, again_change, humidity_pct, heater_on
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  humidity_pct = excluded.humidity_pct,
  heater_on = excluded.heater_on,
  code = excluded.code,
  version = excluded.version,
  machine_id = excluded.machine_id,
  resin_id = excluded.resin_id,
  bottle_id = excluded.bottle_id,
  profile_id = excluded.profile_id,
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
  film_clouded = excluded.film_clouded,
  orientation = excluded.orientation,
  supports = excluded.supports,
  wash_s = excluded.wash_s,
  cure_s = excluded.cure_s,
  surface = excluded.surface,
  notes = excluded.notes,
  plate_id = excluded.plate_id,
  prepared_ms = excluded.prepared_ms,
  vat_fill_ml = excluded.vat_fill_ml,
  prediction = excluded.prediction,
  prediction_fail_pct = excluded.prediction_fail_pct,
  speed_up = excluded.speed_up,
  clock_went_back = excluded.clock_went_back,
  ended_how = excluded.ended_how,
  paused_s = excluded.paused_s,
  level_off = excluded.level_off,
  observed = excluded.observed,
  stopped_layer = excluded.stopped_layer,
  dial_changed = excluded.dial_changed,
  end_confirmed = excluded.end_confirmed,
  worn_layers = excluded.worn_layers,
  worn_light_s = excluded.worn_light_s,
  area_mm2 = excluded.area_mm2,
  outline_mm = excluded.outline_mm,
  job = excluded.job,
  shape = excluded.shape;

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

-- name: RunsAgain :many
SELECT * FROM run WHERE again_of_id = ? ORDER BY created_ms, code;

-- name: OpenRuns :many
SELECT * FROM run WHERE prepared_ms IS NOT NULL AND ended_ms IS NULL ORDER BY prepared_ms, code;

-- name: RunLines :many
SELECT * FROM run AS r
WHERE (CAST(sqlc.arg(machine_id) AS TEXT) = '' OR r.machine_id = sqlc.arg(machine_id))
  AND (CAST(sqlc.arg(resin_id) AS TEXT) = '' OR r.resin_id = sqlc.arg(resin_id))
  AND (CAST(sqlc.arg(piece_id) AS TEXT) = '' OR EXISTS (SELECT 1 FROM tally WHERE tally.run_id = r.id AND tally.piece_id = sqlc.arg(piece_id)))
  AND (CAST(sqlc.arg(code) AS TEXT) = '' OR r.code LIKE '%' || sqlc.arg(code) || '%')
  AND (CAST(sqlc.arg(shape) AS TEXT) = '' OR r.shape = sqlc.arg(shape))
ORDER BY r.started_ms DESC, r.id DESC LIMIT sqlc.arg(most) OFFSET sqlc.arg(skip);

-- name: Beads :many
SELECT id, code, machine_id, resin_id, copies, started_ms, ended_ms, prepared_ms, shape FROM run
WHERE started_ms >= ? AND started_ms < ?
  AND (prepared_ms IS NULL OR ended_ms IS NOT NULL OR EXISTS (SELECT 1 FROM run_event WHERE run_event.run_id = run.id AND run_event.kind = 'start'))
ORDER BY started_ms, id;

-- name: RunsOf :many
SELECT * FROM run WHERE machine_id = ? AND resin_id = ? AND EXISTS (SELECT 1 FROM tally WHERE tally.run_id = run.id AND tally.piece_id = ?) ORDER BY started_ms, id;

-- name: FirstRun :one
SELECT CAST(coalesce(min(started_ms), 0) AS INTEGER) FROM run;

-- name: TimesOfMachine :many
SELECT id, started_ms, profile_id, job, ended_ms, ended_how, paused_s, clock_went_back, speed_up, dial_changed, our_estimate_s, estimate_model, software, software_estimate_s, layers, area_mm2, outline_mm FROM run
WHERE machine_id = ? AND ended_ms IS NOT NULL ORDER BY started_ms;

-- name: RunsBefore :many
SELECT * FROM run WHERE machine_id = ? AND started_ms <= ? AND id <> ? ORDER BY started_ms DESC, rowid DESC LIMIT ?;

-- name: WearOfMachine :many
SELECT id, started_ms, resin_id, worn_layers, worn_light_s FROM run WHERE machine_id = ? AND ended_ms IS NOT NULL AND speed_up IS NULL ORDER BY started_ms;

-- name: ToldOfMachine :one
SELECT CAST(coalesce(sum(tally.specimens - tally.pending), 0) AS INTEGER) AS judged, CAST(coalesce(sum(tally.failed + tally.micro_printed), 0) AS INTEGER) AS spoilt,
  CAST(coalesce(sum(tally.accidents), 0) AS INTEGER) AS accidents
FROM run JOIN tally ON tally.run_id = run.id WHERE run.machine_id = ?;

-- name: RunsWithoutJob :many
SELECT * FROM run WHERE job = '' ORDER BY started_ms;

-- name: ThreadOf :many
SELECT code, resin_id, started_ms FROM run WHERE machine_id = ? AND started_ms >= ? AND started_ms <= ? ORDER BY started_ms, rowid;

-- name: RunsByID :many
SELECT * FROM run WHERE id IN (sqlc.slice('run_ids'));

-- name: RunsToFirstWhole :many
SELECT r.* FROM run AS r WHERE r.machine_id = sqlc.arg(machine_id) AND r.ended_ms IS NOT NULL AND r.speed_up IS NULL
  AND r.started_ms <= (SELECT CAST(COALESCE(MIN(w.started_ms), 9223372036854775807) AS INTEGER) FROM run AS w WHERE w.machine_id = r.machine_id AND w.shape = 'whole' AND w.ended_ms IS NOT NULL AND w.speed_up IS NULL)
ORDER BY r.started_ms, r.code;
