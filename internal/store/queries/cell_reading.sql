-- name: SaveCellReading :exec
INSERT INTO cell_reading (
  id, cell_id, recorded_ms, survived, smallest_pin_mm, smallest_gap_mm, outer_error_mm, inner_error_mm, features_ok, features_total
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?);

-- name: CellReadingsOfSeries :many
SELECT cell_reading.* FROM cell_reading JOIN cell ON cell.id = cell_reading.cell_id
WHERE cell.series_id = ? ORDER BY cell_reading.recorded_ms, cell_reading.rowid;

-- name: CellReadings :many
SELECT * FROM cell_reading ORDER BY recorded_ms, rowid;
