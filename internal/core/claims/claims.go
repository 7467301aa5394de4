// Package claims holds what is claimed against what was measured.
package claims

import "ojime/internal/core/quantity"

// What became of a claim.
const (
	Met        = "met"
	NotMet     = "not_met"
	CannotTell = "cannot_tell"
)

// AtMost holds a claim that something is no more than a value against its measured interval
// at 95 %, in the same unit: met where all of the interval is, not met where none of it is,
// and else not to be told. Without an interval nothing can be told.
func AtMost(claimed float64, measured *quantity.Interval) string {
	switch {
	case measured == nil:
	case measured[1] <= claimed:
		return Met
	case measured[0] > claimed:
		return NotMet
	}
	return CannotTell
}

// AtLeast holds a claim that something is no less than a value against its measured
// interval, as AtMost does.
func AtLeast(claimed float64, measured *quantity.Interval) string {
	if measured == nil {
		return CannotTell
	}
	return AtMost(-claimed, &quantity.Interval{-measured[1], -measured[0]})
}

// Words say what became of a claim.
var Words = map[string]string{Met: "the claim is met", NotMet: "the claim is not met", CannotTell: "whether the claim is met cannot be told", Partly: "the claim is met in part", Untested: "the claim is untested", Untestable: "the claim cannot be tested here"}
