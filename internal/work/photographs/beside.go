package photographs

import (
	"context"

	"ojime/internal/bench"
	"ojime/internal/core/photo"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// MostBeside is how many photographs are laid side by side.
const MostBeside = 6

// Beside is a photograph laid beside others, with what tells it from them. CopyMMPerPX is the
// scale of its copy, nil while it has none.
type Beside struct {
	bench.Pictured
	SpecimenCode string       `json:"specimen_code"`
	OfID         string       `json:"of_id"`
	Of           string       `json:"of"`
	IsReference  bool         `json:"is_reference"`
	CopyMMPerPX  *float64     `json:"copy_mm_per_px"`
	Differs      []photo.Fact `json:"differs"`
}

// SideBySide are photographs that are laid side by side, with what all of them share.
// Scaled says that each has a scale, so that they can be shown alike.
type SideBySide struct {
	Photographs []Beside     `json:"photographs"`
	Common      []photo.Fact `json:"common"`
	Scaled      bool         `json:"scaled"`
}

// SideBySide lays up to MostBeside photographs beside each other.
func (w *Tasks) SideBySide(ctx context.Context, ids []string) (out SideBySide, err error) {
	if len(ids) < 1 || len(ids) > MostBeside {
		return out, quantity.Errorf("id", "names %d photographs; up to %d are laid side by side", len(ids), MostBeside)
	}
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		reader := printing.NewReader(t)
		out = SideBySide{Scaled: true}
		var facts [][]photo.Fact
		for _, id := range ids {
			b, known, err := beside(t, reader, id)
			if err != nil {
				return err
			}
			out.Photographs, facts = append(out.Photographs, b), append(facts, known)
			out.Scaled = out.Scaled && b.MMPerPX != nil
		}
		var differing [][]photo.Fact
		out.Common, differing = photo.Differing(facts)
		for i := range out.Photographs {
			out.Photographs[i].Differs = differing[i]
		}
		return nil
	})
	return out, err
}

// beside is a photograph with what is known of it.
func beside(t *store.Tx, reader *printing.Reader, id string) (out Beside, facts []photo.Fact, err error) {
	p, err := t.Photograph(id)
	if err != nil {
		return out, nil, err
	}
	if out.Pictured, err = pictured(t, p); err != nil {
		return out, nil, err
	}
	if out.MMPerPX != nil {
		out.CopyMMPerPX = quantity.Ptr(*out.MMPerPX * float64(p.WidthPX) / float64(p.CopyWidthPX))
	}
	if p.ReferenceID != nil {
		out.OfID, out.IsReference = *p.ReferenceID, true
	} else if out.OfID, err = t.RunOfSpecimen(*p.SpecimenID); err != nil {
		return out, nil, err
	}
	sheets, err := reader.Sheets(out.OfID)
	if err != nil {
		return out, nil, err
	}
	s := sheets[0]
	shown := task.ByID(s.Specimens, func(p bench.Specimen) string { return p.ID })[p.Specimen()]
	out.SpecimenCode, out.Of = shown.Code, s.Run.Code
	if s.Reference != nil {
		out.Of = s.Reference.Name
	}
	piece := task.ByID(s.Pieces, func(p bench.Piece) string { return p.ID })[shown.PieceID]
	feature := task.ByID(s.Features, func(f bench.Feature) string { return f.ID })[quantity.Or(p.FeatureID, "")]
	return out, []photo.Fact{
		{Name: "Machine", Value: s.Machine.Name}, {Name: "Resin", Value: s.Resin.Name}, {Name: "Settings", Value: s.Settings}, {Name: "Piece", Value: piece.Name},
		{Name: "Feature", Value: feature.Name}, {Name: "Defect", Value: shown.ShownDefect(p.DefectID)}, {Name: "Taken", Value: p.View().StationWords()}, {Name: "Stage", Value: p.Stage}, {Name: "Light", Value: p.Light},
		{Name: "On", Value: say.Day(p.CreatedMS)}, {Name: "Scale of the piece", Value: say.Percent(shown.ScalePct / 100)}, {Name: "Note", Value: p.Note},
	}, nil
}
