package dialin

import (
	"context"
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/coupon"
	"ojime/internal/core/mesh"
	"ojime/internal/core/plan"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/planning"
	"ojime/internal/work/task"
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
			b.NominalMM, b.Axis, b.Face = &f.NominalMM, &f.Axis, &f.Face
		}
		out = append(out, b)
	}
	return out
}

// PreviewCoupon makes a coupon and keeps nothing.
func (w *Tasks) PreviewCoupon(ctx context.Context, p coupon.Params) (MadeCoupon, error) {
	return task.Heavily(ctx, w.Base, nil, func() (MadeCoupon, error) { return previewCoupon(p) })
}

func previewCoupon(p coupon.Params) (MadeCoupon, error) {
	made, err := coupon.Make(p)
	if err != nil {
		return MadeCoupon{}, err
	}
	picture, err := kit.PNG(mesh.Picture(made.Triangles, 560))
	if err != nil {
		return MadeCoupon{}, err
	}
	facts := mesh.Measure(&mesh.Mesh{Triangles: made.Triangles})
	return MadeCoupon{SizeMM: made.SizeMM, VolumeML: facts.SignedVolumeML, Features: couponFeatures(made), Picture: picture}, nil
}

// KeepCoupon makes a coupon a piece with all that can be read on it.
func (w *Tasks) KeepCoupon(ctx context.Context, name string, p coupon.Params) (kit.PieceCard, error) {
	p.Number = max(1, p.Number) // cells are numbered, and the number takes room
	made, err := coupon.Make(p)
	if err != nil {
		return kit.PieceCard{}, err
	}
	return w.Kit.ImportPiece(ctx, kit.NewPiece{Name: name, Revision: "1", FileName: kit.FileStem(name) + ".stl", File: kit.MeshBytes(mesh.WriteSTL(made.Triangles)), Coupon: bench.CouponChoice{Params: &p}, Features: couponFeatures(made)}, nil)
}

// LaySeries puts every cell of a series, numbered, on plates of its machine:
// together where the machine exposes cells of one plate differently and they
// fit, else one plate a cell. The ladders and sizes of the coupon become those
// of the series.
func (w *Tasks) LaySeries(ctx context.Context, seriesID, pieceID string) (out []planning.PlateSheet, err error) {
	err = w.Write(ctx, &out, func(t *store.Tx) error {
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
		groups, err := cellGroups(t, m, piece, cells)
		if err != nil {
			return err
		}
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
func cellGroups(t *store.Tx, m bench.Machine, piece bench.Piece, cells []bench.Cell) (out [][]bench.Cell, err error) {
	together := 1
	if m.CellExposure != bench.CellsAlike {
		fit, err := planning.CellsOnPlate(t, m, piece, len(cells))
		if err != nil {
			return nil, err
		}
		together = max(1, int(fit))
	}
	for len(cells) > 0 {
		n := min(together, len(cells))
		out = append(out, cells[:n])
		cells = cells[n:]
	}
	return out, nil
}

func (w *Tasks) layCells(t *store.Tx, m bench.Machine, s bench.Series, piece bench.Piece, cells []bench.Cell, all bool) (planning.PlateSheet, error) {
	p := planning.UsualPlate()
	p.MachineID, p.SeriesID = m.ID, &s.ID
	p.Name = fmt.Sprintf("%s, cell %d", s.Code, cells[0].Number)
	if all {
		p.Name = s.Code + ", all cells"
	} else if len(cells) > 1 {
		p.Name = fmt.Sprintf("%s, cells %d to %d", s.Code, cells[0].Number, cells[len(cells)-1].Number)
	}
	items := make([]plan.Item, len(cells))
	for i := range items {
		items[i] = plan.Item{Footprint: planning.FootprintOf(piece), Scale: 1}
	}
	surface, err := planning.PlateOf(t, m, p)
	if err != nil {
		return planning.PlateSheet{}, err
	}
	places := plan.Grid(surface, items)
	if err := w.Identify(t, "plate", planning.PlateEntry.Head(&p), nil); err != nil {
		return planning.PlateSheet{}, err
	}
	if err := t.SavePlate(p); err != nil {
		return planning.PlateSheet{}, err
	}
	var placements []bench.Placement
	for i, at := range places {
		if at == nil {
			return planning.PlateSheet{}, quantity.Errorf("piece_id", "%s does not fit the plate of %s (%s × %s mm); make a smaller coupon", piece.Name, m.Name, say.Figures(m.WidthMM, 4), say.Figures(m.DepthMM, 4))
		}
		placements = append(placements, bench.Placement{PieceID: piece.ID, ScalePct: 100, XMM: at.XMM, YMM: at.YMM, TurnDeg: at.TurnDeg, Number: &cells[i].Number, ExposureS: &cells[i].ExposureS})
	}
	if err := w.Planning.Lay(t, p.ID, placements); err != nil {
		return planning.PlateSheet{}, err
	}
	return w.Planning.ReadPlate(t, p.ID)
}
