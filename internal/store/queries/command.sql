-- name: CommandByID :one
SELECT * FROM command WHERE id = ?;

-- name: SaveCommand :exec
INSERT INTO command (id, at_ms, asked, answer) VALUES (?, ?, ?, ?);

-- name: ForgetCommands :exec
DELETE FROM command WHERE command.at_ms < ? OR command.at_ms > ? OR id IN (SELECT c.id FROM command AS c ORDER BY c.at_ms DESC LIMIT -1 OFFSET ?);
