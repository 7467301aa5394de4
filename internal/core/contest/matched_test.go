package contest

import (
	"math"
	"strings"
	"testing"

	"ojime/internal/core/evidence"
)

func failed(n ...int64) (out []evidence.PrintCount) {
	for _, f := range n {
		out = append(out, evidence.PrintCount{Failed: f, Judged: 4})
	}
	return out
}

// The first side printed the hard piece, the second the easy one as often: kind by kind they
// are alike, though their rates are not.
func TestRatesAreMatchedKindByKind(t *testing.T) {
	hard, easy := [][]evidence.PrintCount{failed(3, 3, 3), failed(3), failed(4)}, [][]evidence.PrintCount{failed(0), failed(0, 0, 0), nil}
	m, err := MatchedRates("failures", "Failures", [][][]evidence.PrintCount{hard, easy}, Between(3, 1), nil)
	if err != nil {
		t.Fatal(err)
	}
	if a, b := *m.Sides[0].Value, *m.Sides[1].Value; a != 9.0/16 || b != 3.0/16 {
		t.Errorf("rates %v and %v", a, b)
	}
	if p := m.Pairs[0]; *p.Difference != 0 || p.Kinds != 2 || *p.LeastP != 1.0/16 {
		t.Errorf("%+v", p)
	}
	if said := Sentence(m, m.Pairs[0], []string{"A", "B", "C"}, Counted{Table: 2}); !strings.Contains(said, "Failures: A against B 0 points (") || !strings.Contains(said, ", over 2 kinds that both have;") {
		t.Errorf("says %q", said)
	}
	if p := m.Pairs[1]; p.Kinds != 1 || *p.Difference != 0.25 {
		t.Errorf("the third has the hard piece alone: %+v", p)
	}
	apart, err := MatchedRates("failures", "Failures", [][][]evidence.PrintCount{{failed(1), nil}, {nil, failed(2)}}, Between(2, 1), nil)
	if err != nil || apart.Pairs[0].Difference != nil || apart.Pairs[0].Reason == "" {
		t.Errorf("nothing is alike: %+v (%v)", apart.Pairs, err)
	}
	one, err := MatchedRates("failures", "Failures", [][][]evidence.PrintCount{{failed(0, 0, 0, 0), failed(4, 4, 4, 4)}}, Between(2, 1), nil)
	want, err2 := Rates("failures", "Failures", [][]evidence.PrintCount{failed(0, 0, 0, 0), failed(4, 4, 4, 4)}, Between(2, 1), nil)
	if err != nil || err2 != nil || *one.Pairs[0].P != *want.Pairs[0].P || one.Pairs[0].Kinds != 0 {
		t.Errorf("one kind: %+v, as it was %+v", one.Pairs, want.Pairs)
	}
}

func TestTimesAreMatchedPlateByPlate(t *testing.T) {
	m := MatchedTimes("time matched", "Time, plate by plate", [][][]float64{{{1100, 1110}, {1000, 1005}, nil}, {{2200}, {2000}, {2400}}}, Between(3, 1))
	if p := m.Pairs[0]; p.Kinds != 2 || math.Abs(*p.Difference-1.1) > 0.01 || p.CI == nil || p.P == nil {
		t.Errorf("%+v", p)
	}
	if said := Sentence(m, m.Pairs[1], []string{"A", "B", "C"}, Counted{}); said != "Time, plate by plate: C against B 1.2 times, over 1 kind that both have. So few times have no spread." {
		t.Errorf("says %q", said)
	}
	if p := m.Pairs[1]; p.Kinds != 1 || math.Abs(*p.Difference-1.2) > 1e-9 || p.P != nil || p.Reason == "" {
		t.Errorf("%+v", p)
	}
	if s := m.Sides[0]; s.Value != nil || s.Prints != 3 || s.Note == "" {
		t.Errorf("a side %+v", s)
	}
	if apart := MatchedTimes("time matched", "", [][][]float64{{{1}, nil}, {nil, {1}}}, Between(2, 1)); apart.Pairs[0].Difference != nil || apart.Pairs[0].Reason == "" {
		t.Errorf("%+v", apart.Pairs)
	}
}

func TestErrorsAreMatchedPieceByPiece(t *testing.T) {
	side := func(mm ...float64) (s evidence.NestedSide) {
		s.Instrument.ResolutionMM = 0.01
		for _, v := range mm {
			s.Prints = append(s.Prints, evidence.NestedPrint{Specimens: []evidence.NestedSpecimen{{ValuesMM: []float64{v}}}})
		}
		return s
	}
	pieces := [][]evidence.NestedSide{{side(0.05, 0.06), side(0.01, 0.02)}, {side(0.08, 0.1), side(0.03, 0.05)}}
	m, err := MatchedErrors("error_abs matched", "Mean absolute error", pieces, Between(2, 1))
	if err != nil || m.Pairs[0].Kinds != 2 || math.Abs(*m.Pairs[0].Difference-0.045) > 1e-12 || m.Pairs[0].P == nil || m.Sides[1].Prints != 4 {
		t.Errorf("%+v (%v)", m, err)
	}
	mixed := append(pieces, []evidence.NestedSide{side(0.5), side(0.1)})
	if m, err = MatchedErrors("error_abs matched", "", mixed, Between(2, 1)); err != nil || m.Pairs[0].Kinds != 2 || math.Abs(*m.Pairs[0].Difference-0.045) > 1e-12 {
		t.Errorf("a piece printed once is counted as a kind: %+v (%v)", m.Pairs[0], err)
	}
	m, err = MatchedErrors("error_abs matched", "", [][]evidence.NestedSide{{side(0.05), side(0.01)}}, Between(2, 1))
	if err != nil || m.Pairs[0].P != nil || m.Pairs[0].Reason == "" {
		t.Errorf("single prints: %+v (%v)", m, err)
	}
}
