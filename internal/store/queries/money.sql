-- name: SavePrice :exec
INSERT INTO price (id, at_ms, machine_id, resin_id, day, state, until_day, amount, shipping, tax_pct, tax_included, source, note, taken_back_ms, taken_back_why)
VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET taken_back_ms = excluded.taken_back_ms, taken_back_why = excluded.taken_back_why;

-- name: Prices :many
SELECT * FROM price ORDER BY at_ms, rowid;

-- name: SaveEquipment :exec
INSERT INTO equipment (id, at_ms, machine_id, item, need, amount, source)
VALUES (?, ?, ?, ?, ?, ?, ?);

-- name: Equipments :many
SELECT * FROM equipment ORDER BY at_ms, rowid;

-- name: SaveBudget :exec
INSERT INTO budget (id, version, review_id, pieces_per_year, years, resale_pct, upkeep, per_piece, paths)
VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET version = excluded.version, pieces_per_year = excluded.pieces_per_year, years = excluded.years, resale_pct = excluded.resale_pct, upkeep = excluded.upkeep, per_piece = excluded.per_piece, paths = excluded.paths;

-- name: Budgets :many
SELECT * FROM budget ORDER BY id;
