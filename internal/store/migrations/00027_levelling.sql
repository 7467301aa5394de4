-- +goose Up
-- How a machine was levelled: its recipe, its corners before and after, its zero, and what the
-- first layer then looked like. It belongs to the knot that says that it was levelled.
CREATE TABLE levelling (
  id               TEXT    NOT NULL PRIMARY KEY,
  machine_id       TEXT    NOT NULL REFERENCES machine (id),
  machine_event_id TEXT    NOT NULL REFERENCES machine_event (id),
  version          INTEGER NOT NULL,
  at_ms            INTEGER NOT NULL,
  how              TEXT    NOT NULL,
  before_mm        TEXT    NOT NULL,
  after_mm         TEXT    NOT NULL,
  zero_mm          REAL,
  first_layer      TEXT    NOT NULL CHECK (first_layer IN ('', 'even', 'uneven', 'let_go')),
  first_layer_note TEXT    NOT NULL,
  ends             TEXT    NOT NULL,
  taken_back_ms    INTEGER,
  taken_back_why   TEXT    NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX levelling_machine ON levelling (machine_id, at_ms);
