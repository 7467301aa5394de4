package resin

import (
	"testing"

	"ojime/internal/core/quantity"
)

func TestTreatmentAgainstTheLabel(t *testing.T) {
	for _, c := range []struct {
		took   float64
		stated *float64
		want   string
	}{
		{300, quantity.Ptr(300.0), "as_stated"}, {225, quantity.Ptr(300.0), "as_stated"}, {224, quantity.Ptr(300.0), "short"},
		{375, quantity.Ptr(300.0), "as_stated"}, {376, quantity.Ptr(300.0), "over"}, {0, quantity.Ptr(300.0), "short"}, {300, nil, "unknown"},
	} {
		got, err := Treatment(TreatmentInput{TookS: c.took, StatedS: c.stated})
		if err != nil || got.Verdict != c.want {
			t.Errorf("%g s of %v: %q (%v), want %q", c.took, c.stated, got.Verdict, err, c.want)
		}
	}
	for _, in := range []TreatmentInput{{TookS: -1}, {TookS: 1, StatedS: quantity.Ptr(0.0)}} {
		if _, err := Treatment(in); err == nil {
			t.Errorf("%+v was taken", in)
		}
	}
}
