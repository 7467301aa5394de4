package quantity

import "strings"

// Range is what a number may be, both ends included.
type Range struct{ Low, High float64 }

// LatestMS is the last instant that the record takes, the end of the year 2099
// (UTC milliseconds): what lies beyond it is a slip, and no calendar draws it.
const LatestMS = 4102444799999

// Smallest is the least size of a number that must be above 0. What is nearer to
// 0 means nothing in any unit that is used here, and what is divided by it
// leaves what a number can hold.
const Smallest = 1e-9

// mostNumber bounds a number whose name carries no unit.
const mostNumber = 1e9

// byUnit is, for each unit at the end of a name, the largest size of a number.
// They are far beyond anything on a bench, and small enough that no formula of
// the job leaves what a number can hold.
var byUnit = []struct {
	unit string
	size float64
}{
	{"_um", 1e6}, {"_mm", 1e5}, {"_mm2", 1e9}, {"_ml", 1e6}, {"_g", 1e6}, {"_s", 1e9}, {"_min", 1e6}, {"_h", 1e7}, {"_days", 1e6},
	{"_pct", 1e6}, {"_c", 1000}, {"_deg", 36000}, {"_w", 1e6}, {"_layers", 1e9}, {"_share", 1e6}, {"_ratio", 1e6},
	{"number", 9999}, {"copies", 1000}, {"position", 1e6}, {"version", 1e9},
}

// RangeOf is the widest range of a number, by the unit that ends its name:
// instants (_ms) from 1970 to LatestMS, everything else alike to both sides of 0.
// A field may state a narrower one.
func RangeOf(name string) Range {
	if strings.HasSuffix(name, "_ms") {
		return Range{0, LatestMS}
	}
	for _, u := range byUnit {
		if strings.HasSuffix(name, u.unit) {
			return Range{-u.size, u.size}
		}
	}
	return Range{-mostNumber, mostNumber}
}

// Lengths of texts, in characters, and of lists, in entries, that state none.
const (
	LongText  = 20000  // what is published, and notes
	ShortText = 300    // names and single lines
	EntryText = 500000 // a whole entry, as it stood before or after a change
	LongList  = 10000
)

// longTexts end the names of what is written in paragraphs.
var longTexts = []string{"note", "notes", "observed", "question", "readers", "verdict", "disclosure", "not_tested", "prediction", "origin", "contradiction",
	"quirk_files", "quirk_restart", "quirk_height", "quirk_settings", "quirk_films", "profile_ids", "machine_ids", "side", "rows"}

// LengthOf is the most characters of a text, by its name.
func LengthOf(name string) int {
	if name == "before_entry" || name == "after_entry" {
		return EntryText
	}
	for _, long := range longTexts {
		if name == long {
			return LongText
		}
	}
	return ShortText
}
