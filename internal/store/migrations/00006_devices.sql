-- +goose Up
-- What sends readings and progress in. A device counts its messages within a
-- session (from its start to its end), so that lost and doubled ones show.

CREATE TABLE device (
  id           TEXT    PRIMARY KEY,
  code         TEXT    NOT NULL UNIQUE,
  version      INTEGER NOT NULL,
  created_ms   INTEGER NOT NULL,
  name         TEXT    NOT NULL CHECK (name <> ''),
  kind         TEXT    NOT NULL CHECK (kind IN ('printer', 'caliper', 'scale', 'thermometer', 'light_meter', 'noise_meter')),
  machine_id   TEXT    REFERENCES machine (id),
  token_sha256 TEXT    NOT NULL UNIQUE,
  stand_in     INTEGER NOT NULL CHECK (stand_in IN (0, 1)),
  retired_ms   INTEGER,
  CHECK (kind <> 'printer' OR machine_id IS NOT NULL)
) STRICT;

CREATE TABLE device_session (
  device_id   TEXT    NOT NULL REFERENCES device (id),
  session     TEXT    NOT NULL CHECK (session <> ''),
  first_ms    INTEGER NOT NULL,
  last_ms     INTEGER NOT NULL,
  last_seq    INTEGER NOT NULL,
  received    INTEGER NOT NULL,
  doubled     INTEGER NOT NULL,
  late        INTEGER NOT NULL,
  disordered  INTEGER NOT NULL,
  lag_ms      INTEGER NOT NULL,
  last_state  TEXT    NOT NULL,
  PRIMARY KEY (device_id, session)
) STRICT, WITHOUT ROWID;

-- at_ms by the device's clock, received_ms by ours.
CREATE TABLE device_message (
  device_id   TEXT    NOT NULL,
  session     TEXT    NOT NULL,
  seq         INTEGER NOT NULL CHECK (seq > 0),
  at_ms       INTEGER NOT NULL,
  received_ms INTEGER NOT NULL,
  kind        TEXT    NOT NULL,
  value       REAL,
  unit        TEXT    NOT NULL,
  state       TEXT    NOT NULL,
  layer       INTEGER,
  note        TEXT    NOT NULL,
  PRIMARY KEY (device_id, session, seq),
  FOREIGN KEY (device_id, session) REFERENCES device_session (device_id, session)
) STRICT, WITHOUT ROWID;

-- Where the machine itself says that a print is; the newest word counts.
CREATE TABLE run_feed (
  run_id       TEXT    PRIMARY KEY REFERENCES run (id),
  device_id    TEXT    NOT NULL REFERENCES device (id),
  session      TEXT    NOT NULL,
  seq          INTEGER NOT NULL,
  at_ms        INTEGER NOT NULL,
  state        TEXT    NOT NULL,
  layer        INTEGER CHECK (layer >= 0),
  layers       INTEGER CHECK (layers > 0),
  layer_at_ms  INTEGER,
  resin_temp_c REAL
) STRICT;

-- How many times faster than time a stand-in printed; NULL is a real print.
-- What such a run took is no measurement.
ALTER TABLE run ADD COLUMN speed_up REAL CHECK (speed_up > 0);
