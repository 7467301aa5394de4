package plan

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"testing"

	"ojime/internal/core/quantity"
)

// levels are so many of a factor, as numbers.
func levels(n int) (out []any) {
	for i := range n {
		out = append(out, float64(i))
	}
	return out
}

func TestAnExperimentThatCannotBeReadNamesItsField(t *testing.T) {
	two := []Factor{{"lift", []any{"slow", "fast"}}, {"rest", []any{0.5, 2.0}}}
	for name, c := range map[string]struct {
		in    DesignInput
		field string
	}{
		"no factor":              {DesignInput{}, "factors"},
		"seven factors":          {DesignInput{Factors: slices.Repeat(two, 4)[:7]}, "factors"},
		"one level":              {DesignInput{Factors: []Factor{{"lift", []any{"slow"}}}}, "factors[0].levels"},
		"nine levels":            {DesignInput{Factors: []Factor{{"lift", levels(9)}}}, "factors[0].levels"},
		"the same level twice":   {DesignInput{Factors: []Factor{{"lift", []any{"slow", "slow"}}}}, "factors[0].levels[1]"},
		"a level that is a list": {DesignInput{Factors: []Factor{{"lift", []any{"slow", []any{1.0}}}}}, "factors[0].levels[1]"},
		"a level without end":    {DesignInput{Factors: []Factor{{"lift", []any{1.0, math.Inf(1)}}}}, "factors[0].levels[1]"},
		"too many combinations":  {DesignInput{Factors: []Factor{{"a", levels(8)}, {"b", levels(8)}, {"c", levels(8)}, {"d", levels(8)}, {"e", levels(2)}}}, "factors"},
		"too few levels":         {DesignInput{Factors: two, Cells: []DesignCell{{[]any{"slow"}, 1}}}, "cells[0].levels"},
		"a level of another":     {DesignInput{Factors: two, Cells: []DesignCell{{[]any{"slow", 0.5}, 1}, {[]any{"slow", "fast"}, 1}}}, "cells[1].levels[1]"},
		"a level that is none":   {DesignInput{Factors: two, Cells: []DesignCell{{[]any{"slow", []any{}}, 1}}}, "cells[0].levels[1]"},
		"fewer than no prints":   {DesignInput{Factors: two, Cells: []DesignCell{{[]any{"slow", 0.5}, -1}}}, "cells[0].prints"},
		"with itself":            {DesignInput{Factors: two, Interactions: [][]string{{"lift", "lift"}}}, "interactions[0]"},
		"with a stranger":        {DesignInput{Factors: two, Interactions: [][]string{{"lift", "heat"}}}, "interactions[0]"},
	} {
		t.Run(name, func(t *testing.T) {
			_, err := Design(c.in)
			var field *quantity.FieldError
			if !errors.As(err, &field) || len(field.Path) < len(c.field) || field.Path[:len(c.field)] != c.field {
				t.Errorf("error %v, want one of %s", err, c.field)
			}
		})
	}
}

// Words, numbers and yes or no may be levels of one experiment.
func TestLevelsMayBeWordsNumbersAndYesOrNo(t *testing.T) {
	d, err := Design(DesignInput{Factors: []Factor{{"lift", []any{"slow", "fast"}}, {"rest", []any{0.5, 2.0}}, {"heated", []any{false, true}}},
		Cells: []DesignCell{{[]any{"slow", 0.5, false}, 1}, {[]any{"fast", 2.0, false}, 1}, {[]any{"fast", 0.5, true}, 1}, {[]any{"slow", 2.0, true}, 1}}})
	if err != nil {
		t.Fatal(err)
	}
	for _, term := range d.Terms {
		if !term.Estimable {
			t.Errorf("%s is not told: %v", term.Term, term.AliasedWith)
		}
	}
	if d.CellsAll != 8 || d.CellsPrinted != 4 || d.Rank != 4 || len(d.Add) != 0 {
		t.Errorf("%+v", d)
	}
}

// Whatever is printed of an experiment: with the cells that it asks for everything is told,
// each of them adds to the rank, and without one of them it is not.
func TestTheCellsToAddMakeEverythingTold(t *testing.T) {
	factors := []Factor{{"lift", levels(3)}, {"rest", levels(2)}, {"layer", levels(2)}}
	interactions := [][]string{{"lift", "rest"}, {"rest", "layer"}}
	for mask := 0; mask < 1<<12; mask += 37 {
		in := DesignInput{Factors: factors, Interactions: interactions}
		for cell := range 12 {
			if mask>>cell&1 == 1 {
				in.Cells = append(in.Cells, DesignCell{[]any{float64(cell / 4), float64(cell / 2 % 2), float64(cell % 2)}, 1})
			}
		}
		t.Run(fmt.Sprint(mask), func(t *testing.T) {
			before := must(t, in)
			for _, add := range before.Add {
				in.Cells = append(in.Cells, DesignCell{add, 1})
			}
			after := must(t, in)
			if len(after.Add) != 0 || after.Rank != before.Rank+len(before.Add) {
				t.Fatalf("rank %d and %d cells make %d, %d still missing", before.Rank, len(before.Add), after.Rank, len(after.Add))
			}
			for _, term := range after.Terms {
				if !term.Estimable {
					t.Errorf("%s is not told with all cells added", term.Term)
				}
			}
			if len(before.Add) == 0 {
				return
			}
			in.Cells = in.Cells[:len(in.Cells)-1]
			if short := must(t, in); short.Rank != after.Rank-1 || !slices.ContainsFunc(short.Terms, func(x DesignTerm) bool { return !x.Estimable }) {
				t.Errorf("a cell less tells as much: rank %d", short.Rank)
			}
		})
	}
}

func must(t *testing.T, in DesignInput) DesignResult {
	t.Helper()
	d, err := Design(in)
	if err != nil {
		t.Fatal(err)
	}
	return d
}
