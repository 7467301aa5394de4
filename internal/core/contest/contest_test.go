package contest

import (
	"math"
	"reflect"
	"strings"
	"testing"

	"ojime/internal/core/evidence"
	"ojime/internal/core/quantity"
)

func counts(failed ...int64) (out []evidence.PrintCount) {
	for _, f := range failed {
		out = append(out, evidence.PrintCount{Failed: f, Judged: 6})
	}
	return out
}

func side(id string, prints ...float64) (s evidence.NestedSide) {
	s.Instrument = evidence.NestedInstrument{ID: &id, ResolutionMM: 0.01, ReferenceUMM: 0.01}
	for _, v := range prints {
		s.Prints = append(s.Prints, evidence.NestedPrint{Specimens: []evidence.NestedSpecimen{{ValuesMM: []float64{v}}}})
	}
	return s
}

func must(t *testing.T, m Measure, err error) Measure {
	t.Helper()
	if err != nil {
		t.Fatal(err)
	}
	return m
}

func TestPairsOfSides(t *testing.T) {
	for _, c := range []struct {
		sides, baseline int
		want            [][2]int
	}{
		{2, 0, [][2]int{{1, 0}}}, {3, 1, [][2]int{{0, 1}, {2, 1}}}, {3, -1, [][2]int{{1, 0}, {2, 0}, {2, 1}}}, {1, 0, nil},
	} {
		if got := Between(c.sides, c.baseline); !reflect.DeepEqual(got, c.want) {
			t.Errorf("%d sides against %d: %v", c.sides, c.baseline, got)
		}
	}
	if n := len(Between(12, -1)); n != 66 {
		t.Errorf("twelve sides have %d pairs", n)
	}
}

func TestRatesOfSides(t *testing.T) {
	m, err := Rates("failures", "Failures", [][]evidence.PrintCount{counts(0, 0, 0, 0), counts(4, 5, 6, 3), nil}, Between(3, 0), nil)
	m = must(t, m, err)
	if *m.Sides[0].Value != 0 || m.Sides[0].UpperIfNone == nil || m.Sides[0].Note == "" || *m.Sides[1].Events != 18 || m.Sides[1].Specimens != 24 || m.Sides[2].Value != nil || m.Sides[2].Note == "" {
		t.Errorf("sides %+v", m.Sides)
	}
	p := m.Pairs[0]
	if p.A != 1 || p.B != 0 || *p.Difference != 0.75 || *p.P != 2.0/70 || p.Verdict != evidence.Likely || *p.LeastP != 2.0/70 {
		t.Errorf("%+v", p)
	}
	if none := m.Pairs[1]; none.Difference != nil || none.Verdict != evidence.NotShown || none.Reason == "" {
		t.Errorf("a side without prints: %+v", none)
	}
}

// What is present is the other way round of what is not, intervals and all.
func TestPresentIsNotMissing(t *testing.T) {
	m, err := Rates("edge", "Edge", [][]evidence.PrintCount{counts(1, 2, 0), counts(6, 4, 5)}, Between(2, 0), nil)
	missing := must(t, m, err)
	copied := missing
	copied.Sides, copied.Pairs = append([]Estimate{}, missing.Sides...), append([]Pair{}, missing.Pairs...)
	present := Present(copied)
	for i, s := range present.Sides {
		was := missing.Sides[i]
		if !quantity.Equal(*s.Value, 1-*was.Value) || !quantity.Equal(s.CI[0], 1-was.CI[1]) || !quantity.Equal(s.CI[1], 1-was.CI[0]) || *s.Events != was.Specimens-*was.Events {
			t.Errorf("%+v, missing %+v", s, was)
		}
	}
	if p, was := present.Pairs[0], missing.Pairs[0]; *p.Difference != -*was.Difference || p.CI[0] != -was.CI[1] || *p.P != *was.P {
		t.Errorf("%+v, missing %+v", p, was)
	}
}

func TestLengthsReadAsErrors(t *testing.T) {
	m, err := Lengths("length", "Length", []evidence.NestedSide{side("I1", 20.01, 20.02, 20.03), side("I1", 20.11, 20.12, 20.13), side("I1", 20.5), {}}, 20, Between(4, 0))
	m = must(t, m, err)
	if !quantity.Equal(*m.Sides[0].Value, 0.02) || m.Sides[0].CI[0] >= 0.02 || m.Sides[0].CI[1] <= 0.02 || m.Sides[0].Prints != 3 || m.Sides[0].Readings != 3 {
		t.Errorf("%+v", m.Sides[0])
	}
	if m.Sides[2].CI != nil || m.Sides[2].Note == "" || m.Sides[3].Value != nil {
		t.Errorf("one print, and none: %+v", m.Sides[2:])
	}
	if p := m.Pairs[0]; math.Abs(*p.Difference-0.1) > 1e-9 || p.Verdict != evidence.Clear || p.Reason != "" {
		t.Errorf("%+v", p)
	}
	if p := m.Pairs[1]; p.P != nil || p.Verdict != evidence.NotShown || p.Reason == "" || p.Difference == nil {
		t.Errorf("against one print: %+v", p)
	}
	if p := m.Pairs[2]; p.Difference != nil || p.Reason == "" {
		t.Errorf("against none: %+v", p)
	}
}

