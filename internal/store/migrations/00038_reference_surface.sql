-- +goose Up
-- The surface of a reference is one of a list. What was typed freely becomes the word that it begins with, or "other", and stays
-- in the note.
UPDATE reference
SET note = trim(note || CASE note WHEN '' THEN '' ELSE '; ' END || 'surface: ' || surface)
WHERE surface IS NOT NULL AND surface NOT IN ('raw', 'primed', 'painted', 'other', '');
UPDATE reference
SET surface = CASE
  WHEN surface = '' THEN NULL
  WHEN lower(surface) LIKE 'raw%' THEN 'raw'
  WHEN lower(surface) LIKE 'primed%' THEN 'primed'
  WHEN lower(surface) LIKE 'painted%' THEN 'painted'
  ELSE 'other' END
WHERE surface IS NOT NULL AND surface NOT IN ('raw', 'primed', 'painted', 'other');
