-- +goose Up
-- What makes a record one that can be trusted when things go wrong.

-- A command that a page sent under an id of its own, with its answer, so that
-- one that is sent again is answered and not done again. Kept for a short while.
CREATE TABLE command (
  id      TEXT    PRIMARY KEY CHECK (id <> ''),
  at_ms   INTEGER NOT NULL,
  asked   TEXT    NOT NULL,
  answer  TEXT    NOT NULL
) STRICT;
CREATE INDEX command_at ON command (at_ms);

-- Events of a print stand in the order in which they were told. Their instants
-- are as the clock gave them, and a clock can go back.
ALTER TABLE run_event ADD COLUMN position INTEGER NOT NULL DEFAULT 0;
UPDATE run_event SET position = (SELECT count(*) FROM run_event AS before
  WHERE before.run_id = run_event.run_id AND (before.at_ms < run_event.at_ms OR (before.at_ms = run_event.at_ms AND before.rowid <= run_event.rowid)));
CREATE UNIQUE INDEX run_event_position ON run_event (run_id, position);
ALTER TABLE run ADD COLUMN clock_went_back INTEGER NOT NULL DEFAULT 0 CHECK (clock_went_back IN (0, 1));

-- Messages that a device sent and that make no sense, and why the last did not.
ALTER TABLE device ADD COLUMN set_aside INTEGER NOT NULL DEFAULT 0;
ALTER TABLE device ADD COLUMN set_aside_why TEXT NOT NULL DEFAULT '';

-- A judgement of a specimen carries the version it was made against.
ALTER TABLE specimen ADD COLUMN version INTEGER NOT NULL DEFAULT 1;
