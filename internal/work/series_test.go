package work_test

import (
	"strings"
	"testing"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/dialin"
)

func TestASeriesIsReadChosenAndBorrowed(t *testing.T) {
	d := newDesk(t)
	plan := dialin.SeriesPlan{MachineID: d.machine.ID, ResinID: d.resin.ID, LayerUM: 50, School: "detail", FromS: 1.6, StepS: 0.4, Cells: 4, BottomLayers: 4, BottomExposureS: 30}
	sheet := must(d.w.DialIn.PlanSeries(t.Context(), plan))(t)
	for i, pin := range []float64{0.4, 0.3, 0.2, 0.15} {
		gap := 0.55 - pin
		sheet = must(d.w.DialIn.RecordCell(t.Context(), sheet.Series.ID, int64(i+1), bench.CellReading{SmallestPinMM: &pin, SmallestGapMM: &gap}, dialin.CellSizes{}))(t)
	}
	_, err := d.w.DialIn.RecordCell(t.Context(), sheet.Series.ID, 1, bench.CellReading{FeaturesOK: quantity.Ptr[int64](3)}, dialin.CellSizes{})
	wantField(t, err, "features_total")
	rec := sheet.Result.Recommended
	if rec == nil || rec.School != "detail" || rec.DialS < 1.6 || rec.DialS > 2.8 {
		t.Fatalf("recommended %+v", rec)
	}
	sheet = must(d.w.DialIn.Accept(t.Context(), sheet.Series.ID, rec.DialS, "none"))(t)
	if sheet.Profile == nil || sheet.Profile.Basis != "calibrated" || *sheet.Profile.ExposureS != rec.DialS {
		t.Fatalf("profile %+v", sheet.Profile)
	}
	twin := d.machine
	twin.ID, twin.Name, twin.IrradianceMWCM2 = "", "Twin", quantity.Ptr(2.0)
	other := must(d.w.Kit.SaveMachine(t.Context(), twin))(t).Machine
	_, err = d.w.DialIn.CarryExposure(t.Context(), dialin.Carrying{ProfileID: sheet.Profile.ID, MachineID: other.ID, Cells: 6})
	wantField(t, err, "shared")
	source := d.machine
	source.IrradianceMWCM2 = quantity.Ptr(4.0)
	must(d.w.Kit.SaveMachine(t.Context(), source))(t)
	borrowed := must(d.w.DialIn.CarryExposure(t.Context(), dialin.Carrying{ProfileID: sheet.Profile.ID, MachineID: other.ID, Cells: 6}))(t)
	if !quantity.Equal(borrowed.Transfer.ExposureS, 2**sheet.Profile.ExposureS) || borrowed.FromS+5*borrowed.StepS < borrowed.Transfer.ToS-1e-9 {
		t.Errorf("half the light: %+v", borrowed)
	}
}

// An exposure of another resin needs a machine on which both are calibrated; one of another
// layer height does not carry over at all.
func TestAnExposureIsCarriedToAnotherResinByAMachineThatHasBoth(t *testing.T) {
	d := newDesk(t)
	d.machine.IrradianceMWCM2 = quantity.Ptr(4.0)
	d.machine = must(d.w.Kit.SaveMachine(t.Context(), d.machine))(t).Machine
	other := d.machine
	other.ID, other.Code, other.Version, other.Name, other.IrradianceMWCM2 = "", "", 0, "Twin", quantity.Ptr(2.0)
	other = must(d.w.Kit.SaveMachine(t.Context(), other))(t).Machine
	ash := d.resin
	ash.ID, ash.Code, ash.Version, ash.Name = "", "", 0, "Ash"
	ash = must(d.w.Kit.SaveResin(t.Context(), ash))(t).Resin
	calibrated := func(resinID string, from float64) bench.Profile {
		sheet := must(d.w.DialIn.PlanSeries(t.Context(), dialin.SeriesPlan{MachineID: d.machine.ID, ResinID: resinID, LayerUM: 50, School: "detail", FromS: from, StepS: 0.4, Cells: 4, BottomLayers: 4, BottomExposureS: 30}))(t)
		for i, pin := range []float64{0.4, 0.3, 0.2, 0.15} {
			gap := 0.55 - pin
			sheet = must(d.w.DialIn.RecordCell(t.Context(), sheet.Series.ID, int64(i+1), bench.CellReading{SmallestPinMM: &pin, SmallestGapMM: &gap}, dialin.CellSizes{}))(t)
		}
		return *must(d.w.DialIn.Accept(t.Context(), sheet.Series.ID, sheet.Result.Recommended.DialS, "none"))(t).Profile
	}
	grey := calibrated(d.resin.ID, 1.6)
	carried := 2 * *grey.ExposureS // half the light
	ask := dialin.Carrying{ProfileID: grey.ID, MachineID: other.ID, ResinID: ash.ID, Cells: 6}
	_, err := d.w.DialIn.CarryExposure(t.Context(), ask)
	wantField(t, err, "resin_id")
	if !strings.Contains(err.Error(), "calibrate both at 50 µm on one machine") {
		t.Errorf("%v", err)
	}
	ratio := *calibrated(ash.ID, 2.8).ExposureS / *grey.ExposureS
	got := must(d.w.DialIn.CarryExposure(t.Context(), ask))(t)
	if ratio < 1.1 || !quantity.Equal(got.Transfer.ExposureS, carried*ratio) || !got.Transfer.Has("another_resin") || !got.Transfer.Has("one_machine") || !quantity.Equal(got.Transfer.FromS, carried*ratio*0.64) || !strings.Contains(got.Origin, "to Ash by 1 machine that has both") {
		t.Errorf("%+v, %s", got.Transfer, got.Origin)
	}
	same := must(d.w.DialIn.CarryExposure(t.Context(), dialin.Carrying{ProfileID: grey.ID, MachineID: other.ID, ResinID: d.resin.ID, LayerUM: quantity.Ptr(50.0), Cells: 6}))(t)
	if !quantity.Equal(same.Transfer.ExposureS, carried) || same.Transfer.Has("another_resin") {
		t.Errorf("the same resin: %+v", same.Transfer)
	}
	ask.LayerUM = quantity.Ptr(30.0)
	_, err = d.w.DialIn.CarryExposure(t.Context(), ask)
	wantField(t, err, "layer_um")
}
