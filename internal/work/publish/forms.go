package publish

import (
	"fmt"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/metrology"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/work/task"
)

// formRows are the readings of forms, fits and threads, also those taken back: what was
// measured, and what it comes to.
func formRows(of published) [][]string {
	out := [][]string{{"run", "specimen", "piece", "form", "kind", "nominal_deg", "measured", "unit", "figure", "tightest_mm", "loosest_mm", "clearances", "state", "mate", "recorded", "stage", "counts"}}
	for _, s := range of.sheets {
		piece := task.ByID(s.Pieces, func(p bench.Piece) string { return p.ID })
		specimen := task.ByID(s.Specimens, func(p bench.Specimen) string { return p.ID })
		form := task.ByID(s.Forms, func(f bench.Form) string { return f.ID })
		for _, r := range s.FormReadings {
			f := form[r.FormID]
			kind, _ := metrology.FormOf(f.Kind)
			figure, measured, rungs, counts := "", []string{}, []string{}, "yes"
			for _, v := range r.Measured {
				measured = append(measured, num(&v))
			}
			if len(r.Measured) > 0 {
				v := metrology.FormFigure(f.Kind, r.Measured, quantity.Or(f.Nominal, 0))
				figure = num(&v)
			}
			for _, g := range r.Rungs {
				rungs = append(rungs, fmt.Sprintf("%s %s", num(&g.RungMM), g.Outcome))
			}
			limits := metrology.LimitsOf(r.Rungs)
			if r.TakenBackMS != nil {
				counts = "taken back: " + r.TakenBackWhy
			}
			out = append(out, []string{s.Run.Code, specimen[r.SpecimenID].Code, piece[f.PieceID].Name, f.Name, f.Kind, num(f.Nominal), strings.Join(measured, " "), kind.Unit, figure,
				num(limits.TightestMM), num(limits.LoosestMM), strings.Join(rungs, "; "), r.State, r.Mate, say.Instant(r.RecordedMS), s.StageAt(r.SpecimenID, r.RecordedMS), counts})
		}
	}
	return out
}
