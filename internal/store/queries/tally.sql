-- name: TallyOfRun :one
SELECT * FROM tally WHERE run_id = ?;

-- name: PendingRuns :many
SELECT run.* FROM tally JOIN run ON run.id = tally.run_id WHERE tally.pending > 0 AND (run.prepared_ms IS NULL OR run.ended_ms IS NOT NULL)
ORDER BY run.started_ms LIMIT ?;

-- name: MixedPieces :many
SELECT specimen.run_id, coalesce(specimen.piece_id, run.piece_id) AS piece, count(*) AS specimens, CAST(sum(specimen.outcome = 'micro_defect') AS INTEGER) AS micro,
  CAST(sum(specimen.outcome = 'lost' AND specimen.origin IN ('printed', 'unknown')) AS INTEGER) AS failed,
  CAST(sum(specimen.outcome = 'lost' AND specimen.origin IN ('printed', 'unknown') AND specimen.fault = 'machine') AS INTEGER) AS laid,
  CAST(sum(specimen.outcome = 'lost' AND specimen.origin IN ('printed', 'unknown') AND specimen.fault = 'resin') AS INTEGER) AS laid_resin
FROM tally JOIN run ON run.id = tally.run_id JOIN specimen ON specimen.run_id = tally.run_id
WHERE tally.mixed = 1 AND tally.pending = 0 GROUP BY specimen.run_id, piece;

-- name: JudgedGroups :many
SELECT run.machine_id, run.resin_id, run.profile_id, run.piece_id, tally.mixed, count(*) AS runs,
  CAST(sum(tally.failed > 0) AS INTEGER) AS runs_failed, CAST(sum(tally.laid > 0) AS INTEGER) AS runs_laid,
  CAST(sum(tally.laid_resin > 0) AS INTEGER) AS runs_laid_resin,
  CAST(sum(tally.specimens) AS INTEGER) AS specimens, CAST(sum(tally.micro) AS INTEGER) AS micro, CAST(sum(tally.failed) AS INTEGER) AS failed,
  CAST(sum(tally.laid) AS INTEGER) AS laid, CAST(sum(tally.laid_resin) AS INTEGER) AS laid_resin
FROM tally JOIN run ON run.id = tally.run_id WHERE tally.pending = 0
GROUP BY run.machine_id, run.resin_id, run.profile_id, run.piece_id, tally.mixed;

-- name: JudgedOfMachine :many
SELECT run.id, run.started_ms, run.layers, run.film_layers, run.light_on_s, tally.failed, tally.laid
FROM run JOIN tally ON tally.run_id = run.id WHERE run.machine_id = ? AND tally.pending = 0 ORDER BY run.started_ms, run.rowid;

-- name: PlacesOfMachine :many
SELECT specimen.run_id, specimen.x_mm, specimen.y_mm,
  CAST(specimen.outcome = 'lost' AND specimen.origin IN ('printed', 'unknown') AS INTEGER) AS failed
FROM run JOIN tally ON tally.run_id = run.id AND tally.failed > 0 AND tally.pending = 0 JOIN specimen ON specimen.run_id = run.id
WHERE run.machine_id = ? AND specimen.x_mm IS NOT NULL AND specimen.y_mm IS NOT NULL ORDER BY run.started_ms, run.rowid, specimen.copy;
