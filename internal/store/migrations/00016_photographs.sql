-- +goose Up
-- Photographs of specimens and of copies of references, with how they were taken. Their files
-- lie beside the record by content hash: as received, and the copies made of them, which
-- carry no tags.
CREATE TABLE photograph (
  id              TEXT    PRIMARY KEY,
  code            TEXT    NOT NULL UNIQUE,
  created_ms      INTEGER NOT NULL,
  specimen_id     TEXT    REFERENCES specimen (id),
  reference_id    TEXT    REFERENCES reference (id),
  copy            INTEGER CHECK (copy > 0),
  feature_id      TEXT    REFERENCES feature (id),
  station         TEXT    NOT NULL CHECK (station IN ('table', 'arms_length', 'in_hand', 'loupe')),
  magnification   REAL    CHECK (magnification > 1),
  stage           TEXT    NOT NULL CHECK (stage IN ('raw', 'washed', 'cured', 'varnished', 'primed', 'painted')),
  light           TEXT    NOT NULL CHECK (light <> ''),
  note            TEXT    NOT NULL,
  file_name       TEXT    NOT NULL,
  kind            TEXT    NOT NULL CHECK (kind IN ('jpeg', 'png', 'webp')),
  file_bytes      INTEGER NOT NULL CHECK (file_bytes > 0),
  original_sha256 TEXT    NOT NULL,
  copy_sha256     TEXT    NOT NULL,
  small_sha256    TEXT    NOT NULL,
  width_px        INTEGER NOT NULL CHECK (width_px > 0),
  height_px       INTEGER NOT NULL CHECK (height_px > 0),
  copy_width_px   INTEGER NOT NULL CHECK (copy_width_px > 0),
  copy_height_px  INTEGER NOT NULL CHECK (copy_height_px > 0),
  blur            REAL    NOT NULL CHECK (blur BETWEEN 0 AND 1),
  taken_back_ms   INTEGER,
  taken_back_why  TEXT    NOT NULL DEFAULT '',
  erased_ms       INTEGER,
  CHECK ((specimen_id IS NOT NULL) + (reference_id IS NOT NULL) = 1),
  CHECK ((reference_id IS NULL) = (copy IS NULL)),
  CHECK ((station = 'loupe') = (magnification IS NOT NULL)),
  CHECK (erased_ms IS NULL OR taken_back_ms IS NOT NULL)
) STRICT;
CREATE INDEX photograph_specimen ON photograph (specimen_id, created_ms);
CREATE INDEX photograph_reference ON photograph (reference_id, created_ms);
CREATE INDEX photograph_file ON photograph (original_sha256);

-- Measured on a photograph, in pixels of the picture as received and turned: a known length,
-- which gives the scale, and what is measured by it.
CREATE TABLE photo_measure (
  id             TEXT    PRIMARY KEY,
  photograph_id  TEXT    NOT NULL REFERENCES photograph (id),
  created_ms     INTEGER NOT NULL,
  kind           TEXT    NOT NULL CHECK (kind IN ('scale', 'length', 'edge', 'period')),
  from_x_px      REAL    NOT NULL,
  from_y_px      REAL    NOT NULL,
  to_x_px        REAL    NOT NULL,
  to_y_px        REAL    NOT NULL,
  known_mm       REAL    CHECK (known_mm > 0),
  known_u_mm     REAL    CHECK (known_u_mm >= 0),
  size_px        REAL    NOT NULL CHECK (size_px > 0),
  u_px           REAL    NOT NULL CHECK (u_px >= 0),
  ripple_px      REAL    CHECK (ripple_px >= 0),
  n              INTEGER NOT NULL CHECK (n > 0),
  taken_back_ms  INTEGER,
  taken_back_why TEXT    NOT NULL DEFAULT '',
  CHECK ((kind = 'scale') = (known_mm IS NOT NULL)),
  CHECK ((known_mm IS NULL) = (known_u_mm IS NULL))
) STRICT;
CREATE INDEX photo_measure_photograph ON photo_measure (photograph_id, created_ms);
