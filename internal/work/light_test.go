package work_test

import (
	"bytes"
	"errors"
	"math"
	"reflect"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
)

func TestLightOverThePlateAndWhatItDoesToAnExposure(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	if got := must(d.w.FirstDays.Light(ctx, d.machine.ID))(t); got.Now != nil || got.Says != "Not measured over the plate." {
		t.Errorf("%+v", got)
	}
	// Calibrated settings come from a series; here they are put there as one would leave them.
	calibrated := d.profile
	calibrated.ID, calibrated.Code, calibrated.Basis, calibrated.ExposureS = "calibrated", "U-99", "calibrated", quantity.Ptr(2.4)
	if err := d.w.Store.Write(ctx, func(tx *store.Tx) error { return tx.SaveProfile(calibrated) }); err != nil {
		t.Fatal(err)
	}
	grid := bench.LightGrid{Readings: bench.GridRows{{100, 100, 100}, {100, 110, 100}, {100, 110, 80}}}
	got := must(d.w.FirstDays.MeasureLight(ctx, d.machine.ID, grid))(t)
	if got.Says != "80 to 110 % of its mean (3 × 3 readings, 2026-09-01); weakest at the back right." || len(got.Exposures) != 1 {
		t.Errorf("%q, %+v", got.Says, got.Exposures)
	}
	if e := got.Exposures[0]; math.Abs(e.WorthS-1.92) > 1e-9 || math.Abs(e.NeededS-3) > 1e-9 || e.ExposureS != 2.4 {
		t.Errorf("%+v", e)
	}

	// It travels with the record, and is refused where it is no grid.
	other := newEmpty(t, d)
	must(other.Record.Import(ctx, bytes.NewReader(exported(t, d.w))))(t)
	if there := must(other.FirstDays.Light(ctx, d.machine.ID))(t); !reflect.DeepEqual(there, got) {
		t.Errorf("here %+v\nthere %+v", got, there)
	}
	_, err := d.w.FirstDays.MeasureLight(ctx, d.machine.ID, bench.LightGrid{Readings: bench.GridRows{{1, 2}, {1, 0}}})
	wantField(t, err, "readings[1][1]")
	_, err = d.w.FirstDays.MeasureLight(ctx, d.machine.ID, bench.LightGrid{Readings: grid.Readings, AtMS: d.clock.Add(72 * time.Hour).UnixMilli()})
	wantField(t, err, "at_ms")

	// A calibration of the light ends what it says; so does taking it back.
	d.clock = d.clock.Add(time.Hour)
	knot := must(d.w.Kit.AddEvent(ctx, bench.MachineEvent{MachineID: d.machine.ID, AtMS: d.clock.UnixMilli(), Kinds: bench.IDs{"light_calibration"}}))(t)
	if got := must(d.w.FirstDays.Light(ctx, d.machine.ID))(t); got.Now != nil || !strings.Contains(got.Says, "was not measured since") || len(got.Grids) != 1 {
		t.Errorf("after %+v: %+v", knot, got)
	}
	back := must(d.w.FirstDays.TakeLightBack(ctx, d.machine.ID, got.Grids[0].ID, "the meter was warm"))(t)
	if back.Now != nil || back.Grids[0].TakenBackWhy != "the meter was warm" {
		t.Errorf("%+v", back)
	}
	if _, err := d.w.FirstDays.TakeLightBack(ctx, d.machine.ID, got.Grids[0].ID, "twice"); !errors.Is(err, bench.ErrNotFound) {
		t.Errorf("%v", err)
	}
}
