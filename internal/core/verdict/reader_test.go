package verdict

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"ojime/internal/core/quantity"
)

func TestMustHaves(t *testing.T) {
	v := quantity.Ptr[float64]
	in := func(low, high float64) *quantity.Interval { return &quantity.Interval{low, high} }
	for _, c := range []struct {
		bound string
		limit float64
		value *float64
		ci    *quantity.Interval
		want  string
	}{
		{AtMost, 10, v(8), in(6, 10), Kept}, {AtMost, 10, v(8), in(6, 10.1), NotShown}, {AtMost, 10, v(12), in(10.1, 14), Broken}, {AtMost, 10, v(10), nil, Kept}, {AtMost, 10, v(10.1), nil, Broken},
		{AtLeast, 10, v(12), in(10, 14), Kept}, {AtLeast, 10, v(12), in(9.9, 14), NotShown}, {AtLeast, 10, v(8), in(6, 9.9), Broken}, {AtLeast, 10, nil, nil, NotKnown},
	} {
		if got := Keeps(c.bound, c.limit, c.value, c.ci); got != c.want {
			t.Errorf("%+v: %s", c, got)
		}
	}
}

// The line of a criterion passes through the scores at its own weight, is straight, and ends at its own value alone.
func TestSensitivityRunsThroughTheScores(t *testing.T) {
	chance := rand.New(rand.NewPCG(5, 6))
	for range 100 {
		in := drawn(chance, 3, 4)
		total := 0.0
		for _, k := range in.Criteria {
			total += k.Weight
		}
		scores, share := rank(t, in).Scores, in.shares()
		for c, k := range in.Criteria {
			line, err := Sensitivity(in, c, 2)
			if err != nil {
				t.Fatal(err)
			}
			if k.Weight == total {
				continue
			}
			for o := range in.Options {
				if scores[o].Score == nil {
					continue
				}
				first, last := *line[0].Scores[o], *line[2].Scores[o]
				w := k.Weight / total
				if at := first + w*(last-first); math.Abs(at-*scores[o].Score) > 1e-9 || math.Abs(*line[1].Scores[o]-(first+last)/2) > 1e-9 || math.Abs(last-share[c][o].share) > 1e-9 {
					t.Fatalf("criterion %d of %+v: %v at %v, the score is %v", c, in, at, w, *scores[o].Score)
				}
			}
		}
	}
	alone := RankInput{Options: []string{"a", "b"}, Criteria: []Criterion{{Name: "x", Weight: 1, Best: 1, Values: Values{{Value: 0.2}, nil}}}}
	line, err := Sensitivity(alone, 0, 4)
	if err != nil || len(line) != 1 || line[0].Weight != 1 || *line[0].Scores[0] != 0.2 || line[0].Scores[1] != nil {
		t.Errorf("%+v %v", line, err)
	}
	for _, c := range []int{-1, 1} {
		if _, err := Sensitivity(alone, c, 4); err == nil {
			t.Errorf("criterion %d", c)
		}
	}
	if _, err := Sensitivity(RankInput{}, 0, 4); err == nil {
		t.Error("nothing to weigh")
	}
}

func TestNobodyWinsWhereItIsNotSure(t *testing.T) {
	two := func(a, b, sd float64) RankResult {
		return rank(t, RankInput{Options: []string{"Reed", "Sedge"}, Criteria: []Criterion{{Name: "x", Weight: 1, Best: 1, Values: Values{{Value: a, SD: &sd}, {Value: b, SD: &sd}}}}})
	}
	for want, r := range map[string]RankResult{
		"Reed is the best for this reader: it scores 0.8 against 0.4 for Sedge; the chance that it is the best is above 99 %.":  two(0.8, 0.4, 0.05),
		"Reed is likely the best for this reader: it scores 0.6 against 0.5 for Sedge; the chance that it is the best is 85 %.": two(0.6, 0.5, 0.068),
		"Nobody wins on these data. Sedge stands first with 0.52 against 0.5 for Reed; the chance that it is the best is 56 %.": two(0.5, 0.52, 0.1),
		"Nobody wins on these data: the first are level.":                                                                       two(0.5, 0.5, 0.1),
	} {
		if got := Words(r); got != want {
			t.Errorf("%s\nnot\n%s", got, want)
		}
	}
	none := rank(t, RankInput{Options: []string{"a", "b"}, Criteria: []Criterion{{Name: "x", Weight: 1, Best: 1, Values: Values{nil, nil}}}})
	one := rank(t, RankInput{Options: []string{"a", "b"}, Criteria: []Criterion{{Name: "x", Weight: 1, Best: 1, Values: Values{{Value: 1}, nil}}}})
	if !strings.HasPrefix(Words(none), "Nothing can be ranked") || !strings.HasPrefix(Words(one), "Only a has") {
		t.Error(Words(none), Words(one))
	}
}
