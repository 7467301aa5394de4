-- +goose Up
-- What it is like to live with a machine, judged by one person on one day, under conditions
-- that are said. Appended; one that was wrong is taken back.
CREATE TABLE machine_rating (
  id             TEXT    PRIMARY KEY,
  machine_id     TEXT    NOT NULL REFERENCES machine (id),
  scale          TEXT    NOT NULL CHECK (scale <> ''),
  score          INTEGER NOT NULL CHECK (score BETWEEN 0 AND 4),
  rater          TEXT    NOT NULL CHECK (rater <> ''),
  conditions     TEXT    NOT NULL,
  note           TEXT    NOT NULL,
  at_ms          INTEGER NOT NULL,
  taken_back_ms  INTEGER,
  taken_back_why TEXT    NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX machine_rating_machine ON machine_rating (machine_id, at_ms);
