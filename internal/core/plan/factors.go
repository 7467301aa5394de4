package plan

import (
	"fmt"
	"slices"

	"ojime/internal/core/quantity"
)

// Factor is something that varies on purpose, with 2 to 8 different levels (words or
// numbers).
type Factor struct {
	Name   string `json:"name"`
	Levels []any  `json:"levels"`
}

// Bounds of an experiment.
const (
	mostFactors, leastLevels, mostLevels = 6, 2, 8
	// mostDesignCells is how many cells a design may have in all.
	mostDesignCells = 4096
)

// term is the mean, a factor or a two-way interaction, with its columns of the model.
type term struct {
	name        string
	factors     []int // none for the mean
	from, until int   // columns
}

func (t term) columns() int { return t.until - t.from }

// holds reports that a term's factors are among another's.
func (t term) holds(other term) bool {
	for _, f := range other.factors {
		if !slices.Contains(t.factors, f) {
			return false
		}
	}
	return true
}

// model is the terms of a linear model with sum-to-zero coding: the mean, each factor,
// and the interactions asked for.
type model struct {
	factors []Factor
	terms   []term // the mean first
	columns int
	cells   int
}

func modelOf(c *quantity.Checks, factors []Factor, interactions [][]string) (m model) {
	m.factors, m.cells = factors, 1
	if len(factors) < 1 || len(factors) > mostFactors {
		c.Fail("factors", "are %d; an experiment has 1 to %d", len(factors), mostFactors)
		return m
	}
	index := map[string]int{}
	for i, f := range factors {
		at := fmt.Sprintf("factors[%d].", i)
		if _, twice := index[f.Name]; twice || f.Name == "" {
			c.Fail(at+"name", "is missing or stands twice; name each factor once")
		}
		index[f.Name] = i
		if len(f.Levels) < leastLevels || len(f.Levels) > mostLevels {
			c.Fail(at+"levels", "are %d; a factor has %d to %d", len(f.Levels), leastLevels, mostLevels)
		}
		for j, level := range f.Levels {
			checkLevel(c, fmt.Sprintf("%slevels[%d]", at, j), level)
			if indexOf(f.Levels[:j], level) >= 0 {
				c.Fail(fmt.Sprintf("%slevels[%d]", at, j), "stands twice; name each level once")
			}
		}
		m.cells *= max(1, len(f.Levels))
	}
	if m.cells > mostDesignCells {
		c.Fail("factors", "have %d combinations; up to %d are planned", m.cells, mostDesignCells)
	}
	m.add(term{name: "mean"})
	for i, f := range factors {
		m.add(term{name: f.Name, factors: []int{i}})
	}
	m.interact(c, index, interactions)
	return m
}

func (m *model) interact(c *quantity.Checks, index map[string]int, interactions [][]string) {
	for i, names := range interactions {
		at := fmt.Sprintf("interactions[%d]", i)
		if len(names) != 2 {
			c.Fail(at, "names %d factors; an interaction is between two", len(names))
			return
		}
		var t term
		for j, name := range names {
			f, known := index[name]
			if !known {
				c.Fail(fmt.Sprintf("%s[%d]", at, j), "%.60q is no factor of this experiment", name)
				return
			}
			t.factors = append(t.factors, f)
		}
		t.name = names[0] + "×" + names[1]
		if t.factors[0] == t.factors[1] || slices.ContainsFunc(m.terms, func(o term) bool { return len(o.factors) == 2 && o.holds(t) }) {
			c.Fail(at, "is of one factor with itself, or stands twice")
			return
		}
		m.add(t)
	}
}

// add gives a term its columns: levels − 1 for each factor, multiplied.
func (m *model) add(t term) {
	n := 1
	for _, f := range t.factors {
		n *= max(1, len(m.factors[f].Levels)-1)
	}
	t.from, t.until = m.columns, m.columns+n
	m.columns += n
	m.terms = append(m.terms, t)
}

// row is a cell's row of the model: in sum-to-zero coding a level has a one in its own
// column, the last level minus one in all.
func (m model) row(levels []int) []int {
	out := make([]int, 0, m.columns)
	for _, t := range m.terms {
		part := []int{1}
		for _, f := range t.factors {
			code := m.code(f, levels[f])
			next := make([]int, 0, len(part)*len(code))
			for _, x := range part {
				for _, y := range code {
					next = append(next, x*y)
				}
			}
			part = next
		}
		out = append(out, part...)
	}
	return out
}

func (m model) code(factor, level int) []int {
	n := len(m.factors[factor].Levels) - 1
	out := make([]int, n)
	if level < n {
		out[level] = 1
		return out
	}
	for i := range out {
		out[i] = -1
	}
	return out
}

// levelsAt reads a cell's levels, naming what is none of its factor's.
func (m model) levelsAt(c *quantity.Checks, at string, levels []any) []int {
	if len(levels) != len(m.factors) {
		c.Fail(at+".levels", "are %d for %d factors; give one of each, in order", len(levels), len(m.factors))
		return nil
	}
	out := make([]int, len(levels))
	for i, level := range levels {
		if out[i] = indexOf(m.factors[i].Levels, level); out[i] < 0 {
			c.Fail(fmt.Sprintf("%s.levels[%d]", at, i), "is %.60v, which is no level of %s", level, m.factors[i].Name)
			return nil
		}
	}
	return out
}

func checkLevel(c *quantity.Checks, at string, level any) {
	switch v := level.(type) {
	case string, bool:
	case float64:
		c.Number(at, v)
	default:
		c.Fail(at, "is no word or number")
	}
}

func indexOf(levels []any, level any) int {
	for i, l := range levels {
		if scalar(level) && scalar(l) && l == level {
			return i
		}
	}
	return -1
}

func scalar(v any) bool {
	switch v.(type) {
	case string, bool, float64:
		return true
	}
	return false
}
