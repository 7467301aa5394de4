package setup

import (
	"math"
	"slices"
	"testing"

	"ojime/internal/core/detail"
	"ojime/internal/core/outcome"
)

func ladderPrint(smallest float64, copies int64) (l LadderPrint) {
	for _, size := range []float64{0.1, 0.2, 0.3, 0.5} {
		r := detail.Rung{SizeMM: size, Of: copies}
		if size >= smallest {
			r.Intact = copies
		}
		l.Rungs = append(l.Rungs, r)
	}
	return l
}

func TestALadderOverPrints(t *testing.T) {
	l := LadderOf([]LadderPrint{ladderPrint(0.2, 4), ladderPrint(0.3, 4), ladderPrint(0.3, 4)})
	if *l.SmallestMM[0] != 0.2 || *l.SmallestMM[2] != 0.3 || math.Abs(l.StepMM-0.1) > 1e-12 || l.D50CIMM == nil || l.D50CIMM[0] >= *l.D50MM || l.D50CIMM[1] <= *l.D50MM {
		t.Errorf("%+v", l)
	}
	if top := LadderOf([]LadderPrint{ladderPrint(0.5, 2)}); math.Abs(top.StepMM-0.2) > 1e-12 || top.D50CIMM != nil {
		t.Errorf("one print: %+v", top)
	}
	if lowest := LadderOf([]LadderPrint{ladderPrint(0.05, 2)}); *lowest.SmallestMM[0] != 0.1 || math.Abs(lowest.StepMM-0.1) > 1e-12 || lowest.D50MM != nil {
		t.Errorf("all whole: %+v", lowest)
	}
	if none := LadderOf([]LadderPrint{ladderPrint(9, 2)}); none.SmallestMM[0] != nil || none.StepMM != 0 {
		t.Errorf("none whole: %+v", none)
	}
	if alike := LadderOf([]LadderPrint{ladderPrint(0.3, 4), ladderPrint(0.3, 4), ladderPrint(0.3, 4)}); alike.D50CIMM != nil || alike.D50MM == nil {
		t.Errorf("prints that are all alike show no spread: %+v", alike)
	}
}

func TestTimesAreARatio(t *testing.T) {
	r, err := RatioOfTimes([]float64{200, 210, 205}, []float64{100, 103, 101})
	if err != nil || math.Abs(r.Ratio-2.02) > 0.01 || r.CI[0] >= r.Ratio || r.CI[1] <= r.Ratio || *r.P > 0.001 {
		t.Errorf("%+v (%v)", r, err)
	}
	back, err := RatioOfTimes([]float64{100, 103, 101}, []float64{200, 210, 205})
	if err != nil || math.Abs(back.Ratio*r.Ratio-1) > 1e-12 || math.Abs(back.CI[0]*r.CI[1]-1) > 1e-12 || math.Abs(*back.P-*r.P) > 1e-12 {
		t.Errorf("turned round: %+v (%v)", back, err)
	}
	if one, err := RatioOfTimes([]float64{200}, []float64{100, 103}); err != nil || one.Ratio < 1.9 || one.CI != nil || one.P != nil {
		t.Errorf("one time: %+v (%v)", one, err)
	}
	if flat, err := RatioOfTimes([]float64{200, 200}, []float64{100, 100}); err != nil || math.Abs(flat.Ratio-2) > 1e-12 || flat.P != nil {
		t.Errorf("no spread: %+v (%v)", flat, err)
	}
	if mean, ci := GeometricMean([]float64{100, 400}); math.Abs(mean-200) > 1e-9 || ci == nil || math.Abs(ci[0]*ci[1]-40000) > 1e-6 {
		t.Errorf("mean %v, interval %v", mean, ci)
	}
}

// The cost of a good piece knows that copies of one print share its fate.
func TestACostsIntervalIsOverPrints(t *testing.T) {
	side := func(lost ...int64) (out []Print) {
		for _, n := range lost {
			p := three()[0]
			p.Copies, p.Counts = 8, outcome.Counts{Specimens: 8, Whole: 8 - n, Lost: n, Failed: n}
			out = append(out, p)
		}
		return out
	}
	width := func(prints []Print) (price, wide float64) {
		c, reason, err := CostOf(prints, Prices{})
		if err != nil || reason != "" || c.PerGoodPiece == nil || c.PerGoodCI == nil {
			t.Fatalf("%+v, %s, %v", c, reason, err)
		}
		if c.PerGoodCI[0] > *c.PerGoodPiece || c.PerGoodCI[1] < *c.PerGoodPiece {
			t.Errorf("interval %v of %v", *c.PerGoodCI, *c.PerGoodPiece)
		}
		return *c.PerGoodPiece, c.PerGoodCI[1] - c.PerGoodCI[0]
	}
	together, wide := width(side(0, 0, 8, 0))
	apart, narrow := width(side(2, 2, 2, 2))
	if math.Abs(together-apart) > 1e-9 || wide <= narrow {
		t.Errorf("one plate lost: %v ± %v, two of each: %v ± %v", together, wide, apart, narrow)
	}
	if counts := PrintCounts(append(side(1), Print{Counts: outcome.Counts{Specimens: 3, Pending: 3}}), func(c outcome.Counts) int64 { return c.Failed }); len(counts) != 1 || counts[0].Failed != 1 {
		t.Errorf("a print that is not judged counts: %+v", counts)
	}
}

func TestALadderAddsUpItsSizes(t *testing.T) {
	rung := func(mm float64, intact, of int64) detail.Rung { return detail.Rung{SizeMM: mm, Intact: intact, Of: of} }
	l := LadderOf([]LadderPrint{{Rungs: []detail.Rung{rung(0.2, 1, 2), rung(0.4, 2, 2)}}, {Rungs: []detail.Rung{rung(0.4, 1, 2), rung(0.3, 0, 2), rung(0.2, 0, 2)}}})
	want := []detail.Rung{rung(0.2, 1, 4), rung(0.3, 0, 2), rung(0.4, 3, 4)}
	if !slices.Equal(l.Rungs, want) {
		t.Errorf("got %v, want %v", l.Rungs, want)
	}
}
