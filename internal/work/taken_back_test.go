package work_test

import (
	"errors"
	"strings"
	"testing"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/history"
)

func TestWhatWasTakenBackCountsAgain(t *testing.T) {
	d := fullDesk(t)
	ctx := t.Context()
	run := must(d.w.Printing.RunSheet(ctx, d.run(nil).Run.ID))(t)
	restore := func(kind, id string) []history.EntryChange {
		t.Helper()
		changes := must(d.w.History.Restore(ctx, kind, id, "it was right"))(t)
		if last := changes[len(changes)-1]; last.Command != "put back what was taken back" || last.Why != "it was right" {
			t.Errorf("%s: its history ends with %q", kind, last.Command)
		}
		if _, err := d.w.History.Restore(ctx, kind, id, ""); !errors.Is(err, bench.ErrConflict) {
			t.Errorf("%s was put back twice: %v", kind, err)
		}
		return changes
	}
	first := d.measured(run, 0, 0, 30.02, nil)
	must(d.w.Inspect.TakeBack(ctx, run.Run.ID, first.ID, "a slip"))(t)
	restore("reading", first.ID)
	if sheet := must(d.w.Printing.RunSheet(ctx, run.Run.ID))(t); len(sheet.Readings) != 1 || sheet.Readings[0].TakenBackMS != nil {
		t.Errorf("readings: %+v", sheet.Readings)
	}

	sheet := d.reads(run, bench.RoomReading{Moment: "end", RoomTempC: quantity.Ptr(26.0)})
	read := sheet.RoomReadings[len(sheet.RoomReadings)-1]
	must(d.w.Printing.TakeRoomBack(ctx, read.ID, "the wrong shelf"))(t)
	restore("room_reading", read.ID)
	if sheet = must(d.w.Printing.RunSheet(ctx, run.Run.ID))(t); sheet.Room.RoomC == nil || sheet.Run.RoomTempC == nil || *sheet.Run.RoomTempC != sheet.Room.RoomC.Mean || sheet.Room.RoomC.Last != 26 {
		t.Errorf("the room of its print does not follow: %+v", sheet.Room)
	}

	remark := must(d.w.FirstDays.RemarksOn(ctx, d.machine.ID))(t).Remarks[0]
	must(d.w.FirstDays.TakeRemarkBack(ctx, d.machine.ID, remark.ID, "mended"))(t)
	restore("remark", remark.ID)
	survey := must(d.w.Kit.PlateSurveys(ctx, d.machine.ID))(t).Surveys[0]
	must(d.w.Kit.TakeSurveyBack(ctx, d.machine.ID, survey.ID, "measured wrong"))(t)
	restore("plate_survey", survey.ID)
	picture := must(d.w.Photographs.OfUnit(ctx, d.machine.ID))(t)[0]
	must(d.w.Photographs.TakeBackOfUnit(ctx, picture.ID, "another box", false))(t)
	// From its history it comes back by the same way.
	all := must(d.w.History.All(ctx, "unit_photograph", 0))(t)
	if !all[0].PutBack {
		t.Fatalf("%+v", all[0])
	}
	must(d.w.History.PutBack(ctx, all[0].ID, ""))(t)
	if p := must(d.w.Photographs.OfUnit(ctx, d.machine.ID))(t)[0]; p.TakenBackMS != nil || p.TakenBackWhy != "" {
		t.Errorf("%+v", p)
	}
	must(d.w.Photographs.TakeBackOfUnit(ctx, picture.ID, "gone", true))(t)
	if _, err := d.w.History.Restore(ctx, "unit_photograph", picture.ID, ""); !errors.Is(err, bench.ErrConflict) || !strings.Contains(err.Error(), "erased") {
		t.Errorf("its files were erased: %v", err)
	}
	var field *quantity.FieldError
	if _, err := d.w.History.Restore(ctx, "machine", d.machine.ID, ""); !errors.As(err, &field) || field.Path != "kind" {
		t.Errorf("a machine: %v", err)
	}
	if _, err := d.w.History.Restore(ctx, "remark", "nobody", ""); !errors.Is(err, bench.ErrNotFound) {
		t.Errorf("nobody: %v", err)
	}
}

// What was read anew in its place stands: it must go first.
func TestWhatWasTakenBackStaysSoWhereAnotherCounts(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	run := d.run(nil)
	conflict := func(kind, id string) {
		t.Helper()
		if _, err := d.w.History.Restore(ctx, kind, id, ""); !errors.Is(err, bench.ErrConflict) {
			t.Errorf("%s counts beside what replaced it: %v", kind, err)
		}
	}
	seen := func(state string) bench.Reading {
		t.Helper()
		must(d.w.Inspect.RecordReadings(ctx, run.Run.ID, []bench.Reading{{SpecimenID: run.Specimens[0].ID, FeatureID: d.piece.Features[2].ID, State: &state}}, false))(t)
		sheet := must(d.w.Printing.RunSheet(ctx, run.Run.ID))(t)
		return sheet.Readings[len(sheet.Readings)-1]
	}
	before := seen("present")
	must(d.w.Inspect.TakeBack(ctx, run.Run.ID, before.ID, "another copy"))(t)
	seen("damaged")
	conflict("reading", before.ID)

	run = d.run(nil)
	wrong := d.measured(run, 1, 0, 30.1, nil)
	right := d.measured(run, 1, 0, 30.2, &wrong.ID)
	must(d.w.Inspect.TakeBack(ctx, run.Run.ID, right.ID, "it was right before"))(t)
	d.measured(run, 1, 0, 30.3, &wrong.ID) // corrected once more
	conflict("reading", right.ID)

	sitting := d.sitting("raw", nil)
	d.rates(sitting, run.Run.ID, run.Specimens[0], 2)
	rated := d.rates(sitting, run.Run.ID, run.Specimens[0], 3)
	must(d.w.Inspect.TakeRatingBack(ctx, rated[len(rated)-1].ID, "a slip"))(t)
	must(d.w.History.Restore(ctx, "rating", rated[len(rated)-1].ID, ""))(t)
	must(d.w.Inspect.TakeRatingBack(ctx, rated[len(rated)-1].ID, "a slip again"))(t)
	d.rates(sitting, run.Run.ID, run.Specimens[0], 4)
	conflict("rating", rated[len(rated)-1].ID)
}
