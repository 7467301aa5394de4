-- name: SaveRun :exec
INSERT INTO run (
  id, code, version, created_ms, machine_id, resin_id, bottle_id, profile_id, piece_id, copies, started_ms, ended_ms, software, software_estimate_s, our_estimate_s, light_on_s, layers, estimate_model, resin_used_g, attended_min, room_temp_c, resin_temp_c, film_layers, film_clouded, days_since_level, moved_since_level, orientation, supports, scale_pct, wash_s, cure_s, surface, notes, plate_id, prepared_ms, vat_fill_ml, prediction, prediction_fail_pct, speed_up, clock_went_back, ended_how, paused_s
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
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
  prediction_fail_pct = excluded.prediction_fail_pct,
  speed_up = excluded.speed_up,
  clock_went_back = excluded.clock_went_back,
  ended_how = excluded.ended_how,
  paused_s = excluded.paused_s;

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

-- name: RunLines :many
SELECT sqlc.embed(run), sqlc.embed(tally) FROM run JOIN tally ON tally.run_id = run.id
WHERE run.rowid IN (
  SELECT r.rowid FROM run AS r
  WHERE (CAST(sqlc.arg(machine_id) AS TEXT) = '' OR r.machine_id = sqlc.arg(machine_id))
    AND (CAST(sqlc.arg(resin_id) AS TEXT) = '' OR r.resin_id = sqlc.arg(resin_id))
    AND (CAST(sqlc.arg(piece_id) AS TEXT) = '' OR r.piece_id = sqlc.arg(piece_id))
    AND (CAST(sqlc.arg(code) AS TEXT) = '' OR r.code LIKE '%' || sqlc.arg(code) || '%')
    AND (CAST(sqlc.arg(shape) AS TEXT) = '' OR r.id IN (SELECT c.run_id FROM tally AS c
      WHERE CASE WHEN c.pending > 0 THEN 'open' WHEN c.lost = c.specimens THEN 'ring' WHEN c.lost > 0 THEN 'split' WHEN c.micro > 0 THEN 'nicked' ELSE 'whole' END = sqlc.arg(shape)))
  ORDER BY r.started_ms DESC, r.rowid DESC LIMIT sqlc.arg(most) OFFSET sqlc.arg(skip))
ORDER BY run.started_ms DESC, run.rowid DESC;

-- name: Beads :many
SELECT run.id, run.code, run.machine_id, run.resin_id, run.piece_id, run.copies, run.started_ms, run.ended_ms, run.prepared_ms,
  tally.specimens, tally.pending, tally.whole, tally.micro, tally.lost
FROM run JOIN tally ON tally.run_id = run.id
WHERE run.started_ms >= ? AND run.started_ms < ?
  AND (run.prepared_ms IS NULL OR EXISTS (SELECT 1 FROM run_event WHERE run_event.run_id = run.id AND run_event.kind = 'start'))
ORDER BY run.started_ms, run.id;

-- name: RunsOf :many
SELECT * FROM run WHERE machine_id = ? AND resin_id = ? AND piece_id = ? ORDER BY started_ms, id;

-- name: FirstRun :one
SELECT CAST(coalesce(min(started_ms), 0) AS INTEGER) FROM run;

-- name: TimesOfMachine :many
SELECT started_ms, ended_ms, ended_how, paused_s, clock_went_back, speed_up, our_estimate_s, estimate_model, software, software_estimate_s FROM run
WHERE machine_id = ? AND ended_ms IS NOT NULL ORDER BY started_ms;

-- name: RunsBefore :many
SELECT * FROM run WHERE machine_id = ? AND started_ms <= ? AND id <> ? ORDER BY started_ms DESC, rowid DESC LIMIT ?;

-- name: UsedUntil :one
SELECT count(*) AS runs, CAST(coalesce(sum(layers), 0) AS INTEGER) AS layers, CAST(coalesce(sum(light_on_s), 0) AS REAL) AS light_s,
  count(light_on_s) AS light_known
FROM run WHERE machine_id = ? AND started_ms >= ? AND started_ms <= ? AND ended_ms IS NOT NULL;

-- name: GoodOfMachine :one
SELECT CAST(coalesce(sum(tally.whole), 0) AS INTEGER) AS good, CAST(coalesce(sum(tally.specimens - tally.pending), 0) AS INTEGER) AS tried
FROM run JOIN tally ON tally.run_id = run.id WHERE run.machine_id = ?;

-- name: ThreadOf :many
SELECT code, resin_id FROM run WHERE machine_id = ? AND started_ms >= ? AND started_ms <= ? ORDER BY started_ms, rowid;
