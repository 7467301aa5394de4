-- name: SaveReminder :exec
INSERT INTO reminder (
  id, machine_id, created_ms, kind, every, unit, source, note, contradicted_ms, contradiction
) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
ON CONFLICT (id) DO UPDATE SET
  machine_id = excluded.machine_id,
  kind = excluded.kind,
  every = excluded.every,
  unit = excluded.unit,
  source = excluded.source,
  note = excluded.note,
  contradicted_ms = excluded.contradicted_ms,
  contradiction = excluded.contradiction;

-- name: ReminderByID :one
SELECT * FROM reminder WHERE id = ?;

-- name: Reminders :many
SELECT * FROM reminder ORDER BY created_ms, rowid;
