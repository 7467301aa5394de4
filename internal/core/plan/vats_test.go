package plan

import (
	"slices"
	"testing"

	"ojime/internal/core/quantity"
)

func TestPrintsAreOrderedForTheFewestCleanings(t *testing.T) {
	pale, dark := quantity.Ptr(0.9), quantity.Ptr(0.1)
	grey := Queued{Vat: "grey", Pale: quantity.Ptr(0.4)}
	for name, c := range map[string]struct {
		prints  []Queued
		inVat   string
		order   []int
		changes int64
	}{
		"nothing waits":                       {nil, "grey", []int{}, 0},
		"what the vat holds goes first":       {[]Queued{{"clear", pale, ""}, grey, {"clear", pale, ""}, grey}, "grey", []int{1, 3, 0, 2}, 1},
		"pale before dark":                    {[]Queued{{"black", dark, ""}, {"clear", pale, ""}, {"black", dark, ""}}, "grey", []int{1, 0, 2}, 2},
		"an empty vat needs no cleaning":      {[]Queued{{"black", dark, ""}, {"clear", pale, ""}}, "", []int{1, 0}, 1},
		"a drawn order stays":                 {[]Queued{{"clear", pale, "V"}, {"grey", nil, "V"}, {"clear", pale, "V"}}, "grey", []int{0, 1, 2}, 3},
		"what may be moved goes round a plan": {[]Queued{{"clear", pale, "V"}, grey, {"grey", nil, "V"}}, "grey", []int{1, 0, 2}, 2},
		"two plans each in their own order":   {[]Queued{{"clear", pale, "V"}, {"grey", nil, "V"}, {"grey", nil, "W"}, {"clear", pale, "W"}}, "grey", []int{2, 0, 3, 1}, 2},
	} {
		order, changes := FewestCleanings(c.prints, c.inVat)
		if !slices.Equal(order, c.order) || changes != c.changes {
			t.Errorf("%s: %v with %d changes, want %v with %d", name, order, changes, c.order, c.changes)
		}
	}
}

func TestHowPaleAColourIs(t *testing.T) {
	for colour, want := range map[string]float64{"#ffffff": 1, "#000000": 0, "#00ff00": 0.587} {
		if got := Paleness(colour); got == nil || *got < want-1e-9 || *got > want+1e-9 {
			t.Errorf("%s: %v", colour, got)
		}
	}
	for _, colour := range []string{"", "grey", "#fff", "#ggggggg"} {
		if got := Paleness(colour); got != nil {
			t.Errorf("%q: %v", colour, *got)
		}
	}
}
