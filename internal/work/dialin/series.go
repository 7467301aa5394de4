package dialin

import (
	"context"
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/exposure"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/planning"
	"ojime/internal/work/task"
)

func seriesHead(s *bench.Series) task.Head {
	return task.Head{ID: &s.ID, Code: &s.Code, Version: &s.Version, CreatedMS: &s.CreatedMS}
}

// mostCells bounds a series: more coupons than this fit no plate.
const mostCells = 60

// SeriesPlan is a series before it is printed: Cells exposures from FromS in
// steps of StepS. Origin says where the start came from.
type SeriesPlan struct {
	MachineID        string  `json:"machine_id" minLength:"1"`
	ResinID          string  `json:"resin_id" minLength:"1"`
	LayerUM          float64 `json:"layer_um"`
	School           string  `json:"school" enum:"fit,detail,survival"`
	FromS            float64 `json:"from_s" exclusiveMinimum:"0"`
	StepS            float64 `json:"step_s" exclusiveMinimum:"0"`
	Cells            int64   `json:"cells" minimum:"1"`
	BottomLayers     int64   `json:"bottom_layers" minimum:"0"`
	BottomExposureS  float64 `json:"bottom_exposure_s" exclusiveMinimum:"0"`
	TransitionLayers int64   `json:"transition_layers" minimum:"0"`
	Origin           string  `json:"origin"`
}

// SeriesCell is a cell with the reading that counts (nil before the first) and
// how many came before it; the sizes that its errors mean, where the coupon's
// nominals are known.
type SeriesCell struct {
	Cell      bench.Cell         `json:"cell"`
	Reading   *bench.CellReading `json:"reading"`
	Corrected int64              `json:"corrected"`
	OuterMM   *float64           `json:"outer_mm"`
	InnerMM   *float64           `json:"inner_mm"`
}

// SeriesSheet is a series with its cells and, once any cell is judged, what
// the three schools say. Profile is what was accepted.
type SeriesSheet struct {
	Series  bench.Series           `json:"series"`
	Machine string                 `json:"machine"`
	Resin   string                 `json:"resin"`
	DialS   float64                `json:"dial_step_s"`
	Cells   []SeriesCell           `json:"cells"`
	Result  *exposure.SeriesResult `json:"result"`
	Profile *bench.Profile         `json:"profile"`
	Coupon  *CellCoupon            `json:"coupon"`
	Plates  []bench.Plate          `json:"plates"`
	Plan    *planning.CellPlan     `json:"plan"`
	Order   *CellOrder             `json:"order"`
	History []bench.Amendment      `json:"history"`
}

// PlanSeries numbers the cells of a series and gives each its exposure.
func (w *Tasks) PlanSeries(ctx context.Context, p SeriesPlan) (out SeriesSheet, err error) {
	if p.Cells < 1 || p.Cells > mostCells {
		return SeriesSheet{}, quantity.Errorf("cells", "is %d; plan 1 to %d cells", p.Cells, mostCells)
	}
	last := p.FromS + float64(p.Cells-1)*p.StepS
	if err := bench.CheckExposure(p.LayerUM, &last); err != nil {
		return SeriesSheet{}, err
	}
	series := bench.Series{
		MachineID: p.MachineID, ResinID: p.ResinID, LayerUM: p.LayerUM, School: p.School, BottomLayers: p.BottomLayers,
		BottomExposureS: p.BottomExposureS, TransitionLayers: p.TransitionLayers, Origin: p.Origin,
	}
	err = w.Write(ctx, &out, func(t *store.Tx) error {
		if err := w.Identify(t, "series", seriesHead(&series), nil); err != nil {
			return err
		}
		if err := t.SaveSeries(series); err != nil {
			return err
		}
		for n := range p.Cells {
			id, err := w.NewID()
			if err != nil {
				return err
			}
			if err := t.SaveCell(bench.Cell{ID: id, SeriesID: series.ID, Number: n + 1, ExposureS: p.FromS + float64(n)*p.StepS}); err != nil {
				return err
			}
		}
		out, err = ReadSeries(t, series.ID)
		return err
	})
	return out, err
}

