package work_test

import (
	"errors"
	"testing"

	"ojime/internal/bench"
	"ojime/internal/core/coupon"
	"ojime/internal/work/dialin"
	"ojime/internal/work/printing"
)

// A machine that exposes a plate place by place exposes places: when the raised numbers
// show that the plate was turned, cells and specimens get the exposures of their places,
// and what stood before stays in the history.
func TestCellsOfATurnedPlate(t *testing.T) {
	d := newDesk(t)
	m := d.machine
	m.CellExposure = bench.CellsInTurn
	d.machine = must(d.w.Kit.SaveMachine(t.Context(), m))(t).Machine
	made := must(d.w.DialIn.KeepCoupon(t.Context(), "Small", coupon.Params{PostsMM: []float64{0.2, 0.3, 0.5}, SlotsMM: []float64{0.1, 0.2}, Calipers: true}))(t)
	series := must(d.w.DialIn.PlanSeries(t.Context(), dialin.SeriesPlan{MachineID: m.ID, ResinID: d.resin.ID, LayerUM: 50, School: "detail", FromS: 1, StepS: 0.5, Cells: 4, BottomLayers: 4, BottomExposureS: 30}))(t)
	if series.Order != nil {
		t.Errorf("cells that lie nowhere yet have the order %+v", series.Order)
	}
	plates := must(d.w.DialIn.LaySeries(t.Context(), series.Series.ID, made.Piece.ID))(t)
	run := must(d.w.Printing.Prepare(t.Context(), printing.Preparation{MachineID: m.ID, PlateID: &plates[0].Plate.ID}))(t)
	sheet := must(d.w.DialIn.SeriesSheet(t.Context(), series.Series.ID))(t)
	if sheet.Order == nil || sheet.Order.Planned != "front_left" || sheet.Order.Lay != "front_left" || len(sheet.Order.Possible) < 2 {
		t.Fatalf("as planned: %+v", sheet.Order)
	}
	other := sheet.Order.Possible[len(sheet.Order.Possible)-1]
	turned := must(d.w.DialIn.TurnCells(t.Context(), series.Series.ID, sheet.Series.Version, other, "number 1 lay there"))(t)
	if turned.Order.Lay != other || turned.Cells[0].Cell.ExposureS != 2.5 || turned.Cells[3].Cell.ExposureS != 1 {
		t.Errorf("turned to the %s: %+v, %+v", other, turned.Order, turned.Cells)
	}
	if len(turned.History) != 1 || turned.History[0].Why != "number 1 lay there" {
		t.Errorf("history %+v", turned.History)
	}
	for i, s := range must(d.w.Printing.RunSheet(t.Context(), run.Run.ID))(t).Specimens {
		if *s.ExposureS != turned.Cells[i].Cell.ExposureS {
			t.Errorf("%s was exposed for %v s, its cell for %v", s.Code, *s.ExposureS, turned.Cells[i].Cell.ExposureS)
		}
	}
	if _, err := d.w.DialIn.TurnCells(t.Context(), series.Series.ID, sheet.Series.Version, other, ""); !errors.Is(err, bench.ErrStale) {
		t.Errorf("said against an older version: %v", err)
	}
	back := must(d.w.DialIn.TurnCells(t.Context(), series.Series.ID, turned.Series.Version, "front_left", ""))(t)
	if back.Order.Lay != "front_left" || back.Cells[0].Cell.ExposureS != 1 || len(back.History) != 2 {
		t.Errorf("turned back: %+v", back)
	}
	_, err := d.w.DialIn.TurnCells(t.Context(), series.Series.ID, back.Series.Version, "middle", "")
	wantField(t, err, "lay")
}