func TestTimesAreCompared(t *testing.T) {
	m, err := Times("plate", "A plate", [][]float64{{3600, 3650, 3620}, {7200, 7300, 7240}, {5000}, nil}, Between(4, 0))
	m = must(t, m, err)
	if p := m.Pairs[0]; math.Abs(*p.Difference-2) > 0.01 || p.CI[0] >= 2 || p.CI[1] <= *p.Difference || p.Verdict != evidence.NotShown || *p.P > 0.001 {
		t.Errorf("twice as long: %+v (its verdict waits for the table)", p)
	}
	if p := m.Pairs[1]; p.P != nil || p.CI != nil || !quantity.Equal(*p.Difference, 5000/math.Exp((math.Log(3600)+math.Log(3650)+math.Log(3620))/3)) || p.Reason == "" {
		t.Errorf("one time: %+v", p)
	}
	if s := m.Sides[2]; !quantity.Equal(*s.Value, 5000) || s.CI != nil || s.Prints != 1 {
		t.Errorf("%+v", s)
	}
	if p := m.Pairs[2]; p.Difference != nil || p.Reason == "" {
		t.Errorf("no time: %+v", p)
	}
}

// What is likely alone may be nothing among many; with many sides, four prints a side no
// longer show anything.
func TestATableIsAdjustedAsAWhole(t *testing.T) {
	table := func(sides int) []Measure {
		var all [][]evidence.PrintCount
		for range sides - 1 {
			all = append(all, counts(0, 0, 0, 0))
		}
		all = append(all, counts(6, 6, 6, 6))
		m, err := Rates("failures", "Failures", all, Between(sides, -1), nil)
		return []Measure{must(t, m, err)}
	}
	two, six := table(2), table(6)
	if n, err := Adjust(two, nil); err != nil || n.Table != 1 || two[0].Pairs[0].Verdict != evidence.Likely || *two[0].Pairs[0].LeastP != 2.0/70 {
		t.Errorf("two sides: %+v (%v)", two[0].Pairs[0], err)
	}
	n, err := Adjust(six, nil)
	if err != nil || n.Table != 15 {
		t.Errorf("%d p (%v)", n, err)
	}
	for _, p := range six[0].Pairs {
		if p.Verdict != evidence.NotShown || *p.LeastP != 15*2.0/70 || *p.PrintsNeeded < FewestPrints(15) {
			t.Errorf("among six: %+v", p)
		}
	}
	for m, want := range map[int]int64{1: 4, 3: 5, 15: 6, 66: 7} {
		if got := FewestPrints(m); got != want {
			t.Errorf("in a table of %d, %d prints a side are the fewest, want %d", m, got, want)
		}
	}
}

func TestSidesThatShowTheSameAreAlike(t *testing.T) {
	v := quantity.Ptr[float64]
	for _, c := range []struct {
		sides []Estimate
		want  bool
	}{
		{[]Estimate{{Value: v(1)}, {Value: v(1)}}, true}, {[]Estimate{{Value: v(0.5)}, {Value: v(0.5)}, {Value: v(0.6)}}, false},
		{[]Estimate{{}, {Value: v(1)}}, false}, {[]Estimate{{Value: v(1)}, {}}, false}, {nil, false},
	} {
		if got := (Measure{Sides: c.sides}).AllAlike(); got != c.want {
			t.Errorf("%+v: %v", c.sides, got)
		}
	}
}

// A difference that is shown, and yet within what single readings differ by, says so; one
// that is larger, not shown or of an instrument that was not studied, does not.
func TestADifferenceBelowTheGaugeSaysSo(t *testing.T) {
	pair := func(verdict string, mm float64) Pair {
		return Pair{Verdict: verdict, Difference: &mm, Reason: "Because."}
	}
	measures := []Measure{{SmallestMM: 0.03, Pairs: []Pair{pair("clear", -0.02), pair("clear", 0.04), pair(evidence.NotShown, 0.01)}}, {Pairs: []Pair{pair("clear", 0.001)}}}
	BelowGauge(measures)
	if got := measures[0].Pairs[0].Reason; !strings.HasPrefix(got, "Because. Single readings may differ by") || !strings.Contains(got, "30 µm") {
		t.Errorf("%q", got)
	}
	for _, p := range append(measures[0].Pairs[1:], measures[1].Pairs...) {
		if p.Reason != "Because." {
			t.Errorf("%+v", p)
		}
	}
}
