package plan

import (
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"reflect"
	"testing"

	"gonum.org/v1/gonum/mat"

	"ojime/internal/core/quantity"
)

func factors(levels ...int) (out []Factor) {
	for i, n := range levels {
		f := Factor{Name: string(rune('a' + i))}
		for j := range n {
			f.Levels = append(f.Levels, fmt.Sprintf("%c%d", 'a'+i, j))
		}
		out = append(out, f)
	}
	return out
}

func cell(prints int64, levels ...any) DesignCell { return DesignCell{levels, prints} }

func design(t *testing.T, in DesignInput) DesignResult {
	t.Helper()
	out, err := Design(in)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

// Three lift speeds by two rests with one cell missing: the effects stand apart, their
// interaction does not, and the one cell is what is missing.
func TestAGridWithAHole(t *testing.T) {
	in := DesignInput{Factors: []Factor{{"lift", []any{"slow", "middle", "fast"}}, {"rest", []any{0.5, 2.0}}}}
	for _, lift := range in.Factors[0].Levels {
		for _, rest := range in.Factors[1].Levels {
			if lift != "fast" || rest != 2.0 {
				in.Cells = append(in.Cells, cell(3, lift, rest))
			}
		}
	}
	main := design(t, in)
	if !main.Terms[0].Estimable || !main.Terms[1].Estimable || main.ResidualDF != 15-4 || len(main.Add) != 0 || main.CellsPrinted != 5 || main.CellsAll != 6 {
		t.Errorf("main effects: %+v", main)
	}
	in.Interactions = [][]string{{"lift", "rest"}}
	whole := design(t, in)
	if whole.Terms[2].Estimable || whole.Terms[2].Term != "lift×rest" || !reflect.DeepEqual(whole.Add, [][]any{{"fast", 2.0}}) || whole.Rank != 5 {
		t.Errorf("with their interaction: %+v", whole)
	}
	in.Cells = append(in.Cells, cell(1, "fast", 2.0))
	if full := design(t, in); !full.Terms[2].Estimable || len(full.Add) != 0 || full.Rank != 6 {
		t.Errorf("with the last cell: %+v", full)
	}
}

// The slow lift was printed with the long rest only: lift and rest go together.
func TestFactorsThatGoTogetherAreNamed(t *testing.T) {
	in := DesignInput{Factors: []Factor{{"lift", []any{"slow", "fast"}}, {"rest", []any{"short", "long"}}, {"resin", []any{"grey", "clear"}}},
		Cells: []DesignCell{cell(2, "slow", "long", "grey"), cell(2, "fast", "short", "grey"), cell(2, "slow", "long", "clear"), cell(2, "fast", "short", "clear")}}
	got := design(t, in)
	if got.Terms[0].Estimable || !reflect.DeepEqual(got.Terms[0].AliasedWith, []string{"rest"}) || !reflect.DeepEqual(got.Terms[1].AliasedWith, []string{"lift"}) || !got.Terms[2].Estimable {
		t.Errorf("%+v", got.Terms)
	}
	nothing := design(t, DesignInput{Factors: in.Factors})
	if nothing.Rank != 0 || len(nothing.Add) != 4 || nothing.Terms[0].Estimable {
		t.Errorf("nothing printed: %+v", nothing)
	}
}

// In floating point, by singular values, the answers are the same.
func TestEstimableIsWhatRanksSay(t *testing.T) {
	chance := rand.New(rand.NewPCG(17, 4))
	for range 150 {
		in := DesignInput{Factors: factors(2+chance.IntN(2), 2+chance.IntN(3), 2)}
		if chance.IntN(2) == 0 {
			in.Interactions = [][]string{{"a", "b"}, {"b", "c"}}
		}
		var c quantity.Checks
		m := modelOf(&c, in.Factors, in.Interactions)
		var rows [][]int
		for number := range m.cells {
			if chance.IntN(2) == 0 {
				levels := m.levels(number)
				in.Cells = append(in.Cells, DesignCell{m.named(levels), 1 + chance.Int64N(3)})
				rows = append(rows, m.row(levels))
			}
		}
		got := design(t, in)
		if want := rankOf(rows, nil, m.columns); got.Rank != want {
			t.Fatalf("rank %d, want %d", got.Rank, want)
		}
		for i, term := range m.terms[1:] {
			alone := got.Rank-rankOf(rows, []span{{term.from, term.until}}, m.columns) == term.columns()
			if got.Terms[i].Estimable != alone {
				t.Fatalf("%s: estimable %v, by ranks %v", term.name, got.Terms[i].Estimable, alone)
			}
			aliased := []string{}
			for _, other := range m.terms {
				if alone || len(other.factors) > 0 && (term.holds(other) || other.holds(term)) {
					continue
				}
				gone := span{other.from, other.until}
				if rankOf(rows, []span{gone}, m.columns)-rankOf(rows, []span{gone, {term.from, term.until}}, m.columns) == term.columns() {
					aliased = append(aliased, other.name)
				}
			}
			if !reflect.DeepEqual(got.Terms[i].AliasedWith, aliased) {
				t.Fatalf("%s: aliased with %v, by ranks %v", term.name, got.Terms[i].AliasedWith, aliased)
			}
		}
	}
}

type span struct{ from, until int }

// rankOf is the rank of rows without some columns, by singular values.
func rankOf(rows [][]int, without []span, columns int) int {
	keep := []int{}
	for j := range columns {
		gone := false
		for _, w := range without {
			gone = gone || j >= w.from && j < w.until
		}
		if !gone {
			keep = append(keep, j)
		}
	}
	if len(rows) == 0 || len(keep) == 0 {
		return 0
	}
	m := mat.NewDense(len(rows), len(keep), nil)
	for i, row := range rows {
		for k, j := range keep {
			m.Set(i, k, float64(row[j]))
		}
	}
	var svd mat.SVD
	if !svd.Factorize(m, mat.SVDNone) {
		return -1
	}
	rank := 0
	for _, v := range svd.Values(nil) {
		if v > 1e-9 {
			rank++
		}
	}
	return rank
}

func TestDesignsThatCannotBe(t *testing.T) {
	two := factors(2, 2)
	for path, in := range map[string]DesignInput{
		"factors": {}, "factors[0].levels": {Factors: []Factor{{"a", []any{1.0}}}}, "factors[0].levels[1]": {Factors: []Factor{{"a", []any{1.0, 1.0}}}}, "factors[1].name": {Factors: []Factor{two[0], {"a", []any{1.0, 2.0}}}},
		"cells[0].levels": {Factors: two, Cells: []DesignCell{cell(1, "a0")}}, "cells[0].levels[1]": {Factors: two, Cells: []DesignCell{cell(1, "a0", "z")}}, "cells[0].prints": {Factors: two, Cells: []DesignCell{cell(-1, "a0", "b0")}},
		"interactions[0]": {Factors: two, Interactions: [][]string{{"a"}}}, "interactions[0][1]": {Factors: two, Interactions: [][]string{{"a", "z"}}}, "interactions[1]": {Factors: two, Interactions: [][]string{{"a", "b"}, {"b", "a"}}},
	} {
		_, err := Design(in)
		var wrong *quantity.FieldError
		if !errors.As(err, &wrong) || wrong.Path != path {
			t.Errorf("error %v, want one of field %s", err, path)
		}
	}
	_, err := Design(DesignInput{Factors: factors(8, 8, 8, 8, 2)})
	var wrong *quantity.FieldError
	if !errors.As(err, &wrong) || wrong.Path != "factors" {
		t.Errorf("8 192 cells: %v", err)
	}
}

// Effects that were put in come out, uneven prints or not, and their tests are as wrong as
// they say.
func TestEffectsComeOutAgain(t *testing.T) {
	chance := rand.New(rand.NewPCG(2, 22))
	in := EffectsInput{Factors: factors(3, 2), Interactions: [][]string{{"a", "b"}}}
	put := map[any]float64{"a0": -1, "a1": 0, "a2": 1, "b0": 2, "b1": -2}
	for range 60 {
		a, b := in.Factors[0].Levels[chance.IntN(3)], in.Factors[1].Levels[chance.IntN(2)]
		in.Prints = append(in.Prints, DesignPrint{[]any{a, b}, 10 + put[a] + put[b] + 0.1*chance.NormFloat64()})
	}
	out, err := Effects(in)
	if err != nil {
		t.Fatal(err)
	}
	for _, m := range out.Means {
		if want := 10 + put[m.Level]; math.Abs(m.Mean-want) > 0.1 || m.CI[0] > want+0.05 || m.CI[1] < want-0.05 {
			t.Errorf("%s %v: %v %v, put in %v", m.Factor, m.Level, m.Mean, *m.CI, want)
		}
	}
	if *out.Terms[0].PAdjusted > 1e-6 || *out.Terms[1].PAdjusted > 1e-6 || *out.Terms[2].P < 0.001 || math.Abs(*out.ResidualSD-0.1) > 0.03 {
		t.Errorf("%+v, sd %v", out.Terms, *out.ResidualSD)
	}
	alarms := 0
	const many = 600
	for range many {
		null := EffectsInput{Factors: factors(3, 2)}
		for range 4 {
			for _, a := range null.Factors[0].Levels {
				for _, b := range null.Factors[1].Levels {
					null.Prints = append(null.Prints, DesignPrint{[]any{a, b}, chance.NormFloat64()})
				}
			}
		}
		got, err := Effects(null)
		if err != nil {
			t.Fatal(err)
		}
		for _, term := range got.Terms {
			if *term.PAdjusted < 0.05 {
				alarms++
				break
			}
		}
	}
	if share := float64(alarms) / many; share > 0.075 {
		t.Errorf("of nothing, %.3f of experiments find something", share)
	}
}

func TestExperimentsThatCannotBeTested(t *testing.T) {
	in := EffectsInput{Factors: factors(2, 2), Prints: []DesignPrint{{[]any{"a0", "b0"}, 1}, {[]any{"a1", "b0"}, 2}, {[]any{"a0", "b1"}, 3}, {[]any{"a1", "b1"}, 4}}}
	if out, err := Effects(in); err != nil || !out.Has("no_residual") || out.Terms[0].F != nil || out.Means[0].CI != nil || out.ResidualSD != nil {
		t.Errorf("residuals that are all nothing: %+v (%v)", out, err)
	}
	in.Prints = in.Prints[:2]
	_, err := Effects(in)
	var wrong *quantity.FieldError
	if !errors.As(err, &wrong) || wrong.Path != "prints" {
		t.Errorf("two cells for three effects: %v", err)
	}
	in.Prints = append(in.Prints, DesignPrint{[]any{"a0", "b1"}, math.NaN()})
	if _, err = Effects(in); !errors.As(err, &wrong) || wrong.Path != "prints[2].value" {
		t.Errorf("a value that is none: %v", err)
	}
}

// A design of 512 cells with half of them printed is worked out in time.
func BenchmarkDesign(b *testing.B) {
	in := DesignInput{Factors: factors(8, 8, 8), Interactions: [][]string{{"a", "b"}, {"a", "c"}, {"b", "c"}}}
	var c quantity.Checks
	m := modelOf(&c, in.Factors, in.Interactions)
	for number := 0; number < m.cells; number += 2 {
		in.Cells = append(in.Cells, DesignCell{m.named(m.levels(number)), 1})
	}
	for b.Loop() {
		if _, err := Design(in); err != nil {
			b.Fatal(err)
		}
	}
}
