package bench

import (
	"database/sql/driver"
	"fmt"
	"strings"

	"ojime/internal/core/quantity"
	"ojime/internal/core/verdict"
)

// Reader is somebody whom a review is for: what they weigh, between stated anchors, and what they must have.
type Reader struct {
	ID           string         `json:"id" required:"false" readOnly:"true"`
	Code         string         `json:"code" required:"false" readOnly:"true"`
	Version      int64          `json:"version" required:"false"`
	CreatedMS    int64          `json:"created_ms" required:"false" readOnly:"true"`
	ReviewID     string         `json:"review_id" required:"false" readOnly:"true"`
	Name         string         `json:"name" minLength:"1" maxLength:"80"`
	About        string         `json:"about" required:"false"`
	Criteria     ReaderCriteria `json:"criteria" maxItems:"30"`
	Limits       ReaderLimits   `json:"limits" required:"false" maxItems:"30"`
	TakenBackMS  *int64         `json:"taken_back_ms" required:"false" readOnly:"true"`
	TakenBackWhy string         `json:"taken_back_why" required:"false" readOnly:"true"`
}

// ReaderCriterion is something that a reader weighs: a measure of the review's comparisons, of one piece or (with no
// PieceID) the mean over all pieces, with the values that are worth nothing and everything, in the measure's unit.
type ReaderCriterion struct {
	Measure string  `json:"measure" minLength:"1" maxLength:"120"`
	PieceID string  `json:"piece_id" required:"false"`
	Name    string  `json:"name" minLength:"1" maxLength:"120"`
	Weight  float64 `json:"weight" minimum:"0" maximum:"100"`
	Worst   float64 `json:"worst"`
	Best    float64 `json:"best"`
}

// ReaderLimit is something that a reader must have.
type ReaderLimit struct {
	Measure string  `json:"measure" minLength:"1" maxLength:"120"`
	PieceID string  `json:"piece_id" required:"false"`
	Name    string  `json:"name" minLength:"1" maxLength:"120"`
	Bound   string  `json:"bound" enum:"at_most,at_least"`
	Value   float64 `json:"value"`
}

// Lists of a reader, each kept as JSON text in one column.
type (
	ReaderCriteria []ReaderCriterion
	ReaderLimits   []ReaderLimit
)

// Value stores the list as JSON text.
func (l ReaderCriteria) Value() (driver.Value, error) { return listValue(l) }

// Scan reads what Value stored.
func (l *ReaderCriteria) Scan(from any) error { return scanList(from, l) }

// Value stores the list as JSON text.
func (l ReaderLimits) Value() (driver.Value, error) { return listValue(l) }

// Scan reads what Value stored.
func (l *ReaderLimits) Scan(from any) error { return scanList(from, l) }

// Check says what makes no sense about a reader.
func (r Reader) Check() error {
	var c quantity.Checks
	if strings.TrimSpace(r.Name) == "" {
		c.Fail("name", "is missing; say who it is: one hero to paint, an army by the dozen")
	}
	sum, seen, named := 0.0, map[string]bool{}, map[string]bool{}
	for i, k := range r.Criteria {
		at := fmt.Sprintf("criteria[%d].", i)
		c.NotBelow(at+"weight", k.Weight)
		c.Number(at+"worst", k.Worst)
		c.Number(at+"best", k.Best)
		if k.Worst == k.Best {
			c.Fail(at+"best", "is %g, as is worst; say at which value it is worth nothing, and at which everything", k.Best)
		}
		if key := k.Measure + "|" + k.PieceID; seen[key] {
			c.Fail(at+"measure", "stands there twice; weigh it once")
		} else {
			seen[key] = true
		}
		if named[k.Name] {
			c.Fail(at+"name", "%.40q stands there twice; give each criterion a name of its own", k.Name)
		}
		named[k.Name] = true
		sum += k.Weight
	}
	if c.Err() == nil && !(sum > 0) {
		c.Fail("criteria", "weigh nothing; give one a weight above 0")
	}
	for i, l := range r.Limits {
		c.OneOf(fmt.Sprintf("limits[%d].bound", i), l.Bound, verdict.AtMost, verdict.AtLeast)
		c.Number(fmt.Sprintf("limits[%d].value", i), l.Value)
	}
	return c.Err()
}
