package bench

import (
	"database/sql/driver"

	"ojime/internal/core/quantity"
	"ojime/internal/core/stack"
)

// SlicedFile is what was read of a sliced print that was laid beside a print, or beside settings:
// one of RunID and ProfileID is set. It is appended; one that was wrong is taken back. The file
// itself is not kept, its hash says which it was.
type SlicedFile struct {
	ID             string       `json:"id" required:"false" readOnly:"true"`
	RunID          *string      `json:"run_id" required:"false"`
	ProfileID      *string      `json:"profile_id" required:"false"`
	CreatedMS      int64        `json:"created_ms" required:"false" readOnly:"true"`
	Name           string       `json:"name"`
	FileSHA256     string       `json:"file_sha256"`
	Bytes          int64        `json:"bytes" minimum:"0"`
	WidthPX        int64        `json:"width_px" minimum:"1"`
	HeightPX       int64        `json:"height_px" minimum:"1"`
	FirstNumber    int64        `json:"first_number" minimum:"0"`
	MissingNumbers Counted      `json:"missing_numbers"`
	OtherFiles     Notes        `json:"other_files"`
	Pairs          SlicedPairs  `json:"pairs"`
	Layers         SlicedLayers `json:"layers" minItems:"1"`
	Note           string       `json:"note" required:"false"`
	TakenBackMS    *int64       `json:"taken_back_ms" required:"false" readOnly:"true"`
	TakenBackWhy   string       `json:"taken_back_why" required:"false" readOnly:"true"`
}

// Check tells what of a sliced file cannot be.
func (f SlicedFile) Check() error {
	var c quantity.Checks
	if (f.RunID == nil) == (f.ProfileID == nil) {
		c.Fail("run_id", "and profile_id exclude each other; a sliced file is laid beside one of them")
	}
	if len(f.Layers) == 0 {
		c.Fail("layers", "are missing; a sliced file has at least one")
	}
	if len(f.FileSHA256) != 64 {
		c.Fail("file_sha256", "is no SHA-256 hash of 64 digits")
	}
	return c.Err()
}

// Counted are numbers of things that are counted.
type Counted []int

// SlicedPairs are the named values that a sliced file holds.
type SlicedPairs []stack.Pair

// SlicedLayers are the layers of a sliced file.
type SlicedLayers []stack.Layer

// Value stores the list as JSON text.
func (l Counted) Value() (driver.Value, error) { return listValue(l) }

// Scan reads what Value stored.
func (l *Counted) Scan(from any) error { return scanList(from, l) }

// Value stores the list as JSON text.
func (l SlicedPairs) Value() (driver.Value, error) { return listValue(l) }

// Scan reads what Value stored.
func (l *SlicedPairs) Scan(from any) error { return scanList(from, l) }

// Value stores the list as JSON text.
func (l SlicedLayers) Value() (driver.Value, error) { return listValue(l) }

// Scan reads what Value stored.
func (l *SlicedLayers) Scan(from any) error { return scanList(from, l) }
