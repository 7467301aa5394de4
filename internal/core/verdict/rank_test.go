package verdict

import (
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"ojime/internal/core/quantity"
)

// drawn is a weighing of so many options and criteria.
func drawn(chance *rand.Rand, options, criteria int) RankInput {
	in := RankInput{}
	for o := range options {
		in.Options = append(in.Options, fmt.Sprintf("option %d", o))
	}
	for c := range criteria {
		k := Criterion{Name: fmt.Sprintf("criterion %d", c), Weight: 0.1 + chance.Float64(), Worst: 10 * chance.Float64(), Best: 20 + chance.Float64()}
		if chance.IntN(2) == 0 {
			k.Worst, k.Best = k.Best, k.Worst
		}
		for range options {
			k.Values = append(k.Values, &Value{Value: 10 + 12*chance.Float64(), SD: quantity.Ptr(chance.Float64())})
		}
		in.Criteria = append(in.Criteria, k)
	}
	return in
}

func rank(t *testing.T, in RankInput) RankResult {
	t.Helper()
	out, err := Rank(in)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

// One of the options is the best, and the odds of each are those that drawing their errors shows.
func TestTheOddsOfBeingTheBest(t *testing.T) {
	chance := rand.New(rand.NewPCG(7, 1))
	for n := range 6 {
		out := rank(t, drawn(chance, 2+n, 3))
		sum := 0.0
		best := make([]float64, len(out.Scores))
		for _, s := range out.Scores {
			sum += *s.PBest
		}
		if math.Abs(sum-1) > 1e-6 {
			t.Errorf("%d options: the odds sum to %v", 2+n, sum)
		}
		const draws = 40_000
		for range draws {
			top, at := math.Inf(-1), 0
			for o, s := range out.Scores {
				if v := *s.Score + *s.SD*chance.NormFloat64(); v > top {
					top, at = v, o
				}
			}
			best[at] += 1.0 / draws
		}
		for o, s := range out.Scores {
			if math.Abs(best[o]-*s.PBest) > 0.012 {
				t.Errorf("option %d of %d: %v, drawn %v", o, 2+n, *s.PBest, best[o])
			}
		}
	}
}

// Just before the weight that is told the leader leads; just after, the one that is named does, and at no weight
// between that and the present one does anybody else.
func TestAtTheWeightThatIsToldTheLeadTurns(t *testing.T) {
	chance := rand.New(rand.NewPCG(11, 2))
	flips := 0
	for range 400 {
		in := drawn(chance, 2+chance.IntN(4), 2+chance.IntN(3))
		out := rank(t, in)
		if out.Leader == nil {
			continue
		}
		for c, f := range out.Flips {
			leads := func(w float64) string {
				turned := in
				turned.Criteria = nil
				rest := 0.0
				for i, k := range in.Criteria {
					if i != c {
						rest += k.Weight
					}
				}
				for i, k := range in.Criteria {
					k.Weight /= rest / (1 - w)
					if i == c {
						k.Weight = w
					}
					turned.Criteria = append(turned.Criteria, k)
				}
				if l := rank(t, turned).Leader; l != nil {
					return *l
				}
				return ""
			}
			present := in.Criteria[c].Weight / (func() (sum float64) {
				for _, k := range in.Criteria {
					sum += k.Weight
				}
				return sum
			})()
			if f.Weight == nil {
				for _, w := range []float64{0.02, 0.25, 0.5, 0.75, 0.98} {
					if got := leads(w); got != *out.Leader {
						t.Fatalf("at weight %v %s leads, and no flip is told", w, got)
					}
				}
				continue
			}
			flips++
			step := math.Copysign(1e-5, *f.Weight-present)
			if leads(*f.Weight-step) != *out.Leader || leads(*f.Weight+step) != *f.To || leads((*f.Weight+present)/2) != *out.Leader {
				t.Fatalf("%+v: before %s, after %s", f, leads(*f.Weight-step), leads(*f.Weight+step))
			}
		}
	}
	if flips < 100 {
		t.Errorf("%d flips; the test sees too little", flips)
	}
}

// With the leader at the value that is told, it and the second are level.
func TestAtTheValueThatIsToldTheSecondDrawsLevel(t *testing.T) {
	chance := rand.New(rand.NewPCG(13, 3))
	turned := 0
	for range 200 {
		in := drawn(chance, 3, 3)
		out := rank(t, in)
		if out.Leader == nil {
			continue
		}
		for c, f := range out.ValueFlips {
			if f.Value == nil {
				continue
			}
			turned++
			again := in
			again.Criteria = append([]Criterion{}, in.Criteria...)
			again.Criteria[c].Values = append([]*Value{}, in.Criteria[c].Values...)
			for o, name := range in.Options {
				if name == *out.Leader {
					again.Criteria[c].Values[o] = &Value{Value: *f.Value}
				}
			}
			if l := rank(t, again); l.Leader != nil && *l.Margin > 1e-6 {
				t.Fatalf("%+v: %s still leads by %v", f, *l.Leader, *l.Margin)
			}
		}
	}
	if turned < 50 {
		t.Errorf("%d values; the test sees too little", turned)
	}
}

func TestWhatMakesNoWeighing(t *testing.T) {
	good := drawn(rand.New(rand.NewPCG(1, 1)), 2, 1)
	for field, spoil := range map[string]func(*RankInput){
		"options": func(in *RankInput) { in.Options = in.Options[:1] }, "options[1]": func(in *RankInput) { in.Options = []string{"A", "A"} },
		"criteria": func(in *RankInput) { in.Criteria = nil }, "criteria[0].weight": func(in *RankInput) { in.Criteria[0].Weight = -1 },
		"criteria[0].values": func(in *RankInput) { in.Criteria[0].Values = in.Criteria[0].Values[:1] }, "criteria[0].values[1].sd": func(in *RankInput) { in.Criteria[0].Values[1] = &Value{SD: quantity.Ptr(-1.0)} },
		"criteria[0].best": func(in *RankInput) { in.Criteria[0].Best = math.Inf(1) },
	} {
		in := good
		in.Criteria = append([]Criterion{}, good.Criteria...)
		in.Criteria[0].Values = append([]*Value{}, good.Criteria[0].Values...)
		spoil(&in)
		var at *quantity.FieldError
		if _, err := Rank(in); !errors.As(err, &at) || at.Path != field {
			t.Errorf("%v, want field %s", err, field)
		}
	}
}
