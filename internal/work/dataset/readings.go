package dataset

import (
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/metrology"
	"ojime/internal/core/quantity"
	"ojime/internal/core/rating"
	"ojime/internal/core/stress"
	"ojime/internal/core/viewing"
	"ojime/internal/say"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// readingLines lists every reading, also those that were corrected or taken back.
func readingLines(of Source) *lines {
	var parts []*lines
	for _, s := range slices.Concat(of.Sheets, of.References) {
		parts = append(parts, of.linesOfPrint(s).readings)
	}
	return of.long("readings", []string{"run", "specimen", "piece", "feature", "kind", "nominal_mm", "axis", "face", "value_mm", "rung_mm", "intact", "state", "recorded", "stage", "instrument_in_doubt", "counts"}, parts)
}

// readingLinesOf are those of one print or reference.
func readingLinesOf(s *printing.RunSheet) *lines {
	p, out := writtenOf(s), &lines{text: make([]byte, 0, (len(s.Readings)+len(s.Corrected))*bytesOfReading)}
	for i := range s.Readings {
		out.reading(p, &s.Readings[i], "yes")
	}
	for i := range s.Corrected {
		out.reading(p, &s.Corrected[i], "corrected")
	}
	return out
}

// bytesOfReading is what a line of the table is long, or a little more.
const bytesOfReading = 170

// written is what the lines of a print have in common, written once: of each copy its codes and the stages that it reached, of
// each feature its piece and what it is.
type written struct {
	copies   map[string]writtenCopy
	features map[string][]byte
	doubtful []string
}

type writtenCopy struct {
	cells   []byte
	reached []viewing.Reached
}

func writtenOf(s *printing.RunSheet) written {
	out := written{copies: make(map[string]writtenCopy, len(s.Specimens)), features: make(map[string][]byte, len(s.Features)), doubtful: s.Doubtful}
	for _, p := range s.Specimens {
		out.copies[p.ID] = writtenCopy{cellsOf(s.Run.Code, p.Code), bench.ReachedBy(s.Run, s.Stages, p.ID)}
	}
	piece := task.ByID(s.Pieces, func(p bench.Piece) string { return p.ID })
	for _, f := range s.Features {
		out.features[f.ID] = slices.Concat(cellsOf(piece[f.PieceID].Name), []byte(","), cellsOfFeature(f))
	}
	return out
}

// cellsOfFeature are those behind the name of its piece.
func cellsOfFeature(f bench.Feature) []byte {
	return cellsOf(f.Name, f.Kind, num(f.NominalMM), str(f.Axis), str(f.Face))
}

func cellsOf(cells ...string) []byte {
	var l lines
	for _, cell := range cells {
		l.cell(cell)
	}
	return l.text
}

func (l *lines) reading(p written, r *bench.Reading, counts string) {
	on := p.copies[r.SpecimenID]
	l.cells(on.cells)
	l.cells(p.features[r.FeatureID])
	l.number(r.ValueMM)
	l.number(r.RungMM)
	l.truth(r.Intact)
	l.word(quantity.Or(r.State, ""))
	l.instant(r.RecordedMS)
	l.word(viewing.StageAt(on.reached, r.RecordedMS))
	doubt := ""
	if slices.Contains(p.doubtful, r.ID) {
		doubt = "yes"
	}
	l.word(doubt)
	if r.TakenBackMS != nil {
		l.cell("taken back: " + r.TakenBackWhy)
	} else {
		l.word(counts)
	}
	l.end()
}

// ratingRows say of each score what its step means and how it was judged.
func ratingRows(of Source) [][]string {
	out := [][]string{{"run", "specimen", "piece", "scale", "score", "anchor", "station", "magnification", "stage", "light", "rater", "rated", "counts", "note_of_sitting"}}
	scales := task.ByID(of.Scales, func(s rating.Scale) string { return s.Key })
	for _, s := range slices.Concat(of.Sheets, of.References) {
		if len(s.Ratings)+len(s.Rerated) == 0 {
			continue
		}
		piece := task.ByID(s.Pieces, func(p bench.Piece) string { return p.ID })
		specimen := task.ByID(s.Specimens, func(p bench.Specimen) string { return p.ID })
		add := func(ratings []bench.Rated, counts string) {
			for _, r := range ratings {
				counts, p, scale := counts, specimen[r.Specimen()], scales[r.Scale]
				if r.TakenBackMS != nil {
					counts = "taken back: " + r.TakenBackWhy
				}
				out = append(out, []string{s.Run.Code, p.Code, piece[p.PieceID].Name, scale.Name, whole(&r.Score), scale.Anchors[r.Score], r.Sitting.Station, num(r.Sitting.Magnification), r.Sitting.Stage,
					r.Sitting.Light, r.Sitting.Rater, say.Instant(r.AtMS), counts, r.Sitting.Note})
			}
		}
		add(s.Ratings, "yes")
		add(s.Rerated, "corrected")
	}
	return out
}

// formRows are the readings of forms, fits and threads, also those taken back: what was
// measured, and what it comes to.
func formRows(of Source) [][]string {
	out := [][]string{{"run", "specimen", "piece", "form", "kind", "nominal_deg", "measured", "unit", "figure", "tightest_mm", "loosest_mm", "clearances", "state", "mate", "recorded", "stage", "counts"}}
	for _, s := range of.Sheets {
		if len(s.FormReadings) == 0 {
			continue
		}
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

// stressRows are the tests of stress series, a row each, also those taken back.
func stressRows(of Source) [][]string {
	out := [][]string{{"series", "kind", "mode", "under", "stage", "run", "specimen", "piece", "level", "level_unit", "mass_g", "energy_mj", "span_mm", "width_mm", "thickness_mm",
		"damage", "damage_anchor", "failed", "deflection_mm", "part", "tested", "note", "counts", "series_ended"}}
	for _, s := range of.Sheets {
		if len(s.Stressed) == 0 {
			continue
		}
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

// roomRows are the readings of the rooms of prints, also those taken back.
func roomRows(of Source) [][]string {
	out := [][]string{{"run", "at", "moment", "room_temp_c", "humidity_pct", "resin_temp_c", "heater_on", "told_by", "note", "taken_back", "taken_back_why"}}
	for _, s := range of.Sheets {
		for _, r := range s.RoomReadings {
			back := ""
			if r.TakenBackMS != nil {
				back = say.Instant(*r.TakenBackMS)
			}
			out = append(out, []string{s.Run.Code, say.Instant(r.AtMS), r.Moment, num(r.RoomTempC), num(r.HumidityPct), num(r.ResinTempC), truth(r.HeaterOn), toldBy(r.DeviceID != nil), r.Note, back, r.TakenBackWhy})
		}
	}
	return out
}

func toldBy(device bool) string {
	if device {
		return "device"
	}
	return "typed"
}

// photographRows say of each photograph how it was taken and, a row each, what was measured
// on it; where a photograph has no scale, its sizes in mm are not known.
func photographRows(of Source) [][]string {
	out := [][]string{{"photograph", "run", "specimen", "piece", "feature", "defect", "station", "magnification", "stage", "light", "taken_in", "width_px", "height_px", "blur", "mm_per_px",
		"measure", "size_px", "size_mm", "u_mm", "ripple_mm", "n", "note"}}
	for _, s := range slices.Concat(of.Sheets, of.References) {
		if len(s.Photographs) == 0 {
			continue
		}
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
