package publish

import (
	"fmt"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/stress"
	"ojime/internal/say"
	"ojime/internal/work/compare"
	"ojime/internal/work/task"
)

// stressRows are the tests of stress series, a row each, also those taken back.
func stressRows(of published) [][]string {
	out := [][]string{{"series", "kind", "mode", "under", "stage", "run", "specimen", "piece", "level", "level_unit", "mass_g", "energy_mj", "span_mm", "width_mm", "thickness_mm",
		"damage", "damage_anchor", "failed", "deflection_mm", "part", "tested", "note", "counts", "series_ended"}}
	for _, s := range of.sheets {
		piece := task.ByID(s.Pieces, func(p bench.Piece) string { return p.ID })
		specimen := task.ByID(s.Specimens, func(p bench.Specimen) string { return p.ID })
		for _, v := range s.Stressed {
			kind, _ := stress.KindOf(v.Series.Kind)
			shown := specimen[v.SpecimenID]
			for _, t := range v.Tests {
				energy, anchor, failed, counts := "", "", "", "yes"
				if v.MassG != nil && kind.Key == stress.Drop {
					mj := stress.EnergyMJ(*v.MassG, t.Level)
					energy = num(&mj)
				}
				if t.Damage != nil {
					broke := v.Series.Plan().Failed(t.Shown())
					anchor, failed = v.Series.Anchors[*t.Damage], truth(&broke)
				}
				if t.TakenBackMS != nil {
					counts = "taken back"
				}
				out = append(out, []string{v.Series.Code, kind.Key, v.Series.Mode, v.Series.Under, v.Series.Stage, s.Run.Code, shown.Code, piece[shown.PieceID].Name, num(&t.Level), kind.Unit, num(v.MassG), energy,
					num(v.Series.SpanMM), num(v.WidthMM), num(v.ThicknessMM), whole(t.Damage), anchor, failed, num(t.DeflectionMM), t.Part, say.Instant(t.AtMS), t.Note, counts, v.Series.EndedWhy})
			}
		}
	}
	return out
}

// heldLine says of one side of an ordeal how many specimens held at each level.
func heldLine(o compare.Ordeal, i int) string {
	side := o.Sides[i]
	if len(side.Rungs) == 0 {
		return "none stressed once"
	}
	rungs := []string{}
	for _, r := range side.Rungs {
		rungs = append(rungs, fmt.Sprintf("%s: %d of %d", say.InUnit(say.Figure(r.Level), o.Unit), r.Held, r.Of))
	}
	return fmt.Sprintf("%s (%s)", strings.Join(rungs, "; "), say.Counted(int64(side.Prints), "print"))
}
