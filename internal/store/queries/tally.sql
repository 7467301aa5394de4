-- name: TallyOfRun :one
SELECT * FROM tally WHERE run_id = ?;

-- name: PendingRuns :many
SELECT run.* FROM tally JOIN run ON run.id = tally.run_id WHERE tally.pending > 0 AND (run.prepared_ms IS NULL OR run.ended_ms IS NOT NULL)
ORDER BY run.started_ms LIMIT ?;

-- name: Judged :many
SELECT run.id, run.code, run.machine_id, run.resin_id, run.profile_id, run.piece_id, run.started_ms, run.layers, run.film_layers, run.light_on_s,
  tally.specimens, tally.micro, tally.lost, tally.failed, tally.laid, tally.laid_resin, tally.mixed
FROM tally JOIN run ON run.id = tally.run_id WHERE tally.pending = 0
  AND (CAST(sqlc.arg(machine_id) AS TEXT) = '' OR run.machine_id = sqlc.arg(machine_id)) ORDER BY run.started_ms, run.id;

-- name: MixedPieces :many
SELECT specimen.run_id, coalesce(specimen.piece_id, run.piece_id) AS piece, count(*) AS specimens, CAST(sum(specimen.outcome = 'micro_defect') AS INTEGER) AS micro,
  CAST(sum(specimen.outcome = 'lost' AND specimen.origin IN ('printed', 'unknown')) AS INTEGER) AS failed,
  CAST(sum(specimen.outcome = 'lost' AND specimen.origin IN ('printed', 'unknown') AND specimen.fault = 'machine') AS INTEGER) AS laid,
  CAST(sum(specimen.outcome = 'lost' AND specimen.origin IN ('printed', 'unknown') AND specimen.fault = 'resin') AS INTEGER) AS laid_resin
FROM tally JOIN run ON run.id = tally.run_id JOIN specimen ON specimen.run_id = tally.run_id
WHERE tally.mixed = 1 AND tally.pending = 0 GROUP BY specimen.run_id, piece;
