-- name: SaveTally :exec
INSERT INTO tally (
  run_id, piece_id, specimens, pending, whole, micro, lost, micro_printed, failed, by_machine, by_resin, accidents
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (run_id, piece_id) DO UPDATE SET
  specimens = excluded.specimens, pending = excluded.pending, whole = excluded.whole, micro = excluded.micro, lost = excluded.lost, micro_printed = excluded.micro_printed,
  failed = excluded.failed, by_machine = excluded.by_machine, by_resin = excluded.by_resin, accidents = excluded.accidents;

-- name: TalliesOfRun :many
SELECT * FROM tally WHERE run_id = ? ORDER BY rowid;

-- name: TalliesOfRuns :many
SELECT * FROM tally WHERE run_id IN (sqlc.slice('run_ids')) ORDER BY run_id, rowid;

-- name: TalliesBetween :many
SELECT tally.* FROM run JOIN tally ON tally.run_id = run.id WHERE run.started_ms >= ? AND run.started_ms < ? ORDER BY tally.run_id, tally.rowid;

-- name: PendingRuns :many
SELECT * FROM run WHERE shape = 'open' AND (prepared_ms IS NULL OR ended_ms IS NOT NULL) ORDER BY started_ms LIMIT ?;

-- name: JudgedTallies :many
SELECT run.machine_id, run.resin_id, run.profile_id, run.software, run.started_ms, tally.* FROM run JOIN tally ON tally.run_id = run.id WHERE run.shape <> 'open' ORDER BY run.started_ms;

-- name: JudgedOfMachine :many
SELECT run.id, run.started_ms, run.worn_layers, run.worn_light_s, CAST(sum(tally.failed) AS INTEGER) AS failed, CAST(sum(tally.by_machine) AS INTEGER) AS by_machine
FROM run JOIN tally ON tally.run_id = run.id WHERE run.machine_id = ? AND run.shape <> 'open' GROUP BY run.id ORDER BY run.started_ms, run.rowid;

-- name: PlacesOfMachine :many
SELECT specimen.run_id, specimen.x_mm, specimen.y_mm, specimen.failed
FROM run JOIN specimen ON specimen.run_id = run.id
WHERE run.machine_id = ? AND run.shape <> 'open' AND specimen.x_mm IS NOT NULL AND specimen.y_mm IS NOT NULL
  AND EXISTS (SELECT 1 FROM tally WHERE tally.run_id = run.id AND tally.failed > 0)
ORDER BY run.started_ms, run.rowid, specimen.copy;

-- name: PrintedSymptoms :many
SELECT DISTINCT specimen.run_id, specimen.piece_id, defect.symptom, defect.origin
FROM defect CROSS JOIN specimen ON specimen.id = defect.specimen_id
WHERE defect.taken_back_ms IS NULL AND defect.symptom <> '';
