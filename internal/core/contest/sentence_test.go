package contest

import (
	"strings"
	"testing"

	"ojime/internal/core/evidence"
)

func sentence(t *testing.T, m Measure, err error) string {
	t.Helper()
	table := []Measure{must(t, m, err)}
	counted, err := Adjust(table, nil)
	if err != nil {
		t.Fatal(err)
	}
	return Sentence(table[0], table[0].Pairs[0], []string{"A", "B"}, counted)
}

// A sentence says what is shown, what is not, and what could not have been.
func TestSentencesSayNoMoreThanTheData(t *testing.T) {
	pairs := Between(2, 0)
	rates := func(a, b []evidence.PrintCount) string {
		m, err := Rates("failures", "Failures", [][]evidence.PrintCount{a, b}, pairs, nil)
		return sentence(t, m, err)
	}
	times := func(a, b []float64) string {
		m, err := Times("time", "A plate", [][]float64{a, b}, pairs)
		return sentence(t, m, err)
	}
	lengths := func(a, b evidence.NestedSide) string {
		m, err := Errors("size x", "Length", []evidence.NestedSide{a, b}, 20, pairs)
		return sentence(t, m, err)
	}
	for want, got := range map[string]string{
		"Failures: B 24 of 24 specimens over 4 prints, A 0 of 24 specimens over 4 prints; likely different (p = 0.029).": rates(counts(0, 0, 0, 0), counts(6, 6, 6, 6)),
		"so few prints could not have shown a difference, whatever came out; about ":                                     rates(counts(0, 0, 0), counts(6, 6, 6)),
		"; a difference is not shown (p = 1); about ":                                                                    rates(counts(1, 0, 1, 0), counts(0, 1, 0, 1)),
		"A plate: B 2 h 00 min (3 prints), A 1 h 00 min (3 prints); clearly different (p below 0.001).":                  times([]float64{3600, 3605, 3602}, []float64{7200, 7210, 7205}),
		"A plate: B 2 h 00 min (1 print), A 1 h 00 min (2 prints). A side has one time":                                  times([]float64{3600, 3605}, []float64{7200}),
		"Length: B +120 µm (3 prints), A +20 µm (3 prints); clearly different (p below 0.001).":                          lengths(side("I1", 20.02, 20.02, 20.02), side("I1", 20.12, 20.12, 20.12)),
		"Length: B not known, A +20 µm (3 prints). A side was not read.":                                                 lengths(side("I1", 20.02, 20.02, 20.02), evidence.NestedSide{}),
	} {
		if !strings.Contains(got, want) {
			t.Errorf("%q\nis not in\n%q", want, got)
		}
	}
}

// A score is told with its scale, a difference in steps, and one step is one step.
func TestScoresAreToldInSteps(t *testing.T) {
	side := func(scores ...float64) evidence.NestedSide {
		s := evidence.NestedSide{Instrument: evidence.NestedInstrument{ResolutionMM: 1}}
		for _, v := range scores {
			s.Prints = append(s.Prints, evidence.NestedPrint{Specimens: []evidence.NestedSpecimen{{ValuesMM: []float64{v}}}})
		}
		return s
	}
	m, err := Scores("rating edges", "Crispness", []evidence.NestedSide{side(2, 3, 4), side(1, 2, 3), {}}, [][2]int{{0, 1}, {2, 1}})
	if err != nil {
		t.Fatal(err)
	}
	if got := m.Apart(Pair{Difference: m.Pairs[0].Difference}); got != "+1 step" {
		t.Errorf("%q", got)
	}
	if got := m.Told(m.Sides[0]); got != "3 of 0 to 4 (3 prints)" {
		t.Errorf("%q", got)
	}
	if e := m.Sides[0]; e.CI[0] < 0 || e.CI[1] > 4 || e.CI[1] < 3.5 || m.Pairs[0].Verdict != evidence.NotShown {
		t.Errorf("%+v %+v", e, m.Pairs[0])
	}
	if m.Sides[2].Note != "Not rated." || m.Pairs[1].Reason != "A side was not rated." {
		t.Errorf("%+v %+v", m.Sides[2], m.Pairs[1])
	}
}
