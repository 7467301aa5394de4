-- +goose Up
-- How even the light of a machine is: what a meter read over its plate on a day.
CREATE TABLE light_grid (
  id             TEXT    NOT NULL PRIMARY KEY,
  machine_id     TEXT    NOT NULL REFERENCES machine (id),
  at_ms          INTEGER NOT NULL,
  readings       TEXT    NOT NULL,
  unit           TEXT    NOT NULL,
  meter          TEXT    NOT NULL,
  note           TEXT    NOT NULL,
  taken_back_ms  INTEGER,
  taken_back_why TEXT    NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX light_grid_machine ON light_grid (machine_id, at_ms);
