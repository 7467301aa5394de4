package detail

import (
	"math"
	"math/rand/v2"
	"testing"
)

// Where outcomes do not overlap, the usual regression has no answer; this one has.
func TestATruthThatIsSeparatedHasAThreshold(t *testing.T) {
	got := threshold(t, Rung{0.1, 0, 4}, Rung{0.2, 0, 4}, Rung{0.3, 4, 4}, Rung{0.4, 4, 4})
	f := got.Firth
	if got.D50MM != nil || f.D50MM == nil || *f.D50MM <= 0.2 || *f.D50MM >= 0.3 {
		t.Errorf("%+v", got)
	}
	if f.CIMM[0] == nil || f.CIMM[1] == nil || *f.CIMM[0] >= *f.D50MM || *f.CIMM[1] <= *f.D50MM {
		t.Errorf("interval %v of %v", f.CIMM, *f.D50MM)
	}
	more := threshold(t, Rung{0.1, 0, 40}, Rung{0.2, 0, 40}, Rung{0.3, 40, 40}, Rung{0.4, 40, 40}).Firth
	if *more.CIMM[1]-*more.CIMM[0] >= *f.CIMM[1]-*f.CIMM[0] {
		t.Errorf("ten times the copies are not narrower: %v and %v", *more.CIMM[1]-*more.CIMM[0], *f.CIMM[1]-*f.CIMM[0])
	}
}

func TestThereIsNoThresholdInWhatAlwaysHolds(t *testing.T) {
	for name, rungs := range map[string][]Rung{"holds": {{0.1, 3, 3}, {0.2, 3, 3}}, "fails": {{0.1, 0, 3}, {0.2, 0, 3}}, "is one size": {{0.2, 2, 4}}, "falls": {{0.1, 4, 4}, {0.2, 2, 4}, {0.3, 0, 4}}} {
		if f := threshold(t, rungs...).Firth; f.D50MM != nil || f.CIMM != nil {
			t.Errorf("what always %s: %+v", name, f)
		}
	}
	flat := threshold(t, Rung{0.2, 1, 9}, Rung{0.3, 1, 9}, Rung{0.4, 2, 9}).Firth
	if flat.CIMM == nil || flat.CIMM[1] != nil {
		t.Errorf("a threshold far beyond the ladder has no upper end: %+v", flat)
	}
}

// Scaling all sizes scales threshold and interval, and nothing else.
func TestAThresholdScales(t *testing.T) {
	rungs := []Rung{{0.1, 0, 5}, {0.15, 1, 5}, {0.2, 3, 5}, {0.3, 5, 5}}
	var larger []Rung
	for _, r := range rungs {
		larger = append(larger, Rung{7 * r.SizeMM, r.Intact, r.Of})
	}
	a, b := threshold(t, rungs...).Firth, threshold(t, larger...).Firth
	for _, pair := range [][2]*float64{{a.D50MM, b.D50MM}, {a.CIMM[0], b.CIMM[0]}, {a.CIMM[1], b.CIMM[1]}} {
		if math.Abs(7**pair[0]-*pair[1]) > 1e-5**pair[1] {
			t.Errorf("%v, seven times larger %v", *pair[0], *pair[1])
		}
	}
}

// The interval covers the threshold that outcomes were made from about as often as it
// says, at few copies.
func TestTheProfileIntervalCovers(t *testing.T) {
	chance := rand.New(rand.NewPCG(9, 91))
	const d50, slope, many = 0.22, 9.0, 600
	covered, known := 0, 0
	for range many {
		var rungs []Rung
		for _, size := range []float64{0.1, 0.15, 0.2, 0.25, 0.3, 0.4} {
			r := Rung{SizeMM: size, Of: 4}
			for range 4 {
				if chance.Float64() < 1/(1+math.Exp(-slope*math.Log(size/d50))) {
					r.Intact++
				}
			}
			rungs = append(rungs, r)
		}
		f := threshold(t, rungs...).Firth
		if f.CIMM == nil || f.CIMM[0] == nil || f.CIMM[1] == nil {
			continue
		}
		known++
		if *f.CIMM[0] <= d50 && d50 <= *f.CIMM[1] {
			covered++
		}
	}
	if share := float64(covered) / float64(known); known < many*9/10 || share < 0.92 {
		t.Errorf("%.3f of %d intervals of %d cover it", share, known, many)
	}
}

// What is asked without the interval is the same.
func TestHalfHoldIsTheThreshold(t *testing.T) {
	rungs := []Rung{{0.3, 5, 5}, {0.1, 0, 5}, {0.2, 3, 5}, {0.15, 1, 5}}
	if got, want := HalfHold(rungs), threshold(t, rungs...).Firth.D50MM; *got != *want {
		t.Errorf("%v and %v", *got, *want)
	}
	if got, want := SmallestWhole(rungs), threshold(t, rungs...).SmallestIntactMM; *got != *want {
		t.Errorf("%v and %v", *got, *want)
	}
	if HalfHold([]Rung{{0.1, 1, 1}}) != nil || SmallestWhole([]Rung{{0.1, 0, 1}}) != nil {
		t.Error("a threshold of nothing")
	}
}

func BenchmarkThreshold(b *testing.B) {
	in := ThresholdInput{}
	for i := range 12 {
		in.Rungs = append(in.Rungs, Rung{0.1 + 0.03*float64(i), int64(max(0, min(8, i-2))), 8})
	}
	for b.Loop() {
		if _, err := Threshold(in); err != nil {
			b.Fatal(err)
		}
	}
}

// Where half hold far beyond the sizes tested, an end of the interval that lies beyond the limits is not known either.
func TestAnEndBeyondTheLimitsIsNotKnown(t *testing.T) {
	for name, rungs := range map[string][]Rung{
		"far below": {{SizeMM: 0.5, Intact: 90_000, Of: 100_000}, {SizeMM: 0.6, Intact: 91_090, Of: 100_000}, {SizeMM: 0.7, Intact: 91_920, Of: 100_000}},
		"far above": {{SizeMM: 0.5, Intact: 8_080, Of: 100_000}, {SizeMM: 0.6, Intact: 9_080, Of: 100_000}, {SizeMM: 0.7, Intact: 10_000, Of: 100_000}},
		"within":    {{SizeMM: 0.2, Intact: 1, Of: 10}, {SizeMM: 0.3, Intact: 5, Of: 10}, {SizeMM: 0.4, Intact: 9, Of: 10}},
	} {
		t.Run(name, func(t *testing.T) {
			got := Half(rungs)
			if got.CIMM == nil {
				t.Fatalf("%+v", got)
			}
			low, high := rungs[0].SizeMM/10, rungs[len(rungs)-1].SizeMM*10
			for i, end := range got.CIMM {
				if end != nil && (*end < low || *end > high) {
					t.Errorf("end %d is %v mm, beyond %v to %v mm", i, *end, low, high)
				}
			}
			if within := got.D50MM != nil; within != (name == "within") {
				t.Errorf("half hold at %v", got.D50MM)
			}
		})
	}
}
