-- +goose Up
-- The very unit of a machine that was tried: how it came, what was in the box, which films were to
-- be peeled, what it is and takes, how open it is, and how its vendor answered.
CREATE TABLE unit_file (
  id             TEXT    NOT NULL PRIMARY KEY,
  machine_id     TEXT    NOT NULL UNIQUE REFERENCES machine (id),
  version        INTEGER NOT NULL,
  created_ms     INTEGER NOT NULL,
  status         TEXT    NOT NULL CHECK (status IN ('', 'retail', 'lent', 'pre_production', 'first_batch', 'used')),
  received_on    TEXT,
  revision       TEXT    NOT NULL,
  serial         TEXT    NOT NULL,
  firmware       TEXT    NOT NULL,
  body_width_mm  REAL,
  body_depth_mm  REAL,
  body_height_mm REAL,
  lid_open_mm    REAL,
  mass_kg        REAL,
  contents       TEXT    NOT NULL,
  peels          TEXT    NOT NULL,
  ports          TEXT    NOT NULL,
  openness       TEXT    NOT NULL,
  contacts       TEXT    NOT NULL,
  claimed        TEXT    NOT NULL,
  note           TEXT    NOT NULL
) STRICT;
