package bench

import (
	"database/sql/driver"
	"strings"

	"ojime/internal/core/quantity"
)

// Finding is a sentence that a review publishes: a row of a comparison (Measure of PieceID, empty for all pieces
// matched, between two Sides), what a closed panel showed, or, with neither, the reviewer's own. Original and Grade are
// as they were when it was picked; Words is how the reviewer put it, empty for the sentence that the record gives.
// Position is its place among the findings of the review.
type Finding struct {
	ID           string    `json:"id" required:"false" readOnly:"true"`
	Code         string    `json:"code" required:"false" readOnly:"true"`
	Version      int64     `json:"version" required:"false"`
	CreatedMS    int64     `json:"created_ms" required:"false" readOnly:"true"`
	ReviewID     string    `json:"review_id" required:"false" readOnly:"true"`
	Position     int64     `json:"position" required:"false"`
	PieceID      string    `json:"piece_id" required:"false"`
	Measure      string    `json:"measure" required:"false"`
	Sides        SetUpRefs `json:"sides" required:"false"`
	PanelID      *string   `json:"panel_id" required:"false"`
	PanelRow     int64     `json:"panel_row" required:"false"`
	Original     string    `json:"original" maxLength:"3000"`
	Grade        string    `json:"grade" enum:"showed,suggests,looked,cannot_tell,not_tested"`
	Words        string    `json:"words" required:"false" maxLength:"1000"`
	TakenBackMS  *int64    `json:"taken_back_ms" required:"false" readOnly:"true"`
	TakenBackWhy string    `json:"taken_back_why" required:"false" readOnly:"true"`
}

// SetUpRefs name set-ups of a review.
type SetUpRefs []SetUpRef

// Value stores the list as JSON text.
func (l SetUpRefs) Value() (driver.Value, error) { return listValue(l) }

// Scan reads what Value stored.
func (l *SetUpRefs) Scan(from any) error { return scanList(from, l) }

// Own reports a finding that is the reviewer's own word and rests on no row.
func (f Finding) Own() bool { return f.Measure == "" && f.PanelID == nil }

// Says is the sentence that is published: the reviewer's wording, or the one that the record gives.
func (f Finding) Says(now string) string {
	if f.Words != "" {
		return f.Words
	}
	return now
}

// Check says what makes no sense about a finding.
func (f Finding) Check() error {
	var c quantity.Checks
	if f.Own() && strings.TrimSpace(f.Words) == "" {
		c.Fail("words", "is missing; pick a row of a comparison, or say in a sentence what was found")
	}
	if f.Measure != "" && len(f.Sides) != 2 {
		c.Fail("sides", "are %d; a row of a comparison is between two set-ups", len(f.Sides))
	}
	if f.Measure != "" && f.PanelID != nil {
		c.Fail("panel_id", "names a panel beside a measure; a finding rests on one of them")
	}
	return c.Err()
}
