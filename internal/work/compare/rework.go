package compare

import (
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/audit"
	"ojime/internal/core/contest"
	"ojime/internal/core/evidence"
	"ojime/internal/core/quantity"
	"ojime/internal/work/printing"
)

// rework is how long copies of a piece were worked on, in minutes a copy: those that came to
// a stage without count as none, those of which no stage is noted are left out.
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
				m.Sides[i].Note = "No copy was worked on or coated."
			}
		}
		t.add(m, audit.Finish)
	}
	return nil
}

func reworkedOn(sheet *printing.RunSheet) map[string]evidence.NestedPrint {
	out := map[string]evidence.NestedPrint{}
	for _, p := range sheet.Specimens {
		noted := slices.ContainsFunc(sheet.Stages, func(s bench.SpecimenStage) bool { return s.SpecimenID == p.ID && s.TakenBackMS == nil })
		if p.SetAside() || !noted {
			continue
		}
		print := out[p.PieceID]
		print.Specimens = append(print.Specimens, evidence.NestedSpecimen{ValuesMM: []float64{quantity.Or(bench.ReworkOf(sheet.Stages, p.ID), 0)}})
		out[p.PieceID] = print
	}
	return out
}
