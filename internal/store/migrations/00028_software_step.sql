-- +goose Up
-- What was done with a piece on a computer before it is printed, each step with its clock: from the
-- import to the transfer, by which program and version, on which computer, and how it ended.
CREATE TABLE software_step (
  id               TEXT    NOT NULL PRIMARY KEY,
  piece_id         TEXT    NOT NULL REFERENCES piece (id),
  at_ms            INTEGER NOT NULL,
  stage            TEXT    NOT NULL CHECK (stage IN ('import', 'orient', 'support', 'slice', 'export', 'transfer')),
  took_s           REAL,
  software         TEXT    NOT NULL,
  software_version TEXT    NOT NULL,
  computer         TEXT    NOT NULL,
  person           TEXT    NOT NULL,
  ended            TEXT    NOT NULL CHECK (ended IN ('done', 'error', 'crash')),
  note             TEXT    NOT NULL,
  taken_back_ms    INTEGER,
  taken_back_why   TEXT    NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX software_step_piece ON software_step (piece_id, at_ms);
