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
