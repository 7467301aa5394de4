-- +goose Up
-- What is claimed of machines and resins, by whom and with what interest; and how what is reviewed came to the reviewer.
CREATE TABLE claim (
  id             TEXT    NOT NULL PRIMARY KEY,
  code           TEXT    NOT NULL UNIQUE,
  version        INTEGER NOT NULL,
  created_ms     INTEGER NOT NULL,
  review_id      TEXT    REFERENCES review (id),
  machine_id     TEXT    REFERENCES machine (id),
  resin_id       TEXT    REFERENCES resin (id),
  words          TEXT    NOT NULL,
  kind           TEXT    NOT NULL CHECK (kind IN ('words', 'speed', 'ratio', 'life', 'size', 'measure')),
  value          REAL,
  bound          TEXT    NOT NULL CHECK (bound IN ('', 'at_least', 'at_most', 'about')),
  "of"           TEXT    NOT NULL,
  against_id     TEXT    REFERENCES machine (id),
  base           TEXT    NOT NULL,
  source         TEXT    NOT NULL,
  "by"           TEXT    NOT NULL,
  interest       TEXT    NOT NULL CHECK (interest IN ('maker', 'seller', 'paid', 'competitor', 'owner', 'none', 'unknown')),
  test           TEXT    NOT NULL,
  state          TEXT    NOT NULL CHECK (state IN ('', 'met', 'partly', 'not_met', 'cannot_tell', 'untested', 'untestable')),
  why            TEXT    NOT NULL,
  taken_back_ms  INTEGER,
  taken_back_why TEXT    NOT NULL DEFAULT ''
) STRICT;

CREATE TABLE interest (
  id             TEXT    NOT NULL PRIMARY KEY,
  at_ms          INTEGER NOT NULL,
  review_id      TEXT    REFERENCES review (id),
  machine_id     TEXT    REFERENCES machine (id),
  resin_id       TEXT    REFERENCES resin (id),
  piece_id       TEXT    REFERENCES piece (id),
  reference_id   TEXT    REFERENCES reference (id),
  how            TEXT    NOT NULL CHECK (how IN ('bought', 'discounted', 'lent', 'given', 'pre_production', 'own_work', 'free_file', 'code', 'commission', 'advertising', 'none')),
  whom           TEXT    NOT NULL,
  day            TEXT,
  note           TEXT    NOT NULL,
  taken_back_ms  INTEGER,
  taken_back_why TEXT    NOT NULL DEFAULT ''
) STRICT;
