package work_test

import (
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/printing"
	"ojime/internal/work/upkeep"
)

// judged records a print of one wedge and says whether it was lost, and of what.
func (d *desk) judged(symptom string, change func(*bench.Run)) printing.RunSheet {
	d.t.Helper()
	run := d.runOf(1, change)
	s := run.Specimens[0]
	if s.Outcome = "whole"; symptom != "" {
		ruin(&s, "lost", symptom, "printed", "machine")
	}
	return must(d.w.Inspect.JudgeSpecimens(d.t.Context(), run.Run.ID, []bench.Specimen{s}))(d.t)
}

func (d *desk) failures(kind string) upkeep.WearFailures {
	d.t.Helper()
	for _, w := range must(d.w.Upkeep.MachineFailures(d.t.Context(), d.machine.ID))(d.t).Wear {
		if w.Of == kind {
			return w
		}
	}
	d.t.Fatalf("nothing of %s", kind)
	return upkeep.WearFailures{}
}

func (d *desk) film() {
	d.t.Helper()
	must(d.w.Kit.AddEvent(d.t.Context(), bench.MachineEvent{MachineID: d.machine.ID, AtMS: d.clock.UnixMilli(), Kinds: bench.IDs{"film"}}))(d.t)
	d.clock = d.clock.Add(time.Hour)
}

// Prints of a young film hold and those of an old one fail: the page says that they go
// together, in parts of equal number, and for how long a film held.
func TestFailuresAreHeldAgainstTheAgeOfTheFilm(t *testing.T) {
	d := newDesk(t)
	d.film()
	prints := func(n int, symptom string) {
		for range n {
			d.judged(symptom, nil)
			d.clock = d.clock.Add(time.Hour)
		}
	}
	prints(5, "")
	if got := d.failures("film"); len(got.Bins) != 0 || !strings.HasPrefix(got.Sentence, "Too few judged prints on a film") {
		t.Errorf("five prints: %q, %+v", got.Sentence, got.Bins)
	}
	prints(25, "")
	if got := d.failures("film"); got.Trend.P != nil || !strings.Contains(got.Sentence, "do not differ enough") {
		t.Errorf("none failed: %q", got.Sentence)
	}
	prints(30, "delamination")
	got := d.failures("film")
	if len(got.Bins) != 4 || got.Bins[0].Failed != 0 || got.Bins[3].Failed != 15 || got.Bins[0].Runs != 15 || got.Bins[3].To != 5900 {
		t.Errorf("bins %+v", got.Bins)
	}
	// Ten blocks of six prints: of their 252 orders of five that failed, two lean as far.
	if got.Trend.P == nil || *got.Trend.P > 0.012 || *got.Trend.P < 0.005 || !strings.HasPrefix(got.Sentence, "Failures rise with the age of the film (p = 0.0") {
		t.Errorf("%q", got.Sentence)
	}
	if got.Unknown != 0 {
		t.Errorf("%d prints of unknown age", got.Unknown)
	}
	// A new film begins at nothing; failures that are gone with it fall with age no less.
	d.film()
	prints(1, "")
	if again := d.failures("film"); again.Bins[0].From != 0 || again.Trend.P == nil {
		t.Errorf("after a new film: %+v", again.Bins)
	}
}

func TestPrintsOnAFilmOfUnknownAgeAreCountedApart(t *testing.T) {
	d := newDesk(t)
	d.judged("", nil)
	d.clock = d.clock.Add(time.Hour)
	if got := d.failures("film"); got.Unknown != 1 {
		t.Errorf("%d of unknown age, want the one", got.Unknown)
	}
	d.film()
	d.judged("", nil)
	if got := d.failures("film"); got.Unknown != 1 {
		t.Errorf("%d of unknown age after a new film, want still one", got.Unknown)
	}
}

// A fault that the machine's card names is said first, and counted before and since its
// workaround.
func TestAQuirkIsCountedBeforeAndSinceItsWorkaround(t *testing.T) {
	d := newDesk(t)
	day := func(n int) func(*bench.Run) {
		return func(r *bench.Run) {
			r.StartedMS += int64(n) * quantity.DayMS
			r.EndedMS = quantity.Ptr(r.StartedMS + 30*60*1000)
		}
	}
	begin := d.clock
	d.clock = d.clock.Add(30 * 24 * time.Hour)
	at := func(n int) func(*bench.Run) {
		return func(r *bench.Run) { r.StartedMS = begin.UnixMilli(); day(n)(r) }
	}
	for i := range 3 {
		d.judged("layer shift", at(i))
	}
	var last printing.RunSheet
	for i := range 8 {
		last = d.judged("", at(11+i))
	}
	m := must(d.w.Kit.Machines(t.Context()))(t)[0].Machine
	m.QuirkFaults = bench.QuirkFaults{{Symptom: "layer shift", Text: "Loses steps when warm", Workaround: "restart before each print", SinceMS: quantity.Ptr(begin.UnixMilli() + 10*quantity.DayMS)}}
	m = must(d.w.Kit.SaveMachine(t.Context(), m))(t).Machine
	got := must(d.w.Diagnosis.Diagnose(t.Context(), last.Run.ID, "layer shift"))(t).Result.Quirks
	if len(got) != 1 || got[0].Without.Of != 3 || got[0].Without.Were != 3 || got[0].With == nil || got[0].With.Of != 8 || got[0].With.Were != 0 {
		t.Fatalf("%+v", got)
	}
	if want := "Loses steps when warm: 3 of 3 judged prints without the workaround had it, 0 of 8 judged prints since."; got[0].Says != want {
		t.Errorf("it says %q, want %q", got[0].Says, want)
	}
	if other := must(d.w.Diagnosis.Diagnose(t.Context(), last.Run.ID, "void"))(t).Result.Quirks; len(other) != 0 {
		t.Errorf("another symptom: %+v", other)
	}
	m.QuirkFaults[0].SinceMS, m.QuirkFaults[0].Workaround = nil, ""
	must(d.w.Kit.SaveMachine(t.Context(), m))(t)
	if open := must(d.w.Diagnosis.Diagnose(t.Context(), last.Run.ID, "layer shift"))(t).Result.Quirks[0]; open.With != nil || open.Says != "Loses steps when warm: 3 of 11 judged prints had it." {
		t.Errorf("nothing is done against it: %+v", open)
	}
}
