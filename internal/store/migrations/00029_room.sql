-- +goose Up
-- The room and the resin of a print as they were read, at its start, while it printed and at its end;
-- what a print was made in on the whole follows from them. Until now a print had one temperature of
-- each, and nothing of moisture or a heater; and a resin no temperatures that its maker states for it.
CREATE TABLE room_reading (
  id             TEXT    NOT NULL PRIMARY KEY,
  run_id         TEXT    NOT NULL REFERENCES run (id),
  at_ms          INTEGER NOT NULL,
  moment         TEXT    NOT NULL CHECK (moment IN ('start', 'during', 'end')),
  room_temp_c    REAL,
  humidity_pct   REAL,
  resin_temp_c   REAL,
  heater_on      INTEGER,
  device_id      TEXT REFERENCES device (id),
  note           TEXT    NOT NULL DEFAULT '',
  taken_back_ms  INTEGER,
  taken_back_why TEXT    NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX room_reading_run ON room_reading (run_id, at_ms);
ALTER TABLE run ADD COLUMN humidity_pct REAL;
ALTER TABLE run ADD COLUMN heater_on INTEGER;
ALTER TABLE resin ADD COLUMN prints_from_c REAL;
ALTER TABLE resin ADD COLUMN prints_to_c REAL;
-- How long someone was at a unit before its first print, and who (how experienced).
ALTER TABLE unit_file ADD COLUMN unpack_min REAL;
ALTER TABLE unit_file ADD COLUMN set_up_by TEXT NOT NULL DEFAULT '';
-- What annoys or pleases of a machine day by day, in words: about what, how often, how much it weighs
-- and for whom. It stands apart from print quality.
CREATE TABLE remark (
  id             TEXT    NOT NULL PRIMARY KEY,
  machine_id     TEXT    NOT NULL REFERENCES machine (id),
  at_ms          INTEGER NOT NULL,
  kind           TEXT    NOT NULL CHECK (kind IN ('annoyance', 'pleasure')),
  about          TEXT    NOT NULL,
  what           TEXT    NOT NULL,
  often          TEXT    NOT NULL CHECK (often IN ('every_print', 'often', 'now_and_then', 'once')),
  weight         INTEGER NOT NULL,
  for_whom       TEXT    NOT NULL,
  rater          TEXT    NOT NULL,
  taken_back_ms  INTEGER,
  taken_back_why TEXT    NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX remark_machine ON remark (machine_id, at_ms);
-- What the reviewer usually does: a first print on a machine begins with it.
ALTER TABLE bench ADD COLUMN usual_software TEXT NOT NULL DEFAULT '';
ALTER TABLE bench ADD COLUMN usual_orientation TEXT NOT NULL DEFAULT '';
ALTER TABLE bench ADD COLUMN usual_supports TEXT NOT NULL DEFAULT '';
ALTER TABLE bench ADD COLUMN usual_wash_s REAL;
ALTER TABLE bench ADD COLUMN usual_cure_s REAL;
