-- name: SaveSlicedFile :exec
INSERT INTO sliced_file (id, run_id, profile_id, created_ms, name, file_sha256, bytes, width_px, height_px, first_number, missing_numbers, other_files, pairs, layers, note, taken_back_ms, taken_back_why)
VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET taken_back_ms = excluded.taken_back_ms, taken_back_why = excluded.taken_back_why;

-- name: SlicedFiles :many
SELECT * FROM sliced_file ORDER BY created_ms, rowid;

-- name: SlicedFile :one
SELECT * FROM sliced_file WHERE id = ?;

-- name: SlicedFilesOfRun :many
SELECT * FROM sliced_file WHERE run_id = ? ORDER BY created_ms, rowid;

-- name: SlicedFilesOfProfile :many
SELECT * FROM sliced_file WHERE profile_id = ? ORDER BY created_ms, rowid;

-- name: SlicedOwners :many
SELECT DISTINCT CAST(coalesce(run_id, profile_id) AS TEXT) AS owner FROM sliced_file;
