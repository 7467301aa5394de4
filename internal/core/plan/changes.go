package plan

import (
	"fmt"
	"strings"

	"gonum.org/v1/gonum/mat"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// ChangesInput is several things that changed at once: their names, and which of
// them can be put back by themselves.
type ChangesInput struct {
	Names    []string `json:"names"`
	Undoable []bool   `json:"undoable"`
}

// Cell is one set-up to print: which of the changes are in (true) or put back.
type Cell struct {
	In      []bool `json:"in"`
	Label   string `json:"label"`
	Printed bool   `json:"printed"`
}

// ChangesResult says which changes the prints before and after tell apart, and
// which further set-ups would. Alone are the changes whose own effect the cells
// show; Together are those that stay mixed with one another.
type ChangesResult struct {
	Cells    []Cell     `json:"cells"`
	Alone    []string   `json:"alone"`
	Together [][]string `json:"together"`
	Sentence string     `json:"sentence"`
}

// Changes proposes the fewest set-ups that tell changes apart, main effects
// only: all before, all after, and each undoable change put back by itself. Its
// last undoable one needs no print of its own where every change is undoable,
// since the sum is known from before and after. A change's effect can be told
// when its column is not a combination of the others (rank of the design).
func Changes(in ChangesInput) (ChangesResult, error) {
	var c quantity.Checks
	n := len(in.Names)
	if n == 0 {
		c.Fail("names", "is empty; list what changed")
	}
	if len(in.Undoable) != n {
		c.Fail("undoable", "has %d entries for %d names; give one each", len(in.Undoable), n)
	}
	if c.Err() != nil {
		return ChangesResult{}, c.Err()
	}
	before, after := make([]bool, n), make([]bool, n)
	fixed, last := 0, -1
	for i := range after {
		after[i] = true
		if in.Undoable[i] {
			last = i
		} else {
			fixed++
		}
	}
	out := ChangesResult{Cells: []Cell{{before, "before: none of them", true}, {after, "after: all of them", true}}, Alone: []string{}, Together: [][]string{}}
	for i := range n {
		if !in.Undoable[i] || n == 1 || (fixed == 0 && i == last) {
			continue
		}
		put := append([]bool(nil), after...)
		put[i] = false
		out.Cells = append(out.Cells, Cell{put, "after, with " + in.Names[i] + " put back", false})
	}
	out.tell(in.Names)
	return out, nil
}

// tell sorts the changes into those told apart and those that stay together.
func (r *ChangesResult) tell(names []string) {
	mixed := []string{}
	for i, name := range names {
		if r.rank(-1) > r.rank(i) {
			r.Alone = append(r.Alone, name)
		} else {
			mixed = append(mixed, name)
		}
	}
	if len(mixed) > 0 {
		r.Together = append(r.Together, mixed)
	}
	more := len(r.Cells) - 2
	switch {
	case len(names) == 1:
		r.Sentence = "One change: before against after tells its effect, if nothing else changed."
	case len(mixed) == 0:
		r.Sentence = fmt.Sprintf("%d changes at once: before against after shows only their sum. %s more tell each apart.", len(names), say.Counted(int64(more), "set-up"))
	case more == 0:
		r.Sentence = fmt.Sprintf("%d changes at once, none of which can be put back: only their sum can be known.", len(names))
	default:
		r.Sentence = fmt.Sprintf("%d changes at once: %s more tell %s apart; %s stay together, since they cannot be put back.",
			len(names), say.Counted(int64(more), "set-up"), strings.Join(r.Alone, ", "), strings.Join(mixed, ", "))
	}
}

// rank is that of the design with an intercept, without one change's column.
func (r *ChangesResult) rank(without int) int {
	n := len(r.Cells[0].In)
	x := mat.NewDense(len(r.Cells), n+1, nil)
	for i, cell := range r.Cells {
		x.Set(i, 0, 1)
		for j, in := range cell.In {
			if in && j != without {
				x.Set(i, j+1, 1)
			}
		}
	}
	var svd mat.SVD
	if !svd.Factorize(x, mat.SVDNone) {
		return 0
	}
	rank := 0
	for _, v := range svd.Values(nil) {
		if v > 1e-9 {
			rank++
		}
	}
	return rank
}
