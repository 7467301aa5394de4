-- name: SaveCell :exec
INSERT INTO cell (
  id, series_id, number, exposure_s
) VALUES (?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET exposure_s = excluded.exposure_s;

-- name: CellsOfSeries :many
SELECT * FROM cell WHERE series_id = ? ORDER BY number;

-- name: Cells :many
SELECT * FROM cell ORDER BY series_id, number;
