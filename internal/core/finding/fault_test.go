package finding

import (
	"testing"

	"ojime/internal/core/contest"
)

func TestASymptomIsToldOverCopiesAndPrints(t *testing.T) {
	f := contest.Fault{Symptom: "support_scar", Sides: []contest.FaultSide{{Specimens: 3, Prints: 2, Of: 4}, {Of: 1}}}
	if got, want := FaultSentence("Barb", f, 0, 1, []string{"Reed 4", "Sedge 6"}), "Barb, support scar: seen on 3 specimens over 2 of 4 prints on Reed 4, on none over 1 print on Sedge 6."; got != want {
		t.Errorf("%q, not %q", got, want)
	}
	if g := Faults(); g.Grade != Looked || len(g.Because) != 1 {
		t.Errorf("%+v", g)
	}
}
