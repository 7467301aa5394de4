-- +goose Up
-- What is measured on a piece beyond single sizes: roundness, angles, warp, the elephant foot,
-- fits and threads. One that is not measured any more is retired.
CREATE TABLE form (
  id         TEXT    PRIMARY KEY,
  piece_id   TEXT    NOT NULL REFERENCES piece (id),
  created_ms INTEGER NOT NULL,
  kind       TEXT    NOT NULL CHECK (kind IN ('round', 'angle', 'warp', 'foot', 'fit', 'thread')),
  name       TEXT    NOT NULL CHECK (name <> ''),
  place      TEXT    NOT NULL DEFAULT '',
  nominal    REAL    CHECK (nominal > 0),
  rungs_mm   TEXT    NOT NULL,
  retired_ms INTEGER
) STRICT;
CREATE INDEX form_piece ON form (piece_id, created_ms);

-- One reading of a form. Appended; one that was wrong is taken back.
CREATE TABLE form_reading (
  id             TEXT    PRIMARY KEY,
  specimen_id    TEXT    NOT NULL REFERENCES specimen (id),
  form_id        TEXT    NOT NULL REFERENCES form (id),
  instrument_id  TEXT    REFERENCES instrument (id),
  recorded_ms    INTEGER NOT NULL,
  measured       TEXT    NOT NULL,
  rungs          TEXT    NOT NULL,
  state          TEXT    NOT NULL CHECK (state IN ('', 'no', 'binds', 'goes')),
  mate           TEXT    NOT NULL DEFAULT '',
  taken_back_ms  INTEGER,
  taken_back_why TEXT    NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX form_reading_specimen ON form_reading (specimen_id, recorded_ms);
