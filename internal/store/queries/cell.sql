-- name: SaveCell :exec
INSERT INTO cell (
  id, series_id, number, exposure_s
) VALUES (?, ?, ?, ?);

-- name: CellsOfSeries :many
SELECT * FROM cell WHERE series_id = ? ORDER BY number;

-- name: Cells :many
SELECT * FROM cell ORDER BY series_id, number;
