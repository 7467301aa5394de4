-- +goose Up
-- Readers of a review: what each weighs, between which anchors, and what each must have.
CREATE TABLE reader (
  id             TEXT    NOT NULL PRIMARY KEY,
  code           TEXT    NOT NULL UNIQUE,
  version        INTEGER NOT NULL,
  created_ms     INTEGER NOT NULL,
  review_id      TEXT    NOT NULL REFERENCES review (id),
  name           TEXT    NOT NULL,
  about          TEXT    NOT NULL,
  criteria       TEXT    NOT NULL,
  limits         TEXT    NOT NULL,
  taken_back_ms  INTEGER,
  taken_back_why TEXT    NOT NULL DEFAULT ''
) STRICT;
CREATE INDEX reader_review ON reader (review_id, created_ms);
