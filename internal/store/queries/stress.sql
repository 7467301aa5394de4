-- name: SaveStressSeries :exec
INSERT INTO stress_series (id, code, created_ms, kind, mode, name, under, stage, levels, anchors, fails_from, span_mm, seed, ended_ms, ended_why) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET ended_ms = excluded.ended_ms, ended_why = excluded.ended_why;

-- name: StressSeriesByID :one
SELECT * FROM stress_series WHERE id = ?;

-- name: AllStressSeries :many
SELECT * FROM stress_series ORDER BY created_ms, code;

-- name: SaveStressSpecimen :exec
INSERT INTO stress_specimen (id, stress_series_id, specimen_id, position, level, mass_g, width_mm, thickness_mm) VALUES (?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET mass_g = excluded.mass_g, width_mm = excluded.width_mm, thickness_mm = excluded.thickness_mm;

-- name: StressSpecimens :many
SELECT * FROM stress_specimen ORDER BY stress_series_id, position;

-- name: StressSpecimensOfSeries :many
SELECT * FROM stress_specimen WHERE stress_series_id = ? ORDER BY position;

-- name: StressSpecimensOfRuns :many
SELECT specimen.run_id, sqlc.embed(stress_specimen) FROM specimen JOIN stress_specimen ON stress_specimen.specimen_id = specimen.id
WHERE specimen.run_id IN (sqlc.slice(run_ids)) ORDER BY stress_specimen.stress_series_id, stress_specimen.position;

-- name: SaveStressTest :exec
INSERT INTO stress_test (id, stress_series_id, specimen_id, level, damage, deflection_mm, part, note, at_ms, taken_back_ms) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET taken_back_ms = excluded.taken_back_ms;

-- name: StressTests :many
SELECT * FROM stress_test ORDER BY at_ms, rowid;

-- name: StressTestsOfSeries :many
SELECT * FROM stress_test WHERE stress_series_id = ? ORDER BY at_ms, rowid;

-- name: StressTestsOfRuns :many
SELECT specimen.run_id, sqlc.embed(stress_test) FROM specimen JOIN stress_test ON stress_test.specimen_id = specimen.id
WHERE specimen.run_id IN (sqlc.slice(run_ids)) ORDER BY stress_test.at_ms, stress_test.rowid;
