package store

import (
	"errors"
	"strings"
	"testing"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
)

// stressed puts a series with one test of one specimen on record; what they refer to is
// checked at the end of a transaction that defers it, which this one never ends well.
func stressed(tx *Tx) error {
	class := int64(3)
	return errors.Join(tx.DeferReferences(),
		tx.SaveStressSeries(bench.StressSeries{ID: "x", Code: "X-01", CreatedMS: 5, Kind: "drop", Mode: "fresh", Name: "Falls", Under: "onto oak", Stage: "cured", Levels: bench.Sizes{200}, Anchors: bench.Notes{"a", "b"}, FailsFrom: 3, Seed: 7}),
		tx.SaveStressSpecimen(bench.StressSpecimen{ID: "m", StressSeriesID: "x", SpecimenID: "s", Level: quantity.Ptr(200.0), MassG: quantity.Ptr(2.5)}),
		tx.SaveStressTest(bench.StressTest{ID: "t", StressSeriesID: "x", SpecimenID: "s", Level: 200, Damage: &class, Part: "arm", AtMS: 9}))
}

var errStop = errors.New("looked at, not kept")

// within looks at what a transaction holds and keeps nothing of it.
func within(t *testing.T, look func(*Tx)) {
	t.Helper()
	err := open(t, t.TempDir()).Write(t.Context(), func(tx *Tx) error {
		look(tx)
		return errStop
	})
	if !errors.Is(err, errStop) {
		t.Error(err)
	}
}

func TestStressIsReadAsItWasKept(t *testing.T) {
	within(t, func(tx *Tx) {
		if err := stressed(tx); err != nil {
			t.Fatal(err)
		}
		series, err := tx.StressSeries("x")
		if err != nil || series.Levels[0] != 200 || series.Anchors[1] != "b" || series.Seed != 7 || series.SpanMM != nil {
			t.Errorf("%+v %v", series, err)
		}
		members, err := tx.StressSpecimensOf("x")
		if err != nil || len(members) != 1 || *members[0].MassG != 2.5 || members[0].WidthMM != nil {
			t.Errorf("%+v %v", members, err)
		}
		tests, err := tx.StressTestsOf("x")
		if err != nil || len(tests) != 1 || *tests[0].Damage != 3 || tests[0].Part != "arm" || tests[0].DeflectionMM != nil {
			t.Errorf("%+v %v", tests, err)
		}
		if _, err := tx.StressSeries("y"); !errors.Is(err, bench.ErrNotFound) {
			t.Errorf("a series that is not there: %v", err)
		}
		if next, err := tx.NextNumber("stress_series"); err != nil || next != 2 {
			t.Errorf("the next is %d: %v", next, err)
		}
	})
}

// Of one specimen at one level only one test counts; one that was taken back makes room.
func TestATestCountsOnce(t *testing.T) {
	class := int64(1)
	again := bench.StressTest{ID: "u", StressSeriesID: "x", SpecimenID: "s", Level: 200, Damage: &class, AtMS: 10}
	within(t, func(tx *Tx) {
		if err := stressed(tx); err != nil {
			t.Fatal(err)
		}
		if err := tx.SaveStressTest(again); !errors.Is(err, bench.ErrConflict) {
			t.Errorf("twice: %v", err)
		}
	})
	within(t, func(tx *Tx) {
		if err := stressed(tx); err != nil {
			t.Fatal(err)
		}
		class := int64(3)
		back := bench.StressTest{ID: "t", StressSeriesID: "x", SpecimenID: "s", Level: 200, Damage: &class, AtMS: 9, TakenBackMS: quantity.Ptr[int64](9)}
		if err := errors.Join(tx.SaveStressTest(back), tx.SaveStressTest(again)); err != nil {
			t.Error(err)
		}
	})
}

