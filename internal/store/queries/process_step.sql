-- name: SaveProcessStep :exec
INSERT INTO process_step (
  id, run_id, kind, started_ms, ended_ms, planned_s, bath_id, how, effort, scars, note
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  run_id = excluded.run_id,
  kind = excluded.kind,
  started_ms = excluded.started_ms,
  ended_ms = excluded.ended_ms,
  planned_s = excluded.planned_s,
  bath_id = excluded.bath_id,
  how = excluded.how,
  effort = excluded.effort,
  scars = excluded.scars,
  note = excluded.note;

-- name: StepByID :one
SELECT * FROM process_step WHERE id = ?;

-- name: StepsOfRun :many
SELECT * FROM process_step WHERE run_id = ? ORDER BY started_ms, rowid;

-- name: RunningSteps :many
SELECT * FROM process_step WHERE ended_ms IS NULL ORDER BY started_ms, rowid;

-- name: ProcessSteps :many
SELECT * FROM process_step ORDER BY started_ms, rowid;

-- name: StepsOfRuns :many
SELECT * FROM process_step WHERE run_id IN (sqlc.slice('run_ids')) ORDER BY run_id, started_ms, rowid;
