-- name: SaveSpecimenStage :exec
INSERT INTO specimen_stage (id, specimen_id, stage, at_ms, rework_min, note, taken_back_ms) VALUES (?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET taken_back_ms = excluded.taken_back_ms;

-- name: SpecimenStages :many
SELECT * FROM specimen_stage ORDER BY at_ms, rowid;

-- name: SpecimenStagesOfRuns :many
SELECT specimen.run_id, sqlc.embed(specimen_stage) FROM specimen JOIN specimen_stage ON specimen_stage.specimen_id = specimen.id
WHERE specimen.run_id IN (sqlc.slice(run_ids)) ORDER BY specimen_stage.at_ms, specimen_stage.rowid;

-- name: SaveResinWeighing :exec
INSERT INTO resin_weighing (id, resin_id, bottle_id, at_ms, mass_g, volume_ml, temp_c, taken_back_ms) VALUES (?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET taken_back_ms = excluded.taken_back_ms;

-- name: ResinWeighings :many
SELECT * FROM resin_weighing ORDER BY at_ms, rowid;

-- name: RunsOfResin :many
SELECT id FROM run WHERE resin_id = ? ORDER BY started_ms;
