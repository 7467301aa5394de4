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
	"ojime/internal/work/printing"
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

// A print tells how much light its copies lay in, and a fault on a weak place or over a dead spot is laid to it.
func TestWherePiecesLayIsHeldAgainstTheLightThere(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	plate := d.laid(2)
	printed := func() printing.RunSheet {
		t.Helper()
		return d.run(func(r *bench.Run) { r.PlateID = &plate.Plate.ID })
	}
	run := printed()
	if run.Light != nil {
		t.Errorf("nothing was measured, and it lay in %+v", run.Light)
	}
	ask := func() string {
		t.Helper()
		s := run.Specimens[0]
		ruin(&s, "lost", "soft", "printed", "machine")
		must(d.w.Inspect.JudgeSpecimens(ctx, run.Run.ID, []bench.Specimen{s}))(t)
		said := []string{}
		for _, c := range must(d.w.Diagnosis.Diagnose(ctx, run.Run.ID, "soft"))(t).Result.Causes {
			if c.Cause == "light" {
				said = append(append(said, c.For...), c.Unknown...)
			}
		}
		return strings.Join(said, "; ")
	}
	if said := ask(); !strings.Contains(said, "Least light where it was seen") || !strings.Contains(said, "Whether it lay over a dead or weak spot") {
		t.Errorf("what would tell is not said: %s", said)
	}
	// Weak where the copies lie, strong elsewhere.
	at := run.Specimens[0]
	rows := bench.GridRows{{100, 100, 100, 100}, {100, 100, 100, 100}}
	rows[int(2**at.YMM/d.machine.DepthMM)][int(4**at.XMM/d.machine.WidthMM)] = 60
	must(d.w.FirstDays.MeasureLight(ctx, d.machine.ID, bench.LightGrid{Readings: rows}))(t)
	must(d.w.Kit.SurveyPlate(ctx, d.machine.ID, bench.PlateSurvey{Spots: bench.Spots{{XMM: *at.XMM + 1, YMM: *at.YMM, RadiusMM: 0.5}}}))(t)
	run = printed()
	if run.Light == nil || run.Light.LeastPct > 90 || run.Light.MeanPct < run.Light.LeastPct || !strings.Contains(strings.Join(printing.ConditionWords(&run), "; "), "% of the plate's mean where its copies lay (4 × 2 readings, 2026-09-01)") {
		t.Errorf("%+v; %s", run.Light, strings.Join(printing.ConditionWords(&run), "; "))
	}
	if said := ask(); !strings.Contains(said, "Least light where it was seen: ") || !strings.Contains(said, "a copy with it lay over a spot known as dead or weak") {
		t.Errorf("%s", said)
	}
	// Another panel was put in: what was measured before is not its light.
	d.clock = d.clock.Add(time.Hour)
	must(d.w.Kit.AddEvent(ctx, bench.MachineEvent{MachineID: d.machine.ID, AtMS: d.clock.UnixMilli(), Kinds: bench.IDs{"panel"}}))(t)
	if run = printed(); run.Light != nil {
		t.Errorf("of another panel: %+v", run.Light)
	}
}
