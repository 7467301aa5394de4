-- +goose Up
-- What was tried against a symptom, for which cause, and whether it came back
-- (NULL while that is not known).
CREATE TABLE remedy (
  id        TEXT    PRIMARY KEY,
  run_id    TEXT    NOT NULL REFERENCES run (id),
  symptom   TEXT    NOT NULL CHECK (symptom <> ''),
  cause     TEXT    NOT NULL CHECK (cause <> ''),
  note      TEXT    NOT NULL,
  came_back INTEGER CHECK (came_back IN (0, 1)),
  at_ms     INTEGER NOT NULL
) STRICT;
CREATE INDEX remedy_symptom ON remedy (symptom, at_ms);
