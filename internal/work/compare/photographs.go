package compare

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/audit"
	"ojime/internal/core/contest"
	"ojime/internal/core/evidence"
	"ojime/internal/core/quantity"
	"ojime/internal/core/viewing"
	"ojime/internal/work/printing"
	"ojime/internal/work/side"
)

// shot is what photographs show and how they were taken: of a piece, or a feature of it, from
// a station, in a stage. What was taken in different ways is never brought together.
type shot struct{ pieceID, featureID, station, stage string }

func shotOf(p bench.Pictured, pieceID string) shot {
	return shot{pieceID, quantity.Or(p.FeatureID, ""), p.View().StationWords(), p.Stage}
}

// PhotoMeasures are what is measured on photographs, with the questions that each answers.
var PhotoMeasures = []struct {
	Kind, Name string
	questions  []string
	of         func(bench.Measured) *float64
}{
	{"edge", "Width of edges", []string{audit.Detail, audit.Finish}, func(m bench.Measured) *float64 { return m.SizeMM }},
	{"ripple", "Ripple of edges", []string{audit.Detail, audit.Finish}, func(m bench.Measured) *float64 { return m.RippleMM }},
	{"period", "Period of lines", []string{audit.Finish}, func(m bench.Measured) *float64 { return m.SizeMM }},
	{"length", "Length", []string{audit.Dimension}, func(m bench.Measured) *float64 { return m.SizeMM }},
}

// photographs are lengths, edges and periods measured on photographs, over prints, specimens
// and lines. What one pixel of the coarsest spans is the least that they tell apart.
func (t *table) photographs() error {
	for _, measure := range PhotoMeasures {
		of := gathered(t.sides, func(sheet *printing.RunSheet) map[shot]evidence.NestedPrint {
			return measuredOn(sheet, measure.Kind, measure.of)
		})
		for _, at := range t.inOrder(of) {
			sides := of[at]
			for i := range sides {
				sides[i].Instrument = lens(t.sides[i], at)
			}
			name := measure.Name
			if f := t.featureName(at); f != "" {
				name += " of " + f
			}
			label := fmt.Sprintf("%s, on photographs taken %s, %s", t.label(bench.Feature{Name: name, PieceID: at.pieceID}, ""), at.station, at.stage)
			m, err := contest.Lengths(PhotoOf+strings.Join([]string{measure.Kind, at.stage, at.pieceID, at.featureID, at.station}, " "), label, sides, 0, t.pairs)
			if err != nil {
				return err
			}
			t.add(m, measure.questions...)
		}
	}
	return nil
}

func (t *table) featureName(at shot) string {
	i := slices.IndexFunc(t.features, func(f bench.Feature) bool { return f.ID == at.featureID })
	if i < 0 {
		return ""
	}
	return t.features[i].Name
}

// inOrder are seats by piece, feature, station and stage.
func (t *table) inOrder(of map[shot][]evidence.NestedSide) (out []shot) {
	for at := range of {
		out = append(out, at)
	}
	slices.SortFunc(out, func(a, b shot) int {
		return cmp.Or(cmp.Compare(t.pieces[a.pieceID], t.pieces[b.pieceID]), cmp.Compare(t.featureName(a), t.featureName(b)), cmp.Compare(a.station, b.station), viewing.CompareStages(a.stage, b.stage))
	})
	return out
}

// measuredOn are the sizes measured on the photographs of one print, copy by copy; those set
// aside have none, and neither has a photograph without a scale.
func measuredOn(sheet *printing.RunSheet, kind string, size func(bench.Measured) *float64) map[shot]evidence.NestedPrint {
	out := map[shot]evidence.NestedPrint{}
	if kind == "ripple" {
		kind = "edge"
	}
	for _, specimen := range sheet.Specimens {
		values := map[shot][]float64{}
		if specimen.SetAside() {
			continue
		}
		for _, p := range sheet.Photographs {
			if p.Specimen() != specimen.ID {
				continue
			}
			for _, m := range p.Measures {
				if v := size(m); m.Kind == kind && v != nil {
					at := shotOf(p, specimen.PieceID)
					values[at] = append(values[at], *v)
				}
			}
		}
		for at, v := range values {
			print := out[at]
			print.Specimens = append(print.Specimens, evidence.NestedSpecimen{ValuesMM: v})
			out[at] = print
		}
	}
	return out
}

// lens is what photographs of a seat tell apart: a pixel of the coarsest, and the uncertainty
// of its scale, which shifts all that is measured by it alike.
func lens(s side.Prints, at shot) (out evidence.NestedInstrument) {
	for _, sheet := range s.Sheets {
		piece := map[string]string{}
		for _, p := range sheet.Specimens {
			piece[p.ID] = p.PieceID
		}
		for _, p := range sheet.Photographs {
			if p.MMPerPX == nil || shotOf(p, piece[p.Specimen()]) != at {
				continue
			}
			out.ResolutionMM = max(out.ResolutionMM, *p.MMPerPX)
			for _, m := range p.Measures {
				if m.Kind != "scale" && m.UMM != nil {
					out.ReferenceUMM = max(out.ReferenceUMM, *m.UMM)
				}
			}
		}
	}
	return out
}

// Pictures are the photographs that show the same in the same way, side by side.
type Pictures struct {
	PieceID string          `json:"piece_id"`
	Piece   string          `json:"piece"`
	Feature string          `json:"feature"`
	Station string          `json:"station"`
	Stage   string          `json:"stage"`
	Sides   [][]PictureShot `json:"sides"`
}

// PictureShot is a photograph of a copy that still has its detail.
type PictureShot struct {
	ID       string `json:"id"`
	Code     string `json:"code"`
	Specimen string `json:"specimen"`
	Light    string `json:"light"`
	Blurred  bool   `json:"blurred"`
}

// picturesOf gathers the photographs of all sides by what they show and how.
func picturesOf(sides []side.Prints) []Pictures {
	of, pieces, features := map[shot][][]PictureShot{}, map[string]string{}, map[string]string{}
	for i, s := range sides {
		for _, sheet := range s.Sheets {
			copies := map[string]bench.Specimen{}
			for _, p := range sheet.Specimens {
				copies[p.ID] = p
			}
			for _, p := range sheet.Pieces {
				pieces[p.ID] = p.Name
			}
			for _, f := range sheet.Features {
				features[f.ID] = f.Name
			}
			for _, p := range sheet.Photographs {
				shown := copies[p.Specimen()]
				if shown.SetAside() || !slices.ContainsFunc(s.Pieces, func(p bench.Piece) bool { return p.ID == shown.PieceID }) {
					continue
				}
				at := shotOf(p, shown.PieceID)
				if of[at] == nil {
					of[at] = make([][]PictureShot, len(sides))
					for j := range of[at] {
						of[at][j] = []PictureShot{}
					}
				}
				of[at][i] = append(of[at][i], PictureShot{p.ID, p.Code, shown.Code, p.Light, p.Blurred})
			}
		}
	}
	out := []Pictures{}
	for at, shots := range of {
		out = append(out, Pictures{at.pieceID, pieces[at.pieceID], features[at.featureID], at.station, at.stage, shots})
	}
	slices.SortFunc(out, func(a, b Pictures) int {
		return cmp.Or(cmp.Compare(a.Piece, b.Piece), cmp.Compare(a.PieceID, b.PieceID), cmp.Compare(a.Feature, b.Feature), cmp.Compare(a.Station, b.Station), viewing.CompareStages(a.Stage, b.Stage))
	})
	return out
}
