package evidence

import (
	"math"
	"math/rand/v2"
	"testing"

	"ojime/internal/core/quantity"
)

func matched(t *testing.T, strata ...Stratum) MatchedResult {
	t.Helper()
	out, err := Matched(strata)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

// One stratum is the comparison of prints that it always was.
func TestOneStratumIsAComparisonOfPrints(t *testing.T) {
	chance := rand.New(rand.NewPCG(4, 9))
	for range 60 {
		var s Stratum
		for range 1 + chance.IntN(4) {
			s.A = append(s.A, PrintCount{chance.Int64N(4), 4})
		}
		for range 1 + chance.IntN(4) {
			s.B = append(s.B, PrintCount{chance.Int64N(4), 4 + chance.Int64N(2)})
		}
		got := matched(t, s)
		want, err := Prints(PrintsInput{A: s.A, B: s.B})
		if err != nil {
			t.Fatal(err)
		}
		if math.Abs(got.Difference-*want.Difference) > 1e-9 || got.LeastP != *want.LeastP || math.Abs(got.CI[0]-want.CI[0]) > 1e-9 || math.Abs(got.CI[1]-want.CI[1]) > 1e-9 {
			t.Fatalf("%+v: %+v, as one comparison %+v", s, got, want)
		}
		if got.P < *want.P-1e-9 || got.P > *want.P+0.1 {
			t.Fatalf("%+v: p %v, as one comparison %v", s, got.P, *want.P)
		}
	}
}

// A hard piece printed more often on one side must not pass for a worse side.
func TestWhatIsPrintedMoreOftenDoesNotWeighOnASide(t *testing.T) {
	hard, easy := PrintCount{3, 4}, PrintCount{0, 4}
	got := matched(t, Stratum{A: []PrintCount{hard, hard, hard}, B: []PrintCount{hard}}, Stratum{A: []PrintCount{easy}, B: []PrintCount{easy, easy, easy}})
	if got.Difference != 0 || got.P < 1-1e-9 {
		t.Errorf("%+v", got)
	}
	together, err := Prints(PrintsInput{A: []PrintCount{hard, hard, hard, easy}, B: []PrintCount{hard, easy, easy, easy}})
	if err != nil || *together.Difference < 0.3 {
		t.Errorf("thrown together they differ by %v (%v)", together.Difference, err)
	}
}

// Two strata of two prints a side: all fail on one side and none on the other, as one of
// 6 · 6 deals each way.
func TestStrataAddUp(t *testing.T) {
	bad, good := []PrintCount{{4, 4}, {4, 4}}, []PrintCount{{0, 4}, {0, 4}}
	got := matched(t, Stratum{bad, good}, Stratum{bad, good})
	if got.Difference != 1 || math.Abs(got.P-2.0/36) > 1e-12 || math.Abs(got.LeastP-2.0/36) > 1e-12 || got.Method != "permutation" {
		t.Errorf("%+v", got)
	}
	if against := matched(t, Stratum{bad, good}, Stratum{good, bad}); against.Difference != 0 || math.Abs(against.P-1) > 1e-12 {
		t.Errorf("one way in one and the other way in the other: %+v", against)
	}
	uneven := matched(t, Stratum{bad, append(good, good...)})
	if math.Abs(uneven.LeastP-1.0/15) > 1e-12 || math.Abs(uneven.P-1.0/15) > 1e-12 {
		t.Errorf("two against four: %+v", uneven)
	}
	narrow, wide := matched(t, Stratum{bad, good}, Stratum{bad, good}, Stratum{bad, good}), matched(t, Stratum{bad, good})
	if narrow.CI[1]-narrow.CI[0] >= wide.CI[1]-wide.CI[0] {
		t.Errorf("three strata tell no more than one: %v and %v", narrow.CI, wide.CI)
	}
}

func TestManyDealsAreWelchs(t *testing.T) {
	var s Stratum
	for i := range 14 {
		s.A, s.B = append(s.A, PrintCount{int64(i % 3), 4}), append(s.B, PrintCount{int64(i%3) + 1, 4})
	}
	got := matched(t, s, s)
	if got.Method != "welch" || got.P <= 0 || got.P > 0.001 {
		t.Errorf("%+v", got)
	}
	same := Stratum{s.A, s.A}
	if got := matched(t, same); got.Method != "welch" || got.P < 1-1e-9 {
		t.Errorf("%+v", got)
	}
}

// With nothing different, strata raise no more false alarms than a table may.
func TestMatchedStrataKeepTheirWord(t *testing.T) {
	chance := rand.New(rand.NewPCG(11, 3))
	alarms, tables := 0, 1500
	for range tables {
		var strata []Stratum
		for range 2 + chance.IntN(2) {
			rate := 0.05 + 0.6*chance.Float64()
			prints := func() (out []PrintCount) {
				for range 2 + chance.IntN(3) {
					// Copies of a print share its fate: half of prints are good, half bad.
					own := rate * (0.2 + 1.6*float64(chance.IntN(2)))
					p := PrintCount{Judged: 6}
					for range 6 {
						if chance.Float64() < own {
							p.Failed++
						}
					}
					out = append(out, p)
				}
				return out
			}
			strata = append(strata, Stratum{prints(), prints()})
		}
		if matched(t, strata...).P < Significance {
			alarms++
		}
	}
	if share := float64(alarms) / float64(tables); share > 0.05 {
		t.Errorf("%.3f of tables raise a false alarm", share)
	}
}

func TestMatchedRefusesWhatCannotBe(t *testing.T) {
	for _, strata := range [][]Stratum{nil, {{A: []PrintCount{{0, 1}}}}, {{A: []PrintCount{{2, 1}}, B: []PrintCount{{0, 1}}}}} {
		if _, err := Matched(strata); err == nil {
			t.Errorf("%v passes", strata)
		}
	}
	if out := matched(t, Stratum{[]PrintCount{{1, 3}}, []PrintCount{{1, 3}}}); out.Difference != 0 || !quantity.Equal(out.P, 1) {
		t.Errorf("%+v", out)
	}
}

// One piece is the comparison that it was; two alike halve the variance.
func TestErrorsAreMatchedPieceByPiece(t *testing.T) {
	side := func(mm ...float64) (s NestedSide) {
		s.Instrument = NestedInstrument{ID: quantity.Ptr("I1"), ResolutionMM: 0.01}
		for _, v := range mm {
			s.Prints = append(s.Prints, NestedPrint{Specimens: []NestedSpecimen{{ValuesMM: []float64{v}}}})
		}
		return s
	}
	b := side(0.01, 0.02, 0.015)
	one, err := Nested(NestedInput{A: side(0.05, 0.07, 0.06), B: &b})
	if err != nil {
		t.Fatal(err)
	}
	d, ci, p := MatchedNested([]NestedResult{one})
	if math.Abs(*d-*one.DifferenceMM) > 1e-12 || math.Abs(ci[0]-one.CI[0]) > 1e-9 || math.Abs(*p-*one.P) > 1e-9 {
		t.Errorf("%v %v %v, as one comparison %+v", *d, *ci, *p, one)
	}
	single := side(0.02)
	alone, err := Nested(NestedInput{A: side(0.05), B: &single})
	if err != nil {
		t.Fatal(err)
	}
	both, narrow, less := MatchedNested([]NestedResult{one, one, alone})
	if *both != *d || narrow[1]-narrow[0] >= ci[1]-ci[0] || *less >= *p {
		t.Errorf("two pieces: %v %v %v", *both, *narrow, *less)
	}
	if d, _, _ := MatchedNested([]NestedResult{alone}); d != nil {
		t.Errorf("single prints tell %v", *d)
	}
}
