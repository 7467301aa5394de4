package publish

import (
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/say"
	"ojime/internal/work/compare"
	"ojime/internal/work/task"
)

// photographRows say of each photograph how it was taken and, a row each, what was measured
// on it; where a photograph has no scale, its sizes in mm are not known.
func photographRows(of published) [][]string {
	out := [][]string{{"photograph", "run", "specimen", "piece", "feature", "defect", "station", "magnification", "stage", "light", "taken_in", "width_px", "height_px", "blur", "mm_per_px",
		"measure", "size_px", "size_mm", "u_mm", "ripple_mm", "n", "note"}}
	for _, s := range slices.Concat(of.sheets, of.references) {
		piece := task.ByID(s.Pieces, func(p bench.Piece) string { return p.ID })
		specimen := task.ByID(s.Specimens, func(p bench.Specimen) string { return p.ID })
		feature := task.ByID(s.Features, func(f bench.Feature) string { return f.ID })
		for _, p := range s.Photographs {
			shown := specimen[p.Specimen()]
			head := []string{p.Code, s.Run.Code, shown.Code, piece[shown.PieceID].Name, feature[str(p.FeatureID)].Name, shown.ShownDefect(p.DefectID), p.Station, num(p.Magnification), p.Stage, p.Light, say.Instant(p.CreatedMS),
				whole(&p.WidthPX), whole(&p.HeightPX), num(&p.Blur), num(p.MMPerPX)}
			if len(p.Measures) == 0 {
				out = append(out, slices.Concat(head, []string{"", "", "", "", "", "", p.Note}))
			}
			for _, m := range p.Measures {
				out = append(out, slices.Concat(head, []string{m.Kind, num(&m.SizePX), num(m.SizeMM), num(m.UMM), num(m.RippleMM), whole(&m.N), p.Note}))
			}
		}
	}
	return out
}

// pictureLine says which photographs show the same in the same way, side by side.
func pictureLine(p compare.Pictures) string {
	what := p.Piece
	if p.Feature != "" {
		what += ", " + p.Feature
	}
	sides := []string{}
	for i, shots := range p.Sides {
		codes := []string{}
		for _, s := range shots {
			codes = append(codes, s.Code+" of "+s.Specimen)
		}
		if len(codes) > 0 {
			sides = append(sides, fmt.Sprintf("%c: %s", 'A'+i, strings.Join(codes, ", ")))
		}
	}
	return fmt.Sprintf("%s, %s, %s. %s.", what, p.Station, p.Stage, strings.Join(sides, "; "))
}
