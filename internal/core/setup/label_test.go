package setup

import (
	"math"
	"testing"

	"ojime/internal/core/quantity"
)

func TestTreatmentAgainstTheLabel(t *testing.T) {
	s := quantity.Ptr[float64]
	for _, c := range []struct {
		name   string
		prints []Treated
		want   string
	}{
		{"none", nil, "not known"},
		{"nothing known", []Treated{{nil, s(180)}}, "not known"},
		{"as the label asks", []Treated{{s(180), s(180)}, {s(180), s(180)}}, "3 min; the label asks 3 min"},
		{"half as long", []Treated{{s(60), s(120)}}, "1 min; the label asks 2 min: 50 % of it"},
		{"it varies", []Treated{{s(60), s(120)}, {s(120), s(120)}}, "1 min to 2 min; the label asks 2 min: 50 % to 100 % of it"},
		{"two resins", []Treated{{s(120), s(120)}, {s(120), s(240)}}, "2 min; the label asks 2 min to 4 min: 50 % to 100 % of it"},
		{"no label", []Treated{{s(60), nil}}, "1 min; what the label asks is not on record"},
		{"one not known", []Treated{{s(60), s(60)}, {nil, s(60)}}, "1 min, not known of 1 print; the label asks 1 min"},
		{"a label for the other print only", []Treated{{s(60), nil}, {nil, s(60)}}, "1 min, not known of 1 print"},
		{"a label of nothing", []Treated{{s(60), s(0)}}, "1 min"},
	} {
		if got := AgainstLabel(c.prints); got != c.want {
			t.Errorf("%s: %q, want %q", c.name, got, c.want)
		}
	}
}

func TestHowFastPrintsRise(t *testing.T) {
	v := quantity.Ptr[float64]
	if got := SpeedOf([]Raised{{nil, v(3600)}, {v(10), nil}, {v(0), v(3600)}, {v(10), v(0)}}); got != nil {
		t.Errorf("of nothing known: %v", got)
	}
	one := SpeedOf([]Raised{{v(36), v(7200)}})
	if one == nil || math.Abs(one.MMH-18) > 1e-9 || one.CI != nil || one.Prints != 1 {
		t.Errorf("of one print: %+v", one)
	}
	// Two prints of 10 and 40 mm/h: the geometric mean is 20.
	two := SpeedOf([]Raised{{v(10), v(3600)}, {v(20), v(1800)}})
	if math.Abs(two.MMH-20) > 1e-9 || two.CI == nil || two.CI[0] >= 20 || two.CI[1] <= 20 || two.Prints != 2 {
		t.Errorf("of two prints: %+v", two)
	}
	// An hour is 3600 s whatever the height: twice as high in twice the time is as fast.
	if a, b := SpeedOf([]Raised{{v(7), v(1000)}}), SpeedOf([]Raised{{v(14), v(2000)}}); math.Abs(a.MMH-b.MMH) > 1e-9 {
		t.Errorf("%v and %v", a.MMH, b.MMH)
	}
}
