package contest

import (
	"slices"
	"testing"

	"ojime/internal/core/quantity"
)

func TestWhatLeavingOutChangedIsSaid(t *testing.T) {
	at := func(v float64, prints int64) Estimate { return Estimate{Value: quantity.Ptr(v), Prints: prints} }
	of := func(v float64, events, specimens, prints int64) Estimate {
		return Estimate{Value: quantity.Ptr(v), Events: &events, Specimens: specimens, Prints: prints}
	}
	pair := func(verdict string) []Pair { return []Pair{{A: 1, B: 0, Verdict: verdict}} }
	with := []Measure{
		{Key: "time a", Label: "Time", Kind: Time, Sides: []Estimate{at(3600, 3), at(5400, 4)}, Pairs: pair("clear")},
		{Key: "failures", Label: "Failures", Kind: Share, Sides: []Estimate{of(0, 0, 12, 3), of(0.25, 4, 16, 4)}, Pairs: pair("not_shown")},
		{Key: "size", Label: "Length", Kind: Length, Signed: true, Sides: []Estimate{at(0.02, 3), at(0.0311, 4)}, Pairs: pair("likely")},
		{Key: "time b", Label: "Time of another", Kind: Time, Sides: []Estimate{{}, at(60, 1)}},
	}
	without := []Measure{
		{Key: "time a", Label: "Time", Kind: Time, Sides: []Estimate{at(3600, 3), at(3660, 3)}, Pairs: pair("not_shown")},
		{Key: "failures", Label: "Failures", Kind: Share, Sides: []Estimate{of(0, 0, 12, 3), of(0.25, 3, 12, 3)}, Pairs: pair("not_shown")},
		{Key: "size", Label: "Length", Kind: Length, Signed: true, Sides: []Estimate{at(0.02, 3), at(0.0312, 3)}, Pairs: pair("")},
	}
	want := []string{
		"Time: 1 h 30 min (4 prints) with it, 1 h 01 min (3 prints) without.",
		"Time, B against A: clear with it, not shown without.",
		"Length, B against A: likely with it, nothing to hold against each other without.",
		"Time of another: read on what is left out alone.",
	}
	if got := Changed(with, without, 1, []string{"A", "B"}); !slices.Equal(got, want) {
		t.Errorf("%q", got)
	}
	if got := Changed(without, without, 1, []string{"A", "B"}); len(got) != 0 {
		t.Errorf("nothing changed: %q", got)
	}
}
