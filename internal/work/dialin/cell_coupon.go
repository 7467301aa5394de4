package dialin

import (
	"ojime/internal/bench"
	"ojime/internal/core/metrology"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
)

// CellCoupon is what can be read on each cell of a series whose coupon was made
// here: sizes to choose from, and the nominals that errors are taken against.
type CellCoupon struct {
	PieceID        string    `json:"piece_id"`
	Name           string    `json:"name"`
	PinsMM         []float64 `json:"pins_mm"`
	GapsMM         []float64 `json:"gaps_mm"`
	OuterNominalMM *float64  `json:"outer_nominal_mm"`
	OuterName      string    `json:"outer_name"`
	InnerNominalMM *float64  `json:"inner_nominal_mm"`
	InnerName      string    `json:"inner_name"`
}

// CellSizes are caliper readings of a cell, in mm, from which its errors follow
// where the coupon's nominals are known.
type CellSizes struct {
	OuterMM *float64
	InnerMM *float64
}

// cellCoupon reads what is known of the coupon of a series, nil without one.
// The first ladder of solids and of voids, and the first outer and inner size,
// are those that the schools judge by.
func cellCoupon(t *store.Tx, s bench.Series) (*CellCoupon, error) {
	if s.PieceID == nil {
		return nil, nil
	}
	piece, err := t.Piece(*s.PieceID)
	if err != nil {
		return nil, err
	}
	features, err := t.FeaturesOfPiece(piece.ID)
	if err != nil {
		return nil, err
	}
	out := &CellCoupon{PieceID: piece.ID, Name: piece.Name, PinsMM: []float64{}, GapsMM: []float64{}}
	for _, f := range features {
		switch {
		case f.RetiredMS != nil:
		case f.Kind == "pins" && len(out.PinsMM) == 0:
			out.PinsMM = f.RungsMM
		case f.Kind == "gaps" && len(out.GapsMM) == 0 && f.Shape != "fit":
			out.GapsMM = f.RungsMM
		case f.Kind == "dimension" && *f.Face == "outer" && out.OuterNominalMM == nil:
			out.OuterNominalMM, out.OuterName = f.NominalMM, f.Name
		case f.Kind == "dimension" && *f.Face == "inner" && out.InnerNominalMM == nil:
			out.InnerNominalMM, out.InnerName = f.NominalMM, f.Name
		}
	}
	return out, nil
}

// errors turns sizes into errors, measured − nominal.
func (c *CellCoupon) errors(sizes CellSizes, r *bench.CellReading) error {
	for _, e := range []struct {
		field           string
		size, nominalMM *float64
		into            **float64
	}{{"outer_mm", sizes.OuterMM, c.outer(), &r.OuterErrorMM}, {"inner_mm", sizes.InnerMM, c.inner(), &r.InnerErrorMM}} {
		if e.size == nil {
			continue
		}
		if e.nominalMM == nil {
			return quantity.Errorf(e.field, "has no nominal to be held against; choose a coupon made here, or give the error")
		}
		if why := metrology.Slip(*e.size, *e.nominalMM, nil); why != "" {
			return quantity.Errorf(e.field, "was read as %s Read it again", why)
		}
		*e.into = quantity.Ptr(*e.size - *e.nominalMM)
	}
	return nil
}

func (c *CellCoupon) outer() *float64 {
	if c == nil {
		return nil
	}
	return c.OuterNominalMM
}

func (c *CellCoupon) inner() *float64 {
	if c == nil {
		return nil
	}
	return c.InnerNominalMM
}

// sizeOf is the size that an error of a nominal means.
func sizeOf(nominalMM, errorMM *float64) *float64 {
	if nominalMM == nil || errorMM == nil {
		return nil
	}
	return quantity.Ptr(*nominalMM + *errorMM)
}
