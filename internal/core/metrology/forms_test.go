package metrology

import (
	"math"
	"strings"
	"testing"
)

func TestFiguresOfForms(t *testing.T) {
	for _, c := range []struct {
		kind    string
		values  []float64
		nominal float64
		want    float64
	}{
		{Round, []float64{10.02, 9.97, 10.00}, 10, 0.05},
		{Warp, []float64{3.0, 3.1, 3.25, 3.05}, 0, 0.25},
		{Foot, []float64{20.3, 20.05}, 0, 0.25},
		{Foot, []float64{19.9, 20}, 0, -0.1},
		{Angle, []float64{44.6}, 45, -0.4},
	} {
		if got := FormFigure(c.kind, c.values, c.nominal); math.Abs(got-c.want) > 1e-9 {
			t.Errorf("%s %v: %v, want %v", c.kind, c.values, got, c.want)
		}
	}
}

func TestAFormIsReadAsItsKindAsks(t *testing.T) {
	rungs := []FitRung{{0.1, "holds"}}
	for kind, r := range map[string]FormReading{
		Round: {Measured: []float64{1, 2, 3}}, Angle: {Measured: []float64{45}}, Warp: {Measured: []float64{1, 1, 1, 1}}, Foot: {Measured: []float64{2, 1}},
		Fit: {Rungs: rungs, Mate: "peg A"}, Thread: {State: "goes", Mate: "nut M3"},
	} {
		if err := r.Check(kind); err != nil {
			t.Errorf("%s: %v", kind, err)
		}
	}
	for _, c := range []struct {
		kind, at string
		r        FormReading
	}{
		{Round, "measured", FormReading{Measured: []float64{1, 2}}},
		{Warp, "measured[2]", FormReading{Measured: []float64{1, 1, 0, 1}}},
		{Angle, "measured[0]", FormReading{Measured: []float64{math.Inf(1)}}},
		{Fit, "mate", FormReading{Rungs: rungs}},
		{Fit, "rungs", FormReading{Mate: "peg"}},
		{Fit, "rungs[0].outcome", FormReading{Mate: "peg", Rungs: []FitRung{{0.1, "rattles"}}}},
		{Thread, "state", FormReading{Mate: "nut", State: "turns"}},
		{Thread, "mate", FormReading{State: "goes", Mate: " "}},
		{Angle, "state", FormReading{Measured: []float64{45}, State: "goes"}},
		{Angle, "rungs", FormReading{Measured: []float64{45}, Rungs: rungs}},
		{"charm", "kind", FormReading{}},
	} {
		if err := c.r.Check(c.kind); err == nil || !strings.HasPrefix(err.Error(), c.at+":") {
			t.Errorf("%s, %s: %v", c.kind, c.at, err)
		}
	}
}

// The smallest clearance that goes, and the largest that holds, whatever their order; what
// goes more easily than a larger one is said.
func TestLimitsOfAFit(t *testing.T) {
	for _, c := range []struct {
		outcomes          string
		tightest, loosest float64
		unsteady          bool
	}{
		{"no tight holds loose", 0.2, 0.3, false},
		{"loose loose", 0.1, 0, false},
		{"no no", 0, 0, false},
		{"tight holds", 0.1, 0.2, false},
		{"no holds tight loose", 0.2, 0.3, true},
		{"holds no holds", 0.1, 0.3, true},
	} {
		var rungs []FitRung
		for i, o := range strings.Fields(c.outcomes) {
			rungs = append([]FitRung{{0.1 * float64(i+1), o}}, rungs...)
		}
		got := LimitsOf(rungs)
		is := func(v *float64, want float64) bool {
			return v == nil && want == 0 || v != nil && math.Abs(*v-want) < 1e-9
		}
		if !is(got.TightestMM, c.tightest) || !is(got.LoosestMM, c.loosest) || got.Unsteady != c.unsteady {
			t.Errorf("%s: %+v", c.outcomes, got)
		}
	}
}

func TestWordsOfForms(t *testing.T) {
	for want, c := range map[string]struct {
		kind string
		r    FormReading
	}{
		"out of round +50 µm":       {Round, FormReading{Measured: []float64{10, 10.05, 10}}},
		"wider at the plate −20 µm": {Foot, FormReading{Measured: []float64{10, 10.02}}},
		"−0.4°, the error of 44.6°": {Angle, FormReading{Measured: []float64{44.6}}},
		"binds, with nut M3":        {Thread, FormReading{State: "binds", Mate: "nut M3"}},
		"tightest that goes 0.2 mm, loosest that holds none, with peg A": {Fit, FormReading{Mate: "peg A", Rungs: []FitRung{{0.1, "no"}, {0.2, "loose"}}}},
	} {
		if got := c.r.Words(c.kind, 45); got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
	if got := (FormReading{Rungs: []FitRung{{0.1, "holds"}, {0.2, "tight"}}}).Words(Fit, 0); !strings.Contains(got, "try them again") {
		t.Error(got)
	}
}

func TestValuesTooFarApartForOneFormAreAsked(t *testing.T) {
	for _, c := range []struct {
		kind   string
		values []float64
		want   string
	}{
		{Round, []float64{10, 12}, ""},
		{Round, []float64{10, 12.01}, "12.01 beside 10.00"},
		{Foot, []float64{20.3, 2.03}, "20.30 beside 2.03"},
		{Warp, []float64{0.1, 0.9, 0.2, 3.1}, ""}, // gaps under a corner: a ratio says nothing
		{Warp, []float64{3, 6.01, 3, 3}, "6.01 beside 3.00"},
		{Angle, []float64{45}, ""},
		{Thread, nil, ""},
	} {
		if got := FormSlip(c.kind, c.values); got != c.want {
			t.Errorf("%s %v: %q, want %q", c.kind, c.values, got, c.want)
		}
	}
}
