-- name: SaveDefect :exec
INSERT INTO defect (
  id, specimen_id, symptom, severity, began_layer, began_mm, origin, fault, note, at_ms, taken_back_ms, taken_back_why
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  taken_back_ms = excluded.taken_back_ms,
  taken_back_why = excluded.taken_back_why;

-- name: Defects :many
SELECT * FROM defect ORDER BY specimen_id, at_ms, rowid;

-- name: DefectsOfRun :many
SELECT defect.* FROM specimen JOIN defect ON defect.specimen_id = specimen.id WHERE specimen.run_id = ? ORDER BY specimen.copy, defect.at_ms, defect.rowid;

-- name: DefectsOfRuns :many
SELECT defect.* FROM specimen JOIN defect ON defect.specimen_id = specimen.id WHERE specimen.run_id IN (sqlc.slice('run_ids')) ORDER BY specimen.run_id, specimen.copy, defect.at_ms, defect.rowid;
