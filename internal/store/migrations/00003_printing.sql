-- +goose Up
-- The print as it happens: a run is prepared, started, paused, topped up and
-- ended by events that are appended and never changed.

ALTER TABLE run ADD COLUMN prepared_ms         INTEGER;
ALTER TABLE run ADD COLUMN vat_fill_ml         REAL CHECK (vat_fill_ml >= 0);
ALTER TABLE run ADD COLUMN prediction          TEXT NOT NULL DEFAULT '';
ALTER TABLE run ADD COLUMN prediction_fail_pct REAL CHECK (prediction_fail_pct BETWEEN 0 AND 100);

CREATE TABLE run_event (
  id         TEXT    PRIMARY KEY,
  run_id     TEXT    NOT NULL REFERENCES run (id),
  at_ms      INTEGER NOT NULL,
  kind       TEXT    NOT NULL CHECK (kind IN ('start', 'pause', 'resume', 'top_up', 'note', 'stop', 'finish')),
  ml         REAL    CHECK (ml > 0),
  note       TEXT    NOT NULL,
  created_ms INTEGER NOT NULL,
  CHECK (kind <> 'top_up' OR ml IS NOT NULL)
) STRICT;
CREATE INDEX run_event_run ON run_event (run_id, at_ms);

-- What was answered before a print; the last answer to an item counts.
CREATE TABLE preflight (
  id     TEXT    PRIMARY KEY,
  run_id TEXT    NOT NULL REFERENCES run (id),
  item   TEXT    NOT NULL CHECK (item <> ''),
  state  TEXT    NOT NULL CHECK (state IN ('ticked', 'skipped')),
  at_ms  INTEGER NOT NULL
) STRICT;
CREATE INDEX preflight_run ON preflight (run_id, at_ms);

-- The quirk card: what one learns the hard way.
ALTER TABLE machine ADD COLUMN quirk_files    TEXT NOT NULL DEFAULT '';
ALTER TABLE machine ADD COLUMN quirk_restart  TEXT NOT NULL DEFAULT '';
ALTER TABLE machine ADD COLUMN quirk_height   TEXT NOT NULL DEFAULT '';
ALTER TABLE machine ADD COLUMN quirk_settings TEXT NOT NULL DEFAULT '';
ALTER TABLE machine ADD COLUMN quirk_films    TEXT NOT NULL DEFAULT '';

-- Two more knots; a CHECK changes only with its table, to which nothing refers.
CREATE TABLE machine_event_wider (
  id         TEXT    PRIMARY KEY,
  machine_id TEXT    NOT NULL REFERENCES machine (id),
  at_ms      INTEGER NOT NULL,
  kind       TEXT    NOT NULL CHECK (kind IN ('film', 'panel', 'relevel', 'zero', 'move', 'vat_clean', 'firmware', 'upgrade', 'light_calibration', 'filter', 'incident')),
  note       TEXT    NOT NULL,
  created_ms INTEGER NOT NULL
) STRICT;
INSERT INTO machine_event_wider SELECT id, machine_id, at_ms, kind, note, created_ms FROM machine_event;
DROP TABLE machine_event;
ALTER TABLE machine_event_wider RENAME TO machine_event;
CREATE INDEX machine_event_machine ON machine_event (machine_id, at_ms);
