package work

import (
	"context"
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/coupon"
	"ojime/internal/core/mesh"
	"ojime/internal/core/plan"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
)

// CellPlan is a series on one plate against one plate a cell. OnePlateS is nil
// where the machine exposes a plate alike or the cells do not fit together.
type CellPlan struct {
	Cells         int64    `json:"cells"`
	Fit           int64    `json:"fit"`
	Exposure      string   `json:"exposure" enum:"none,together,in_turn"`
	OnePlateS     *float64 `json:"one_plate_s"`
	EachS         float64  `json:"each_s"`
	TurnaroundMin float64  `json:"turnaround_min"`
	EachWithS     float64  `json:"each_with_turnaround_s"`
	Reason        string   `json:"reason"`
}

// Usual distances of a new plate, in mm, and what drips off it, in ml.
const (
	usualMarginMM  = 2
	usualSpacingMM = 2
	usualDripML    = 4
)

// MadeCoupon is a coupon before it is kept.
type MadeCoupon struct {
	SizeMM   [3]float64      `json:"size_mm"`
	VolumeML float64         `json:"volume_ml"`
	Features []bench.Feature `json:"features"`
	Picture  []byte          `json:"picture_png" contentEncoding:"base64"`
}

func couponFeatures(made coupon.Coupon) []bench.Feature {
	out := []bench.Feature{}
	for _, f := range made.Features {
		b := bench.Feature{Kind: f.Kind, Name: f.Name, Place: f.Place, Shape: f.Shape, RungsMM: f.RungsMM}
		if b.RungsMM == nil {
			b.RungsMM = bench.Sizes{}
		}
		if f.Kind == "dimension" {
			b.NominalMM, b.Axis, b.Side = &f.NominalMM, &f.Axis, &f.Side
		}
		out = append(out, b)
	}
	return out
}

// PreviewCoupon makes a coupon and keeps nothing.
func (w *Work) PreviewCoupon(ctx context.Context, p coupon.Params) (MadeCoupon, error) {
	return heavily(ctx, w, nil, func() (MadeCoupon, error) { return previewCoupon(p) })
}

func previewCoupon(p coupon.Params) (MadeCoupon, error) {
	made, err := coupon.Make(p)
	if err != nil {
		return MadeCoupon{}, err
	}
	picture, err := png(mesh.Picture(made.Triangles, 560))
	if err != nil {
		return MadeCoupon{}, err
	}
	facts := mesh.Measure(&mesh.Mesh{Triangles: made.Triangles})
	return MadeCoupon{SizeMM: made.SizeMM, VolumeML: facts.SignedVolumeML, Features: couponFeatures(made), Picture: picture}, nil
}

// KeepCoupon makes a coupon a piece with all that can be read on it.
func (w *Work) KeepCoupon(ctx context.Context, name string, p coupon.Params) (PieceCard, error) {
	p.Number = max(1, p.Number) // cells are numbered, and the number takes room
	made, err := coupon.Make(p)
	if err != nil {
		return PieceCard{}, err
	}
	return w.ImportPiece(ctx, NewPiece{Name: name, Revision: "1", FileName: fileStem(name) + ".stl", File: MeshBytes(mesh.WriteSTL(made.Triangles)), Coupon: bench.CouponChoice{Params: &p}, Features: couponFeatures(made)}, nil)
}

// LaySeries puts every cell of a series, numbered, on plates of its machine:
// together where the machine exposes cells of one plate differently and they
// fit, else one plate a cell. The ladders and sizes of the coupon become those
// of the series.
func (w *Work) LaySeries(ctx context.Context, seriesID, pieceID string) (out []PlateSheet, err error) {
	err = w.write(ctx, &out, func(t *store.Tx) error {
		s, err := t.Series(seriesID)
		if err != nil {
			return err
		}
		m, err := t.Machine(s.MachineID)
		if err != nil {
			return err
		}
		piece, err := t.Piece(pieceID)
		if err != nil {
			return err
		}
		if piece.Coupon.Params == nil {
			return quantity.Errorf("piece_id", "%s is no coupon made here, so its cells cannot be numbered; make a coupon first", piece.Name)
		}
		cells, err := t.CellsOfSeries(seriesID)
		if err != nil {
			return err
		}
		s.PieceID = &piece.ID
		s.Version++
		if err := t.SaveSeries(s); err != nil {
			return err
		}
		groups := cellGroups(m, piece, cells)
		for _, g := range groups {
			sheet, err := w.layCells(t, m, s, piece, g, len(groups) == 1)
			if err != nil {
				return err
			}
			out = append(out, sheet)
		}
		return nil
	})
	return out, err
}

// cellGroups says which cells share a plate.
func cellGroups(m bench.Machine, piece bench.Piece, cells []bench.Cell) (out [][]bench.Cell) {
	together := 1
	if m.CellExposure != bench.CellsAlike {
		together = max(1, int(cellsOnPlate(m, piece, len(cells))))
	}
	for len(cells) > 0 {
		n := min(together, len(cells))
		out = append(out, cells[:n])
		cells = cells[n:]
	}
	return out
}

