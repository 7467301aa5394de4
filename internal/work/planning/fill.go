package planning

import (
	"context"
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/plan"
	"ojime/internal/core/timing"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/kit"
)

// FillSide is one machine with its settings in a fill plot.
type FillSide struct {
	ProfileID string      `json:"profile_id"`
	Label     string      `json:"label"`
	Machine   string      `json:"machine"`
	Load      timing.Load `json:"load"`
	OneS      float64     `json:"one_s"`
	FullS     float64     `json:"full_per_piece_s"`
	PerPieceS []float64   `json:"per_piece_s"`
	Reason    string      `json:"reason"`
	knows     bool
}

// FillPair is what two sides say of each other; A and B are their places.
type FillPair struct {
	A      int64             `json:"a"`
	B      int64             `json:"b"`
	Result timing.FillResult `json:"result"`
	Words  string            `json:"words"`
}

// FillPlot is time per piece against copies, 1 to Copies, for several machines.
type FillPlot struct {
	Piece  string     `json:"piece"`
	Copies int64      `json:"copies"`
	Sides  []FillSide `json:"sides"`
	Pairs  []FillPair `json:"pairs"`
}

// Fill computes time per piece against copies for each profile.
func (w *Tasks) Fill(ctx context.Context, pieceID string, scalePct float64, profileIDs []string, copies int64) (out FillPlot, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		piece, err := t.Piece(pieceID)
		if err != nil {
			return err
		}
		out = FillPlot{Piece: piece.Name, Copies: copies, Sides: []FillSide{}, Pairs: []FillPair{}}
		for _, id := range profileIDs {
			side, err := w.fillSide(t, piece, scalePct/100, id, copies)
			if err != nil {
				return err
			}
			out.Sides = append(out.Sides, side)
		}
		return out.pair(copies)
	})
	return out, err
}

func (w *Tasks) fillSide(t *store.Tx, piece bench.Piece, scale float64, profileID string, copies int64) (FillSide, error) {
	p, err := t.Profile(profileID)
	if err != nil {
		return FillSide{}, err
	}
	m, err := t.Machine(p.MachineID)
	if err != nil {
		return FillSide{}, err
	}
	out := FillSide{ProfileID: p.ID, Machine: m.Name, Label: fmt.Sprintf("%s, %s at %s µm", m.Name, kit.SettingsName(p), say.Figures(p.LayerUM, 4)), PerPieceS: []float64{}}
	if out.Load.Capacity, err = plan.Capacity(PlateOf(m, UsualPlate()), plan.Item{Footprint: FootprintOf(piece), Scale: scale}); err != nil {
		return out, err
	}
	if out.Load.Capacity == 0 {
		out.Reason = fmt.Sprintf("Does not fit: the plate of %s is %s × %s × %s mm.", m.Name, say.Figures(m.WidthMM, 4), say.Figures(m.DepthMM, 4), say.Figures(m.HeightMM, 4))
		return out, nil
	}
	one, _, err := w.Estimate(t, m, p, []PlateLoad{{piece, scale, 1}})
	if err != nil {
		return out, err
	}
	two, _, err := w.Estimate(t, m, p, []PlateLoad{{piece, scale, 2}})
	if err != nil {
		return out, err
	}
	if one.TotalS == nil || two.TotalS == nil {
		out.Reason = one.Reason
		return out, nil
	}
	out.knows = true
	out.Load.PerCopyS = max(0, *two.TotalS-*one.TotalS)
	out.Load.FixedS = *one.TotalS - out.Load.PerCopyS
	for n := range copies {
		res, err := timing.Fill(timing.FillInput{A: out.Load, B: out.Load, Copies: n + 1})
		if err != nil {
			return out, err
		}
		out.PerPieceS = append(out.PerPieceS, res.PerCopyAS)
	}
	full, err := timing.Fill(timing.FillInput{A: out.Load, B: out.Load, Copies: out.Load.Capacity})
	out.OneS, out.FullS = *one.TotalS, full.PerCopyAS
	return out, err
}

func (f *FillPlot) pair(copies int64) error {
	for i := range f.Sides {
		for j := i + 1; j < len(f.Sides); j++ {
			a, b := f.Sides[i], f.Sides[j]
			if !a.knows || !b.knows {
				continue
			}
			res, err := timing.Fill(timing.FillInput{A: a.Load, B: b.Load, Copies: copies})
			if err != nil {
				return err
			}
			f.Pairs = append(f.Pairs, FillPair{A: int64(i), B: int64(j), Result: res, Words: fillWords(a, b, res)})
		}
	}
	return nil
}

func fillWords(a, b FillSide, r timing.FillResult) string {
	faster, slower := a, b
	if r.RatioOne > 1 {
		faster, slower = b, a
	}
	words := fmt.Sprintf("One piece: %s takes %s times as long as %s. ", slower.Label, say.Figure(max(r.RatioOne, 1/r.RatioOne)), faster.Label)
	if r.RatioOne == 1 {
		words = "One piece: both take the same time. "
	}
	if r.Crossover != nil {
		words += fmt.Sprintf("From %s on it is the other way round for the first time. ", say.Counted(*r.Crossover, "copy", "copies"))
	} else if r.RatioOne != 1 {
		words += "The lines do not cross up to 500 copies. "
	}
	return words + fmt.Sprintf("Full plates (%d and %s): %s and %s min a piece.", a.Load.Capacity, say.Counted(b.Load.Capacity, "copy", "copies"), say.Figure(a.FullS/60), say.Figure(b.FullS/60))
}
