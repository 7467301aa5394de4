package compare

import (
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/audit"
	"ojime/internal/core/contest"
	"ojime/internal/core/evidence"
	"ojime/internal/work/printing"
)

// rework is how long copies of a piece were worked on, in minutes a copy. Copies of which no minutes are noted are left out: a
// field that was left blank is no zero.
func (t *table) rework() error {
	of := gathered(t.sides, reworkedOn)
	var pieces []string
	for id := range of {
		pieces = append(pieces, id)
	}
	slices.Sort(pieces)
	for _, id := range pieces {
		m, err := contest.Levels("rework "+id, t.label(bench.Feature{Name: "Rework of a copy", PieceID: id}, ""), "min", of[id], t.pairs)
		if err != nil {
			return err
		}
		for i := range m.Sides {
			if m.Sides[i].Value == nil {
				m.Sides[i].Note = "No minutes of work are noted."
			}
		}
		t.add(m, audit.Finish)
	}
	return nil
}

func reworkedOn(sheet *printing.RunSheet) map[string]evidence.NestedPrint {
	out := map[string]evidence.NestedPrint{}
	for _, p := range sheet.Specimens {
		minutes := bench.ReworkOf(sheet.Stages, p.ID)
		if p.SetAside() || minutes == nil {
			continue
		}
		print := out[p.PieceID]
		print.Specimens = append(print.Specimens, evidence.NestedSpecimen{ValuesMM: []float64{*minutes}})
		out[p.PieceID] = print
	}
	return out
}
