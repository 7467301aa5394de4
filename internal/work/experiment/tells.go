package experiment

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/core/plan"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// mostDesigned is up to how many factors are told apart.
const mostDesigned = 6

// tellAll says what the prints tell, what they will once what is planned is printed, and
// what is missing then.
func (m *matrix) tellAll() (err error) {
	done := func(c MatrixCell) int64 { return c.Prints }
	if m.out.Tells, m.out.Missing, err = m.tell(done); err != nil {
		return err
	}
	if !slices.ContainsFunc(m.out.Rows, func(r MatrixRow) bool {
		return slices.ContainsFunc(r.Cells, func(c MatrixCell) bool { return c.Prints > 0 })
	}) {
		m.out.Tells = []string{} // nothing is printed, so nothing is told
	}
	m.out.WithPlan = []string{}
	with, missing, err := m.tell(func(c MatrixCell) int64 { return c.Prints + c.Open + c.Planned })
	if err != nil || slices.Equal(with, m.out.Tells) {
		return err
	}
	m.out.WithPlan, m.out.Missing = with, missing
	return nil
}

// tell asks the design of the experiment which effects so many prints of each cell
// separate, and which combinations would separate the rest.
func (m *matrix) tell(prints func(MatrixCell) int64) (tells []string, missing [][]string, err error) {
	tells, missing = []string{}, [][]string{}
	if len(m.varied) == 0 || len(m.varied) > mostDesigned {
		return tells, missing, nil
	}
	in := m.design(prints)
	main, err := plan.Design(in)
	if err != nil {
		return untold(err)
	}
	tells, missing = sayEffects(main), m.miss(missing, main)
	if len(in.Factors) < 2 {
		return tells, missing, nil
	}
	for i := range in.Factors {
		for j := range i {
			in.Interactions = append(in.Interactions, []string{in.Factors[j].Name, in.Factors[i].Name})
		}
	}
	whole, err := plan.Design(in)
	if err != nil {
		return untold(err)
	}
	return append(tells, sayInteractions(whole.Terms[len(m.varied):])...), m.miss(missing, whole), nil
}

// design is the matrix as an experiment.
func (m *matrix) design(prints func(MatrixCell) int64) (in plan.DesignInput) {
	for _, i := range m.varied {
		f := plan.Factor{Name: m.out.Factors[i].Name}
		for _, level := range m.out.Factors[i].Levels {
			f.Levels = append(f.Levels, level)
		}
		in.Factors = append(in.Factors, f)
	}
	for _, row := range m.out.Rows {
		cell := plan.DesignCell{}
		for _, i := range m.varied {
			cell.Levels = append(cell.Levels, row.Levels[i])
		}
		if slices.Contains(cell.Levels, any("")) {
			continue // a level that is not known separates nothing
		}
		for _, c := range row.Cells {
			cell.Prints += prints(c)
		}
		in.Cells = append(in.Cells, cell)
	}
	return in
}

// untold says why an experiment cannot be told: it has too many levels.
func untold(err error) ([]string, [][]string, error) {
	var wrong *quantity.FieldError
	if errors.As(err, &wrong) {
		return []string{"What these prints can tell apart is not worked out: " + wrong.Message + "."}, [][]string{}, nil
	}
	return nil, nil, err
}

func sayEffects(d plan.DesignResult) (tells []string) {
	var apart []string
	for _, t := range d.Terms {
		switch {
		case t.Estimable:
			apart = append(apart, strings.ToLower(t.Term))
		case len(t.AliasedWith) > 0 && t.AliasedWith[0] != "mean":
			tells = append(tells, fmt.Sprintf("%s and %s go together in these prints: a difference may be either's.", t.Term, strings.ToLower(say.List(t.AliasedWith))))
		default:
			tells = append(tells, fmt.Sprintf("%s cannot be told apart in these prints.", t.Term))
		}
	}
	switch len(apart) {
	case 0:
	case 1:
		tells = slices.Insert(tells, 0, fmt.Sprintf("These prints tell the effect of %s.", apart[0]))
	default:
		tells = slices.Insert(tells, 0, fmt.Sprintf("These prints tell the effects of %s, each by itself.", say.List(apart)))
	}
	return tells
}

// sayInteractions tells which factors can be seen to change each other's effect.
func sayInteractions(terms []plan.DesignTerm) (tells []string) {
	for _, t := range terms {
		pair := strings.ReplaceAll(strings.ToLower(t.Term), "×", " and ")
		if t.Estimable {
			tells = append(tells, fmt.Sprintf("Whether %s work on each other can be told.", pair))
		} else {
			tells = append(tells, fmt.Sprintf("Whether %s work on each other cannot be told yet.", pair))
		}
	}
	return tells
}

// miss adds the combinations that a design lacks to a list.
func (m *matrix) miss(missing [][]string, d plan.DesignResult) [][]string {
	for _, levels := range d.Add {
		words := make([]string, len(m.out.Factors))
		for i, f := range m.out.Factors {
			if len(f.Levels) == 1 {
				words[i] = f.Levels[0]
			}
		}
		for k, l := range levels {
			words[m.varied[k]] = l.(string)
		}
		if !slices.ContainsFunc(missing, func(o []string) bool { return slices.Equal(o, words) }) {
			missing = append(missing, words)
		}
	}
	return missing
}
