-- +goose Up
-- What is really usable of a machine's plate, as it was looked at on a day: dead strips at its
-- edges, how tall a piece may be and still come out, and spots where nothing is to be printed.
CREATE TABLE plate_survey (
  id             TEXT    NOT NULL PRIMARY KEY,
  machine_id     TEXT    NOT NULL REFERENCES machine (id),
  at_ms          INTEGER NOT NULL,
  left_mm        REAL    NOT NULL CHECK (left_mm >= 0),
  right_mm       REAL    NOT NULL CHECK (right_mm >= 0),
  front_mm       REAL    NOT NULL CHECK (front_mm >= 0),
  back_mm        REAL    NOT NULL CHECK (back_mm >= 0),
  height_mm      REAL CHECK (height_mm > 0),
  spots          TEXT    NOT NULL,
  note           TEXT    NOT NULL,
  taken_back_ms  INTEGER,
  taken_back_why TEXT    NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX plate_survey_machine ON plate_survey (machine_id, at_ms);
