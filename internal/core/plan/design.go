package plan

import (
	"fmt"

	"ojime/internal/core/quantity"
)

// DesignCell is a combination of levels, one of each factor in order, and how many
// prints of it there are. Equal cells add up.
type DesignCell struct {
	Levels []any `json:"levels"`
	Prints int64 `json:"prints"`
}

// DesignInput is an experiment: its factors, the cells that are printed or planned,
// and the two-way interactions that are asked after.
type DesignInput struct {
	Factors      []Factor     `json:"factors"`
	Cells        []DesignCell `json:"cells"`
	Interactions [][]string   `json:"interactions,omitempty"`
}

// DesignTerm is an effect. Estimable says that the cells tell it from all others;
// AliasedWith names those of which it cannot be told one at a time.
type DesignTerm struct {
	Term        string   `json:"term"`
	Columns     int      `json:"columns"`
	Estimable   bool     `json:"estimable"`
	AliasedWith []string `json:"aliased_with"`
}

// DesignResult says what an experiment can tell: its effects, the rank of its model,
// the degrees left for its spread, and the cells to add, each a list of levels, that
// would make every effect estimable.
type DesignResult struct {
	Terms        []DesignTerm `json:"terms"`
	Rank         int          `json:"rank"`
	ResidualDF   int64        `json:"residual_df"`
	CellsAll     int          `json:"cells_all"`
	CellsPrinted int          `json:"cells_printed"`
	Add          [][]any      `json:"add"`
	quantity.Warnings
}

// Design asks which effects the printed cells separate. A term is estimable when the
// rank falls by all of its columns without them (Searle 1971); in terms of the model's
// kernel, when nothing to which the cells are blind needs them.
func Design(in DesignInput) (DesignResult, error) {
	var c quantity.Checks
	m := modelOf(&c, in.Factors, in.Interactions)
	if c.Err() != nil {
		return DesignResult{}, c.Err()
	}
	prints := make([]int64, m.cells)
	for i, cell := range in.Cells {
		at := fmt.Sprintf("cells[%d]", i)
		levels := m.levelsAt(&c, at, cell.Levels)
		c.CountNotBelow(at+".prints", cell.Prints)
		if c.Err() != nil {
			return DesignResult{}, c.Err()
		}
		prints[m.number(levels)] += cell.Prints
	}
	out := DesignResult{Terms: []DesignTerm{}, CellsAll: m.cells, Add: [][]any{}, Warnings: quantity.None()}
	space := basis{columns: m.columns}
	for number, n := range prints {
		if n == 0 {
			continue
		}
		out.CellsPrinted++
		out.ResidualDF += n
		if len(space.rows) < m.columns {
			space.take(inField(m.row(m.levels(number))))
		}
	}
	out.Rank = len(space.rows)
	out.ResidualDF -= int64(out.Rank)
	out.Terms = m.estimable(space.kernel())
	for number, n := range prints {
		if len(space.rows) == m.columns {
			break
		}
		if levels := m.levels(number); n == 0 && space.take(inField(m.row(levels))) {
			out.Add = append(out.Add, m.named(levels))
		}
	}
	return out, nil
}

// estimable asks of every term but the mean whether the kernel needs its columns, and
// where it does, without which other term it would not.
func (m model) estimable(kernel [][]uint64) []DesignTerm {
	out := []DesignTerm{}
	for _, t := range m.terms[1:] {
		row := DesignTerm{Term: t.name, Columns: t.columns(), Estimable: !touches(kernel, t.from, t.until), AliasedWith: []string{}}
		for _, other := range m.terms {
			if row.Estimable || len(other.factors) > 0 && (t.holds(other) || other.holds(t)) {
				continue
			}
			if !touches(blindWithout(kernel, other.from, other.until), t.from, t.until) {
				row.AliasedWith = append(row.AliasedWith, other.name)
			}
		}
		out = append(out, row)
	}
	return out
}

// number counts cells with the last factor fastest.
func (m model) number(levels []int) (n int) {
	for i, level := range levels {
		n = n*len(m.factors[i].Levels) + level
	}
	return n
}

// levels is the other way round.
func (m model) levels(number int) []int {
	out := make([]int, len(m.factors))
	for i := len(m.factors) - 1; i >= 0; i-- {
		n := len(m.factors[i].Levels)
		out[i], number = number%n, number/n
	}
	return out
}

func (m model) named(levels []int) []any {
	out := make([]any, len(levels))
	for i, level := range levels {
		out[i] = m.factors[i].Levels[level]
	}
	return out
}