// SeriesSheet reads a series and evaluates it, with the plates that it lies on
// and what they take.
func (w *Tasks) SeriesSheet(ctx context.Context, id string) (out SeriesSheet, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		if out, err = ReadSeries(t, id); err != nil {
			return err
		}
		m, err := t.Machine(out.Series.MachineID)
		if err != nil {
			return err
		}
		settings, err := t.Settings()
		if err != nil {
			return err
		}
		out.Plan, err = w.Planning.CellPlan(t, m, out.Series, settings)
		return err
	})
	return out, err
}

// AllSeries lists every series, evaluated, the newest first.
func (w *Tasks) AllSeries(ctx context.Context) (out []SeriesSheet, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		all, err := t.AllSeries()
		if err != nil {
			return err
		}
		for i := len(all) - 1; i >= 0; i-- {
			sheet, err := ReadSeries(t, all[i].ID)
			if err != nil {
				return err
			}
			out = append(out, sheet)
		}
		return nil
	})
	return out, err
}

// ReadSeries is SeriesSheet within a transaction.
func ReadSeries(t *store.Tx, id string) (SeriesSheet, error) {
	s, err := t.Series(id)
	if err != nil {
		return SeriesSheet{}, err
	}
	machine, err := t.Machine(s.MachineID)
	if err != nil {
		return SeriesSheet{}, err
	}
	resin, err := t.Resin(s.ResinID)
	if err != nil {
		return SeriesSheet{}, err
	}
	cells, err := t.CellsOfSeries(id)
	if err != nil {
		return SeriesSheet{}, err
	}
	readings, err := t.CellReadingsOfSeries(id)
	if err != nil {
		return SeriesSheet{}, err
	}
	out := SeriesSheet{Series: s, Machine: machine.Name, Resin: resin.Name, DialS: machine.DialStepS}
	for _, c := range cells {
		cell := SeriesCell{Cell: c}
		for _, r := range readings {
			if r.CellID == c.ID {
				if cell.Reading != nil {
					cell.Corrected++
				}
				cell.Reading = &r
			}
		}
		out.Cells = append(out.Cells, cell)
	}
	if out.Coupon, err = cellCoupon(t, s); err != nil {
		return SeriesSheet{}, err
	}
	for i := range out.Cells {
		if r := out.Cells[i].Reading; r != nil {
			out.Cells[i].OuterMM, out.Cells[i].InnerMM = sizeOf(out.Coupon.outer(), r.OuterErrorMM), sizeOf(out.Coupon.inner(), r.InnerErrorMM)
		}
	}
	if out.Plates, err = t.PlatesOfSeries(id); err != nil {
		return SeriesSheet{}, err
	}
	if out.Order, err = orderOf(t, out.Plates, cells); err != nil {
		return SeriesSheet{}, err
	}
	if out.History, err = t.AmendmentsOf("series", id); err != nil {
		return SeriesSheet{}, err
	}
	if s.ProfileID != nil {
		p, err := t.Profile(*s.ProfileID)
		if err != nil {
			return SeriesSheet{}, err
		}
		out.Profile = &p
	}
	return out, out.evaluate()
}

func (s *SeriesSheet) evaluate() error {
	in := exposure.SeriesInput{School: &s.Series.School, DialStepS: &s.DialS}
	judged := false
	for _, c := range s.Cells {
		r := exposure.Reading{ExposureS: c.Cell.ExposureS}
		if c.Reading != nil {
			judged = true
			r.Survived, r.SmallestPinMM, r.SmallestGapMM = c.Reading.Survived, c.Reading.SmallestPinMM, c.Reading.SmallestGapMM
			r.OuterErrorMM, r.InnerErrorMM = c.Reading.OuterErrorMM, c.Reading.InnerErrorMM
			r.FeaturesOK, r.FeaturesTotal = c.Reading.FeaturesOK, c.Reading.FeaturesTotal
			in.Readings = append(in.Readings, r)
		}
	}
	if !judged {
		return nil
	}
	result, err := exposure.Series(in)
	if err != nil {
		return fmt.Errorf("evaluate series %s: %w", s.Series.Code, err)
	}
	s.Result = &result
	return nil
}

