package planning

import (
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/plan"
	"ojime/internal/core/quantity"
	"ojime/internal/core/timing"
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

// CellsOnPlate is how many of so many cells lie on one plate, in rows and
// columns so that their order is plain.
func CellsOnPlate(t *store.Tx, m bench.Machine, piece bench.Piece, cells int) (fit int64, err error) {
	items := make([]plan.Item, cells)
	for i := range items {
		items[i] = plan.Item{Footprint: FootprintOf(piece), Scale: 1}
	}
	surface, err := PlateOf(t, m, UsualPlate())
	for _, p := range plan.Grid(surface, items) {
		if p != nil {
			fit++
		}
	}
	return fit, err
}

// UsualPlate is a plate with the usual margins, and no more.
func UsualPlate() bench.Plate {
	return bench.Plate{MarginMM: usualMarginMM, SpacingMM: usualSpacingMM, DripML: usualDripML, LiquidRatio: 1}
}

// CellPlan sets the series on one plate against one plate a cell, nil while no
// coupon is chosen.
func (w *Tasks) CellPlan(t *store.Tx, m bench.Machine, s bench.Series, settings bench.Settings) (*CellPlan, error) {
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
	if out.Fit, err = CellsOnPlate(t, m, piece, len(cells)); err != nil {
		return nil, err
	}
	if m.LightEngine == bench.Laser {
		out.Reason = "On a laser the cells are lines of power or speed, not seconds; their times are those of the plates."
	}
	exposures, plates := []float64{}, []float64{}
	for _, c := range cells {
		one, err := w.cellTime(t, m, s, piece, 1, c.ExposureS, s.BottomExposureS)
		if err != nil {
			return nil, err
		}
		exposures, plates = append(exposures, c.ExposureS), append(plates, one)
	}
	out.EachS, out.EachWithS = timing.CellByCell(plates, settings.TurnaroundMin)
	switch {
	case m.CellExposure == bench.CellsAlike:
		out.Reason = m.Name + " exposes a whole plate alike, so every cell is a plate of its own."
	case out.Fit < out.Cells:
		out.Reason = fmt.Sprintf("%d of %d cells fit one plate.", out.Fit, out.Cells)
	default:
		layerS, bottomS := timing.LitTogether(exposures, s.BottomExposureS, m.CellExposure == bench.CellsInTurn)
		one, err := w.cellTime(t, m, s, piece, out.Cells, layerS, bottomS)
		if err != nil {
			return nil, err
		}
		out.OnePlateS = &one
	}
	return out, nil
}

// cellTime is the time of copies of a coupon whose layers, and bottom layers, are lit
// so long.
func (w *Tasks) cellTime(t *store.Tx, m bench.Machine, s bench.Series, piece bench.Piece, copies int64, layerS, bottomS float64) (float64, error) {
	p := SeriesSettings(m, s)
	p.ExposureS, p.BottomExposureS = &layerS, &bottomS
	e, _, err := w.Estimate(t, m, p, []PlateLoad{{piece, 1, copies}})
	if err != nil {
		return 0, err
	}
	return quantity.Or(e.TotalS, 0), nil
}

// Usual distances of a new plate, in mm, and what drips off it, in ml.
const (
	usualMarginMM  = 2
	usualSpacingMM = 2
	usualDripML    = 4
)
