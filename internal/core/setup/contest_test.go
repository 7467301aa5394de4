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
	r := RatioOfTimes([]float64{200, 210, 205}, []float64{100, 103, 101})
	if math.Abs(r.Ratio-2.02) > 0.01 || r.CI[0] >= r.Ratio || r.CI[1] <= r.Ratio || *r.P > 0.001 {
		t.Errorf("%+v", r)
	}
	back := RatioOfTimes([]float64{100, 103, 101}, []float64{200, 210, 205})
	if math.Abs(back.Ratio*r.Ratio-1) > 1e-12 || math.Abs(back.CI[0]*r.CI[1]-1) > 1e-12 || math.Abs(*back.P-*r.P) > 1e-12 {
		t.Errorf("turned round: %+v", back)
	}
	if one := RatioOfTimes([]float64{200}, []float64{100, 103}); one.Ratio < 1.9 || one.CI != nil || one.P != nil {
		t.Errorf("one time: %+v", one)
	}
	if mean, ci := GeometricMean([]float64{100, 400}); math.Abs(mean-200) > 1e-9 || ci == nil || math.Abs(ci[0]*ci[1]-40000) > 1e-6 {
		t.Errorf("mean %v, interval %v", mean, ci)
	}
}

// Times that are equal to the minute still have the spread of a minute: 4 × 60 min against 4 × 45 min is plainly longer, and a
// mean of such times has an interval.
func TestTimesEqualToTheMinuteHaveTheSpreadOfAMinute(t *testing.T) {
	hour, three := []float64{3600, 3600, 3600, 3600}, []float64{2700, 2700, 2700, 2700}
	r := RatioOfTimes(hour, three)
	// u² = (17.32² / 3600² + 17.32² / 2700²) / 4, by hand.
	u := math.Sqrt((math.Pow(60/math.Sqrt(12)/3600, 2) + math.Pow(60/math.Sqrt(12)/2700, 2)) / 4)
	if r.CI == nil || math.Abs(r.Ratio-4.0/3) > 1e-12 || math.Abs(math.Log(r.CI[1]/r.CI[0])/2/u-2.5) > 0.15 || *r.P > 1e-6 {
		t.Errorf("%+v", r)
	}
	if matched := MatchedTimes([]TimeStratum{{hour, three}}); matched.P == nil || *matched.P > 1e-6 {
		t.Errorf("plate by plate: %+v", matched)
	}
	if _, ci := MeanTime(hour); ci == nil || ci[1]-ci[0] < 30 || ci[1]-ci[0] > 90 {
		t.Errorf("the mean of an hour four times lies in %v", ci)
	}
	// A clock that runs to the second tells them better than a minute does.
	if clocked := RatioOfTimes([]float64{3601, 3601, 3601}, []float64{3600, 3600, 3600}); clocked.CI[1]-clocked.CI[0] > 0.001 {
		t.Errorf("to the second: %+v", clocked)
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
