-- name: CommandByID :one
SELECT * FROM command WHERE id = ?;

-- name: SaveCommand :exec
INSERT INTO command (id, at_ms, asked, answer) VALUES (?, ?, ?, ?);

-- name: ForgetCommands :exec
DELETE FROM command WHERE command.at_ms < ? OR command.at_ms > ?;

-- name: ForgetAnswers :exec
UPDATE command SET answer = '' WHERE command.answer <> '' AND (command.at_ms < ? OR command.at_ms <= (SELECT c.at_ms FROM command AS c WHERE c.answer <> '' ORDER BY c.at_ms DESC LIMIT 1 OFFSET ?));