func TestTheSchemaRefusesWhatCannotBe(t *testing.T) {
	class := int64(2)
	for what, save := range map[string]func(*Tx) error{
		"a test that shows nothing": func(tx *Tx) error {
			return tx.SaveStressTest(bench.StressTest{ID: "t", StressSeriesID: "x", SpecimenID: "s", Level: 1, AtMS: 1})
		},
		"a test that shows two things": func(tx *Tx) error {
			return tx.SaveStressTest(bench.StressTest{ID: "t", StressSeriesID: "x", SpecimenID: "s", Level: 1, Damage: &class, DeflectionMM: quantity.Ptr(1.0), AtMS: 1})
		},
		"a mass of nothing": func(tx *Tx) error {
			return tx.SaveStressSpecimen(bench.StressSpecimen{ID: "m", StressSeriesID: "x", SpecimenID: "s", MassG: quantity.Ptr(0.0)})
		},
		"no name": func(tx *Tx) error {
			return tx.SaveForm(bench.Form{ID: "f", PieceID: "p", Kind: "round"})
		},
		"a stage that is none": func(tx *Tx) error {
			return tx.SaveSpecimenStage(bench.SpecimenStage{ID: "g", SpecimenID: "s", Stage: "gilded"})
		},
		"a machine beyond praise": func(tx *Tx) error {
			return tx.SaveMachineRating(bench.MachineRating{ID: "l", MachineID: "m", Scale: "lid", Score: 5, Rater: "Ida"})
		},
		"a volume of nothing": func(tx *Tx) error {
			return tx.SaveResinWeighing(bench.ResinWeighing{ID: "w", ResinID: "r", MassG: 1})
		},
		"a thread that turns": func(tx *Tx) error {
			return tx.SaveFormReading(bench.FormReading{ID: "r", SpecimenID: "s", FormID: "f", State: "turns"})
		},
	} {
		within(t, func(tx *Tx) {
			if err := errors.Join(tx.DeferReferences(), save(tx)); err == nil || !strings.Contains(err.Error(), "CHECK") {
				t.Errorf("%s: %v", what, err)
			}
		})
	}
}

func TestFormsAndStagesAreReadAsTheyWereKept(t *testing.T) {
	within(t, func(tx *Tx) {
		err := errors.Join(tx.DeferReferences(),
			tx.SaveForm(bench.Form{ID: "f", PieceID: "p", CreatedMS: 3, Kind: "fit", Name: "Socket", RungsMM: bench.Sizes{0.1, 0.2}}),
			tx.SaveFormReading(bench.FormReading{ID: "r", SpecimenID: "s", FormID: "f", RecordedMS: 4, Mate: "peg", Rungs: bench.FitRungs{{RungMM: 0.1, Outcome: "holds"}}}),
			tx.SaveSpecimenStage(bench.SpecimenStage{ID: "g", SpecimenID: "s", Stage: "primed", AtMS: 5, ReworkMin: quantity.Ptr(2.5), Note: "thin"}),
			tx.SaveResinWeighing(bench.ResinWeighing{ID: "w", ResinID: "l", AtMS: 6, MassG: 11, VolumeML: 10}))
		if err != nil {
			t.Fatal(err)
		}
		form, err := tx.Form("f")
		if err != nil || form.RungsMM[1] != 0.2 || form.Nominal != nil || form.RetiredMS != nil {
			t.Errorf("%+v %v", form, err)
		}
		readings, err := tx.FormReadings()
		if err != nil || len(readings) != 1 || readings[0].Rungs[0].Outcome != "holds" || len(readings[0].Measured) != 0 {
			t.Errorf("%+v %v", readings, err)
		}
		form.RetiredMS = quantity.Ptr[int64](9)
		form.Name = "another"
		if err := tx.SaveForm(form); err != nil {
			t.Fatal(err)
		}
		if again, err := tx.Form("f"); err != nil || again.Name != "Socket" || *again.RetiredMS != 9 {
			t.Errorf("a form is retired and never renamed: %+v %v", again, err)
		}
		stages, err := tx.SpecimenStages()
		if err != nil || len(stages) != 1 || *stages[0].ReworkMin != 2.5 || stages[0].Note != "thin" {
			t.Errorf("%+v %v", stages, err)
		}
		weighings, err := tx.ResinWeighings()
		if err != nil || len(weighings) != 1 || weighings[0].TempC != nil || weighings[0].DensityGML() != 1.1 {
			t.Errorf("%+v %v", weighings, err)
		}
	})
}
