package audit

import (
	"fmt"
	"math"
	"slices"

	"ojime/internal/core/quantity"
)

// States of a factor, weights and grades.
const (
	Same      = "same"
	UnderTest = "under_test"
	Differs   = "differs"
	Unknown   = "unknown"

	None  = "none"
	Minor = "minor"
	Major = "major"

	Fair          = "fair"
	WithCaveats   = "with_caveats"
	NotComparable = "not_comparable"
)

// CompareInput sets the conditions of two sides against each other. UnderTest
// names factors that vary on purpose (any but specimens).
type CompareInput struct {
	A         Conditions `json:"a"`
	B         Conditions `json:"b"`
	UnderTest []string   `json:"under_test,omitempty"`
	Question  string     `json:"question"`
}

// Row is one factor: same, under_test, differs or unknown; none, minor or
// major; and what it means in a sentence.
type Row struct {
	Factor   string `json:"factor"`
	State    string `json:"state"`
	Weight   string `json:"weight"`
	Sentence string `json:"sentence"`
}

// CompareResult grades a comparison fair, with_caveats or not_comparable, with
// one row for every factor in the order of the table.
type CompareResult struct {
	Grade string `json:"grade"`
	Rows  []Row  `json:"rows"`
	quantity.Warnings
}

// Compare weighs every factor for a question. It warns not_varied when a
// factor under test is equal on both sides or unknown on one.
func Compare(in CompareInput) (CompareResult, error) {
	if err := check(in); err != nil {
		return CompareResult{}, err
	}
	out := CompareResult{Grade: Fair, Warnings: quantity.None()}
	for _, r := range rules {
		row := r.weigh(in)
		if row.State == UnderTest {
			a, b := r.value(in.A), r.value(in.B)
			if a == nil || b == nil || equal(a, b) {
				out.Warn("not_varied", "%s is under test but does not vary: %s against %s.", r.label, r.show(a), r.show(b))
			}
		}
		switch {
		case row.Weight == Major && row.State != Unknown:
			out.Grade = NotComparable
		case row.Weight != None && out.Grade == Fair:
			out.Grade = WithCaveats
		}
		out.Rows = append(out.Rows, row)
	}
	return out, nil
}

func check(in CompareInput) error {
	var c quantity.Checks
	c.OneOf("question", in.Question, Questions...)
	allowed := slices.DeleteFunc(Factors(), func(f string) bool { return f == "specimens" })
	for i, f := range in.UnderTest {
		c.OneOf(fmt.Sprintf("under_test[%d]", i), f, allowed...)
	}
	checkConditions(&c, "a.", in.A)
	checkConditions(&c, "b.", in.B)
	return c.Err()
}

func checkConditions(c *quantity.Checks, at string, k Conditions) {
	if k.Process != nil {
		c.OneOf(at+"process", *k.Process, "masked", "laser")
	}
	c.AboveIf(at+"layer_um", k.LayerUM)
	c.AboveIf(at+"scale_pct", k.ScalePct)
	c.NotBelowIf(at+"bottle_age_days", k.BottleAgeDays)
	if k.ExposureBasis != nil {
		c.OneOf(at+"exposure_basis", *k.ExposureBasis, "default", "calibrated", "borrowed", "sealed", "own", "adjusted", "series")
	}
	c.NotBelowIf(at+"film_layers", k.FilmLayers)
	c.NotBelowIf(at+"days_since_level", k.DaysSinceLevel)
	c.NumberIf(at+"resin_temp_c", k.ResinTempC)
	c.NotBelowIf(at+"wash_s", k.WashS)
	c.NotBelowIf(at+"cure_s", k.CureS)
	if k.Surface != nil {
		c.OneOf(at+"surface", *k.Surface, "raw", "primed", "painted")
	}
	if k.Copies != nil {
		c.CountAbove(at+"copies", *k.Copies)
	}
	if k.Specimens != nil {
		c.CountAbove(at+"specimens", *k.Specimens)
	}
	for _, g := range []struct {
		field string
		value any
	}{
		{"piece", k.Piece}, {"piece_revision", k.PieceRevision}, {"resin", k.Resin}, {"orientation", k.Orientation},
		{"supports", k.Supports}, {"antialiasing", k.Antialiasing}, {"software", k.Software},
	} {
		switch v := g.value.(type) {
		case nil, string, bool:
		case float64:
			c.Number(at+g.field, v)
		default:
			c.Fail(at+g.field, "is a list or an object; give one word or number")
		}
	}
}

func (r rule) weigh(in CompareInput) Row {
	a, b := r.value(in.A), r.value(in.B)
	row := Row{Factor: r.factor, Weight: None}
	flagged := r.flag != nil && quantity.Or(r.flag(in.A), false) != quantity.Or(r.flag(in.B), false)
	switch {
	case slices.Contains(in.UnderTest, r.factor):
		row.State = UnderTest
	case flagged:
		row.State = Differs
	case a == nil || b == nil:
		row.State = Unknown
	case equal(a, b):
		row.State = Same
	default:
		row.State = Differs
	}
	if r.factor == "specimens" {
		weighSpecimens(&row, in.A.Specimens, in.B.Specimens)
	} else if r.matters(in.Question) {
		row.Weight = r.weight(row.State, flagged, a, b, in)
	}
	row.Sentence = r.sentence(row, flagged, a, b, in)
	return row
}

func (r rule) matters(question string) bool {
	return r.questions == nil || slices.Contains(r.questions, question)
}

func (r rule) weight(state string, flagged bool, a, b any, in CompareInput) string {
	laserTime := r.factor == "copies" && in.Question == Time && (isLaser(in.A) || isLaser(in.B))
	switch state {
	case Unknown:
		if r.anyMajor || r.majorOver > 0 || r.flag != nil || laserTime {
			return Major
		}
		return Minor
	case Differs:
		switch {
		case flagged, r.anyMajor, laserTime:
			return Major
		case r.anyMinor:
			return Minor
		}
		return r.byThreshold(a.(float64), b.(float64))
	}
	return None
}

func (r rule) byThreshold(a, b float64) string {
	apart := math.Abs(a - b)
	switch {
	case r.majorOver > 0 && quantity.Less(r.majorOver, apart):
		return Major
	case r.minorOver > 0 && quantity.Less(r.minorOver, apart):
		return Minor
	case r.ratioOver > 0 && quantity.Less(r.ratioOver*math.Min(a, b), math.Max(a, b)):
		return Minor
	}
	return None
}

// weighSpecimens weighs each side by itself: 1 on a side is major, fewer than
// 3 minor, and an unknown side weighs as the worst.
func weighSpecimens(row *Row, a, b *int64) {
	fewest := int64(math.MaxInt64)
	for _, n := range []*int64{a, b} {
		if n != nil {
			fewest = min(fewest, *n)
		}
	}
	switch {
	case fewest == 1:
		row.Weight = Major
		if row.State == Unknown {
			row.State = Differs
		}
	case row.State == Unknown:
		row.Weight = Major
	case fewest < 3:
		row.Weight = Minor
	}
}

func isLaser(c Conditions) bool { return quantity.Or(c.Process, "") == "laser" }

func equal(a, b any) bool {
	x, xNumber := a.(float64)
	y, yNumber := b.(float64)
	if xNumber && yNumber {
		return quantity.Equal(x, y)
	}
	return a == b
}