// RecordCell appends what was judged on a cell.
func (w *Tasks) RecordCell(ctx context.Context, seriesID string, number int64, r bench.CellReading, sizes CellSizes) (out SeriesSheet, err error) {
	series, err := task.ReadOne(ctx, w.Base, seriesID, (*store.Tx).Series)
	if err != nil {
		return out, err
	}
	known, err := task.ReadOne(ctx, w.Base, "", func(t *store.Tx, _ string) (*CellCoupon, error) { return cellCoupon(t, series) })
	if err != nil {
		return out, err
	}
	if err := known.errors(sizes, &r); err != nil {
		return out, err
	}
	check := exposure.SeriesInput{Readings: []exposure.Reading{{ExposureS: 1, Survived: r.Survived, OuterErrorMM: r.OuterErrorMM, InnerErrorMM: r.InnerErrorMM,
		SmallestPinMM: r.SmallestPinMM, SmallestGapMM: r.SmallestGapMM, FeaturesOK: r.FeaturesOK, FeaturesTotal: r.FeaturesTotal}}}
	if _, err := exposure.Series(check); err != nil {
		return out, task.WithoutPrefix("readings[0].", err)
	}
	if r.ID, err = w.NewID(); err != nil {
		return out, err
	}
	r.RecordedMS = w.NowMS()
	err = w.Write(ctx, &out, func(t *store.Tx) error {
		cells, err := t.CellsOfSeries(seriesID)
		if err != nil {
			return err
		}
		for _, c := range cells {
			if c.Number == number {
				r.CellID = c.ID
			}
		}
		if r.CellID == "" {
			return fmt.Errorf("cell %d of series %s: %w", number, seriesID, bench.ErrNotFound)
		}
		if err := t.SaveCellReading(r); err != nil {
			return err
		}
		out, err = ReadSeries(t, seriesID)
		return err
	})
	return out, err
}

// Accept makes the chosen exposure the calibrated profile of the machine,
// resin and layer height.
func (w *Tasks) Accept(ctx context.Context, seriesID string, exposureS float64, antialiasing string) (out SeriesSheet, err error) {
	err = w.Write(ctx, &out, func(t *store.Tx) error {
		sheet, err := ReadSeries(t, seriesID)
		if err != nil {
			return err
		}
		if sheet.Result == nil {
			return quantity.Errorf("exposure_s", "cannot be accepted yet: no cell of %s is judged", sheet.Series.Code)
		}
		s := sheet.Series
		m, err := t.Machine(s.MachineID)
		if err != nil {
			return err
		}
		p := planning.SeriesSettings(m, s)
		p.ExposureS, p.Antialiasing, p.Name = &exposureS, antialiasing, ""
		p.Basis, p.ParentID, p.Note = "calibrated", s.ProfileID, acceptNote(sheet, exposureS)
		if err := w.Kit.KeepProfile(t, &p); err != nil {
			return err
		}
		s.ProfileID = &p.ID
		s.Version++
		if err := t.SaveSeries(s); err != nil {
			return err
		}
		out, err = ReadSeries(t, seriesID)
		return err
	})
	return out, err
}

func acceptNote(s SeriesSheet, exposureS float64) string {
	rec := s.Result.Recommended
	if rec == nil || !quantity.Equal(rec.DialS, exposureS) {
		return fmt.Sprintf("Chosen by hand from %s.", s.Series.Code)
	}
	return fmt.Sprintf("Chosen from %s by %s: %s", s.Series.Code, rec.School, rec.Reason)
}
