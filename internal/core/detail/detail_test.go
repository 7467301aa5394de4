package detail

import (
	"errors"
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"ojime/internal/core/quantity"
)

func threshold(t *testing.T, rungs ...Rung) ThresholdResult {
	t.Helper()
	out, err := Threshold(ThresholdInput{Rungs: rungs})
	if err != nil {
		t.Fatal(err)
	}
	return out
}

func TestTheSmallestWholeSizeHoldsFromThereOn(t *testing.T) {
	for _, c := range []struct {
		name  string
		rungs []Rung
		want  float64 // 0: none
	}{
		{"all whole", []Rung{{0.1, 3, 3}, {0.2, 3, 3}}, 0.1},
		{"a hole in the ladder", []Rung{{0.1, 3, 3}, {0.2, 2, 3}, {0.3, 3, 3}, {0.4, 3, 3}}, 0.3},
		{"the largest fails", []Rung{{0.1, 3, 3}, {0.2, 2, 3}}, 0},
		{"in any order", []Rung{{0.4, 3, 3}, {0.1, 0, 3}, {0.3, 3, 3}, {0.2, 1, 3}}, 0.3},
		{"equal sizes add up", []Rung{{0.3, 3, 3}, {0.2, 3, 3}, {0.2, 0, 1}}, 0.3},
	} {
		got := threshold(t, c.rungs...)
		if (got.SmallestIntactMM == nil) != (c.want == 0) || c.want > 0 && *got.SmallestIntactMM != c.want || got.Has("top_fails") != (c.want == 0) {
			t.Errorf("%s: %v, %v", c.name, got.SmallestIntactMM, got.Warnings)
		}
	}
}

func TestSizesThatDoNotOverlapBracketTheThreshold(t *testing.T) {
	got := threshold(t, Rung{0.1, 0, 4}, Rung{0.2, 0, 4}, Rung{0.3, 4, 4}, Rung{0.4, 4, 4})
	if got.D50MM != nil || !got.Has("separated") || *got.BracketMM[0] != 0.2 || *got.BracketMM[1] != 0.3 {
		t.Errorf("%+v", got)
	}
	if all := threshold(t, Rung{0.1, 4, 4}, Rung{0.2, 4, 4}); all.BracketMM[0] != nil || *all.BracketMM[1] != 0.1 {
		t.Errorf("all whole: %+v", all)
	}
	if none := threshold(t, Rung{0.1, 0, 4}, Rung{0.2, 0, 4}); *none.BracketMM[0] != 0.2 || none.BracketMM[1] != nil {
		t.Errorf("none whole: %+v", none)
	}
	// One rung in between that holds half: not separated by more than a touch.
	if touch := threshold(t, Rung{0.1, 0, 4}, Rung{0.2, 2, 4}, Rung{0.3, 4, 4}); !touch.Has("separated") {
		t.Errorf("touching: %+v", touch)
	}
}

// A ladder made from a threshold gives it back: half hold at d50, nine tenths at d90.
func TestAThresholdIsFoundAgain(t *testing.T) {
	const d50, slope, many = 0.24, 9.0, 100_000
	var rungs []Rung
	for _, size := range []float64{0.15, 0.2, 0.25, 0.3, 0.4} {
		share := 1 / (1 + math.Exp(-slope*math.Log(size/d50)))
		rungs = append(rungs, Rung{size, int64(math.Round(many * share)), many})
	}
	got := threshold(t, rungs...)
	if math.Abs(*got.D50MM-d50) > 1e-5 || math.Abs(*got.D90MM-d50*math.Pow(9, 1/slope)) > 1e-5 || len(got.Warnings.Warnings) != 1 {
		t.Errorf("%v and %v: %+v", *got.D50MM, *got.D90MM, got.Warnings)
	}
}

func TestALadderThatDoesNotRiseIsNotRead(t *testing.T) {
	for name, rungs := range map[string][]Rung{"falls": {{0.1, 4, 4}, {0.2, 2, 4}, {0.3, 0, 4}}, "is flat": {{0.1, 2, 4}, {0.2, 2, 4}, {0.3, 2, 4}}} {
		if got := threshold(t, rungs...); got.D50MM != nil || !got.Has("not_monotone") {
			t.Errorf("a ladder that %s: %+v", name, got)
		}
	}
	beyond := threshold(t, Rung{0.2, 3, 4}, Rung{0.3, 4, 5}, Rung{0.4, 9, 10})
	if beyond.D50MM == nil || *beyond.D50MM >= 0.2 || !beyond.Has("extrapolated") {
		t.Errorf("a threshold below the ladder: %+v", beyond)
	}
}

func TestPixelsAreCountedOfTheSmallestWholeSize(t *testing.T) {
	got, err := Threshold(ThresholdInput{Rungs: []Rung{{0.1, 0, 2}, {0.2, 2, 2}}, PitchUM: quantity.Ptr(50.0)})
	if err != nil || *got.Pixels != 4 {
		t.Errorf("%+v (%v)", got, err)
	}
	if got := threshold(t, Rung{0.2, 2, 2}); got.Pixels != nil {
		t.Error("pixels without a pitch")
	}
}

func TestLaddersThatCannotBe(t *testing.T) {
	for path, in := range map[string]ThresholdInput{
		"rungs": {}, "rungs[0].size_mm": {Rungs: []Rung{{0, 1, 1}}}, "rungs[0].of": {Rungs: []Rung{{0.1, 0, 0}}}, "rungs[1].intact": {Rungs: []Rung{{0.1, 1, 1}, {0.2, 3, 2}}},
		"pitch_um": {Rungs: []Rung{{0.1, 1, 1}}, PitchUM: quantity.Ptr(0.0)},
	} {
		_, err := Threshold(in)
		var wrong *quantity.FieldError
		if !errors.As(err, &wrong) || wrong.Path != path {
			t.Errorf("error %v, want one of field %s", err, path)
		}
	}
}

// The order of rungs, and how their counts are split, changes nothing.
func TestOnlyTheCountsOfASizeMatter(t *testing.T) {
	chance := rand.New(rand.NewPCG(4, 44))
	for range 200 {
		var whole, split []Rung
		for _, size := range []float64{0.1, 0.15, 0.2, 0.3, 0.4} {
			of := 2 + chance.Int64N(8)
			intact := chance.Int64N(of + 1)
			part := min(intact, chance.Int64N(of-1)+1)
			whole = append(whole, Rung{size, intact, of})
			split = append(split, Rung{size, part, max(part, 1)}, Rung{size, intact - part, of - max(part, 1)})
		}
		split = slices.DeleteFunc(split, func(r Rung) bool { return r.Of == 0 || r.Intact > r.Of })
		before := slices.Clone(split)
		chance.Shuffle(len(split), func(i, j int) { split[i], split[j] = split[j], split[i] })
		a, b := threshold(t, whole...), threshold(t, before...)
		if same := threshold(t, split...); !equal(same.D50MM, b.D50MM) || !equal(same.SmallestIntactMM, b.SmallestIntactMM) {
			t.Fatalf("shuffled: %v and %v", same.D50MM, b.D50MM)
		}
		if len(before) == 10 && !equal(a.D50MM, b.D50MM) {
			t.Fatalf("%v: whole %v, split %v", whole, a.D50MM, b.D50MM)
		}
	}
}

func equal(a, b *float64) bool {
	return (a == nil) == (b == nil) && (a == nil || math.Abs(*a-*b) < 1e-9)
}
