-- +goose Up
-- Blind panels, and commands that are known for longer. What judges are shown are codes; what stands behind them is in panel_seal alone, which no
-- page and no list reads before the panel closes. A ballot is what one judge is shown, once: where it may be
-- answered again, another row takes its place and the first stays.
CREATE TABLE panel (
  id             TEXT    NOT NULL PRIMARY KEY,
  code           TEXT    NOT NULL UNIQUE,
  version        INTEGER NOT NULL,
  created_ms     INTEGER NOT NULL,
  review_id      TEXT    NOT NULL REFERENCES review (id),
  kind           TEXT    NOT NULL CHECK (kind IN ('preference', 'odd_one_out', 'ranking', 'matching')),
  shows          TEXT    NOT NULL CHECK (shows IN ('specimens', 'photographs')),
  question       TEXT    NOT NULL,
  looks_at       TEXT    NOT NULL,
  stage          TEXT    NOT NULL CHECK (stage IN ('raw', 'washed', 'cured', 'varnished', 'primed', 'painted')),
  station        TEXT    NOT NULL CHECK (station IN ('table', 'arms_length', 'in_hand', 'loupe')),
  magnification  REAL,
  light          TEXT    NOT NULL,
  judges         INTEGER NOT NULL CHECK (judges > 0),
  repeats        INTEGER NOT NULL,
  same           INTEGER NOT NULL,
  arms           TEXT    NOT NULL,
  coder          TEXT    NOT NULL,
  coded_by       TEXT    NOT NULL CHECK (coded_by IN ('', 'reviewer', 'assistant', 'program')),
  coded          TEXT    NOT NULL,
  tells          TEXT    NOT NULL,
  key_sha256     TEXT    NOT NULL,
  sealed_ms      INTEGER,
  closed_ms      INTEGER,
  early_why      TEXT    NOT NULL DEFAULT '',
  taken_back_ms  INTEGER,
  taken_back_why TEXT    NOT NULL DEFAULT '',
  CHECK (closed_ms IS NULL OR sealed_ms IS NOT NULL)
) STRICT;
CREATE INDEX panel_review ON panel (review_id, created_ms);

CREATE TABLE panel_seal (
  panel_id    TEXT NOT NULL PRIMARY KEY REFERENCES panel (id),
  panel_key   TEXT NOT NULL,
  sealed      TEXT NOT NULL,
  opening     TEXT NOT NULL
) STRICT;

CREATE TABLE ballot (
  id           TEXT    NOT NULL PRIMARY KEY,
  panel_id     TEXT    NOT NULL REFERENCES panel (id),
  judge        INTEGER NOT NULL CHECK (judge > 0),
  token        TEXT    NOT NULL UNIQUE,
  trials       TEXT    NOT NULL,
  created_ms   INTEGER NOT NULL,
  name         TEXT    NOT NULL DEFAULT '',
  answers      TEXT    NOT NULL DEFAULT '[]',
  knew         INTEGER,
  knew_by      TEXT    NOT NULL DEFAULT '',
  way          TEXT    NOT NULL DEFAULT '' CHECK (way IN ('', 'table', 'link', 'file')),
  cast_ms      INTEGER,
  replaced_ms  INTEGER,
  replaced_why TEXT    NOT NULL DEFAULT ''
) STRICT;
CREATE UNIQUE INDEX ballot_judge ON ballot (panel_id, judge) WHERE replaced_ms IS NULL;

-- Ids of commands are kept for a month, their answers for an hour: a phone that was away may send again what had
-- arrived before it left.
CREATE INDEX command_answered ON command (at_ms) WHERE answer <> '';
