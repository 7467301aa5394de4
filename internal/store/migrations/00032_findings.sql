-- +goose Up
-- What a review publishes as found: picked rows, in the reviewer's order and words, with the sentence as it was when it
-- was picked.
CREATE TABLE finding (
  id             TEXT    NOT NULL PRIMARY KEY,
  code           TEXT    NOT NULL UNIQUE,
  version        INTEGER NOT NULL,
  created_ms     INTEGER NOT NULL,
  review_id      TEXT    NOT NULL REFERENCES review (id),
  position       INTEGER NOT NULL,
  piece_id       TEXT    NOT NULL,
  measure        TEXT    NOT NULL,
  sides          TEXT    NOT NULL,
  panel_id       TEXT    REFERENCES panel (id),
  panel_row      INTEGER NOT NULL,
  original       TEXT    NOT NULL,
  grade          TEXT    NOT NULL CHECK (grade IN ('showed', 'suggests', 'looked', 'cannot_tell', 'not_tested')),
  words          TEXT    NOT NULL DEFAULT '',
  taken_back_ms  INTEGER,
  taken_back_why TEXT    NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX finding_review ON finding (review_id, position);