// cellsOnPlate is how many of so many cells lie on one plate, in rows and
// columns so that their order is plain.
func cellsOnPlate(m bench.Machine, piece bench.Piece, cells int) (fit int64) {
	items := make([]plan.Item, cells)
	for i := range items {
		items[i] = plan.Item{Footprint: footprintOf(piece), Scale: 1}
	}
	for _, p := range plan.Grid(plateOf(m, usualPlate()), items) {
		if p != nil {
			fit++
		}
	}
	return fit
}

func usualPlate() bench.Plate {
	return bench.Plate{MarginMM: usualMarginMM, SpacingMM: usualSpacingMM, DripML: usualDripML, LiquidRatio: 1}
}

func (w *Work) layCells(t *store.Tx, m bench.Machine, s bench.Series, piece bench.Piece, cells []bench.Cell, all bool) (PlateSheet, error) {
	p := usualPlate()
	p.MachineID, p.SeriesID = m.ID, &s.ID
	p.Name = fmt.Sprintf("%s, cell %d", s.Code, cells[0].Number)
	if all {
		p.Name = s.Code + ", all cells"
	} else if len(cells) > 1 {
		p.Name = fmt.Sprintf("%s, cells %d to %d", s.Code, cells[0].Number, cells[len(cells)-1].Number)
	}
	items := make([]plan.Item, len(cells))
	for i := range items {
		items[i] = plan.Item{Footprint: footprintOf(piece), Scale: 1}
	}
	places := plan.Grid(plateOf(m, p), items)
	if err := w.identify(t, "plate", plateEntry.head(&p), nil); err != nil {
		return PlateSheet{}, err
	}
	if err := t.SavePlate(p); err != nil {
		return PlateSheet{}, err
	}
	var placements []bench.Placement
	for i, at := range places {
		if at == nil {
			return PlateSheet{}, quantity.Errorf("piece_id", "%s does not fit the plate of %s (%.4g × %.4g mm); make a smaller coupon", piece.Name, m.Name, m.WidthMM, m.DepthMM)
		}
		placements = append(placements, bench.Placement{PieceID: piece.ID, ScalePct: 100, XMM: at.XMM, YMM: at.YMM, TurnDeg: at.TurnDeg, Number: &cells[i].Number, ExposureS: &cells[i].ExposureS})
	}
	if err := w.lay(t, p.ID, placements); err != nil {
		return PlateSheet{}, err
	}
	return w.plateSheet(t, p.ID)
}

// cellPlan sets the series on one plate against one plate a cell, nil while no
// coupon is chosen.
func (w *Work) cellPlan(t *store.Tx, m bench.Machine, s bench.Series, settings bench.Settings) (*CellPlan, error) {
	if s.PieceID == nil {
		return nil, nil
	}
	piece, err := t.Piece(*s.PieceID)
	if err != nil {
		return nil, err
	}
	cells, err := t.CellsOfSeries(s.ID)
	if err != nil {
		return nil, err
	}
	out := &CellPlan{Cells: int64(len(cells)), Exposure: m.CellExposure, TurnaroundMin: settings.TurnaroundMin}
	out.Fit = cellsOnPlate(m, piece, len(cells))
	if m.LightEngine == bench.Laser {
		out.Reason = "On a laser the cells are lines of power or speed, not seconds; their times are those of the plates."
	}
	longest, sum := 0.0, 0.0
	for _, c := range cells {
		longest, sum = max(longest, c.ExposureS), sum+c.ExposureS
		one, err := w.cellTime(t, m, s, piece, 1, c.ExposureS)
		if err != nil {
			return nil, err
		}
		out.EachS += one
	}
	out.EachWithS = out.EachS + 60*settings.TurnaroundMin*float64(len(cells)-1)
	switch {
	case m.CellExposure == bench.CellsAlike:
		out.Reason = m.Name + " exposes a whole plate alike, so every cell is a plate of its own."
	case out.Fit < out.Cells:
		out.Reason = fmt.Sprintf("%d of %d cells fit one plate.", out.Fit, out.Cells)
	default:
		exposure := longest
		if m.CellExposure == "in_turn" {
			exposure = sum
		}
		one, err := w.cellTime(t, m, s, piece, int64(len(cells)), exposure)
		if err != nil {
			return nil, err
		}
		out.OnePlateS = &one
	}
	return out, nil
}

// cellTime is the time of copies of a coupon at one exposure a layer. Where
// cells are exposed in turn, the bottom layers are too.
func (w *Work) cellTime(t *store.Tx, m bench.Machine, s bench.Series, piece bench.Piece, copies int64, exposureS float64) (float64, error) {
	d := dials{layerUM: s.LayerUM, exposureS: &exposureS, bottomLayers: s.BottomLayers, bottomExposureS: &s.BottomExposureS, transitionLayers: s.TransitionLayers}
	if m.CellExposure == "in_turn" && copies > 1 {
		bottom := s.BottomExposureS * float64(copies)
		d.bottomExposureS = &bottom
	}
	e, _, err := w.estimate(t, m, d, []batch{{piece, 1, copies}})
	if err != nil {
		return 0, err
	}
	return quantity.Or(e.TotalS, 0), nil
}
