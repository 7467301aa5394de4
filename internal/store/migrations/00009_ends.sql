-- +goose Up
-- A print ends in one of two ways, and what it paused is no printing.
ALTER TABLE run ADD COLUMN ended_how TEXT NOT NULL DEFAULT '' CHECK (ended_how IN ('', 'finished', 'stopped'));
ALTER TABLE run ADD COLUMN paused_s  REAL NOT NULL DEFAULT 0 CHECK (paused_s >= 0);

UPDATE run SET ended_how = coalesce(
  (SELECT CASE kind WHEN 'stop' THEN 'stopped' ELSE 'finished' END FROM run_event WHERE run_id = run.id AND kind IN ('stop', 'finish') ORDER BY position DESC LIMIT 1),
  'finished') WHERE ended_ms IS NOT NULL;

UPDATE run SET paused_s = coalesce((SELECT sum(max(0, next_ms - at_ms)) / 1000.0 FROM (
  SELECT kind, at_ms, lead(at_ms) OVER (ORDER BY position) AS next_ms FROM run_event
  WHERE run_id = run.id AND kind IN ('start', 'pause', 'resume', 'stop', 'finish'))
  WHERE kind = 'pause' AND next_ms IS NOT NULL), 0) WHERE prepared_ms IS NOT NULL;

DROP INDEX run_times;
CREATE INDEX run_times ON run (machine_id, started_ms, ended_ms, ended_how, paused_s, clock_went_back, speed_up, our_estimate_s, estimate_model, software, software_estimate_s);
