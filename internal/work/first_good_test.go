package work_test

import (
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/tally"
)

func TestTheWayFromTheBoxToTheFirstGoodPrint(t *testing.T) {
	d := newDesk(t)
	p := quantity.Ptr[float64]
	d.clock = time.Date(2026, 9, 3, 9, 0, 0, 0, time.Local)
	says := func() string {
		t.Helper()
		if good := must(d.w.FirstDays.Unit(t.Context(), d.machine.ID, ""))(t).FirstGood; good != nil {
			return good.Says
		}
		return ""
	}
	if says() != "" {
		t.Errorf("without a print: %q", says())
	}
	must(d.w.FirstDays.SaveUnit(t.Context(), d.machine.ID, bench.UnitFile{UnpackMin: p(40)}))(t)
	if want := "nothing was printed yet; 40 min of attention, 40 of them unpacking and setting up"; says() != want {
		t.Errorf("%q, want %q", says(), want)
	}
	must(d.w.FirstDays.SaveUnit(t.Context(), d.machine.ID, bench.UnitFile{Version: 1}))(t)
	d.judged("no adhesion", func(r *bench.Run) { r.AttendedMin = p(20) })
	if want := "nothing came out whole yet, after 1 print; at least 20 min of attention"; says() != want {
		t.Errorf("%q, want %q", says(), want)
	}
	unit := bench.UnitFile{Version: 2, ReceivedOn: quantity.Ptr("2026-09-01"), UnpackMin: p(40), SetUpBy: "a beginner"}
	must(d.w.FirstDays.SaveUnit(t.Context(), d.machine.ID, unit))(t)
	d.clock = d.clock.Add(24 * time.Hour)
	good := d.judged("", func(r *bench.Run) { r.AttendedMin = p(15) })
	d.clock = d.clock.Add(24 * time.Hour)
	d.judged("", func(r *bench.Run) { r.AttendedMin = p(500) }) // after it, nothing counts
	if want := good.Run.Code + " came out whole, at attempt 2, 3 days after it came; 75 min of attention, 40 of them unpacking and setting up, by a beginner"; says() != want {
		t.Errorf("%q, want %q", says(), want)
	}
}

func TestPrintsAreCountedByTheirProgram(t *testing.T) {
	d := newDesk(t)
	with := func(name string) func(*bench.Run) {
		return func(r *bench.Run) { r.Software = &name }
	}
	lost := d.judged("no adhesion", with("Carver 1.4"))
	d.judged("", with("Carver 1.4"))
	d.judged("", with("Carver 1.5"))
	d.runOf(1, with("Carver 1.4")) // not judged
	d.judged("", func(r *bench.Run) { r.Software = nil })
	got := must(d.w.Tally.BySoftware(t.Context()))(t)
	if len(got) != 2 || got[0].Software != "Carver 1.4" || got[0].Prints != 3 || got[0].Judged != 2 || got[0].Lost != 1 || got[0].LostRuns[0] != lost.Run.Code {
		t.Fatalf("%+v", got)
	}
	if want := "3 prints, 2 judged, 1 of them lost a copy or all (95 %: 9.45 % to 90.5 %)"; got[0].Says != want {
		t.Errorf("%q, want %q", got[0].Says, want)
	}
	if none, err := tally.ProgramsOf(nil); err != nil || none == nil {
		t.Errorf("without prints: %v, %v", none, err)
	}
}
