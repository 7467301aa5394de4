package work_test

import (
	"encoding/json"
	"errors"
	"math"
	"reflect"
	"strconv"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// A machine whose price cannot be computed was refused and saved all the same, and
// every list that held it then failed.
func TestWhatIsRefusedIsNotKept(t *testing.T) {
	d := newDesk(t)
	m := d.machine
	m.PriceList, m.PriceDiscount = quantity.Ptr(100.0), 200
	var field *quantity.FieldError
	if _, err := d.w.Kit.SaveMachine(t.Context(), m); !errors.As(err, &field) {
		t.Fatalf("a discount above the price: %v", err)
	}
	r := d.resin
	r.PriceDiscount = 1e6
	if _, err := d.w.Kit.SaveResin(t.Context(), r); !errors.As(err, &field) {
		t.Errorf("a resin's discount above its price: %v", err)
	}
	if kept := must(d.w.Kit.Machines(t.Context()))(t)[0].Machine; kept.PriceList != nil || kept.Version != d.machine.Version {
		t.Errorf("kept: %+v", kept)
	}
	if kept := must(d.w.Kit.Resins(t.Context()))(t)[0].Resin; kept.Version != d.resin.Version {
		t.Errorf("kept: %+v", kept)
	}
}

// Entries that an older program let in leave the others to be seen, and say what is
// wrong with them.
func TestListsSurviveABadEntry(t *testing.T) {
	d := newDesk(t)
	m, r, p := d.machine, d.resin, d.piece.Piece
	m.ID, m.Code, m.Name, m.PriceList, m.PriceDiscount = "bad-machine", "M9", "Bad", quantity.Ptr(1.0), 200
	r.ID, r.Code, r.Name, r.PriceList = "bad-resin", "L9", "Bad", math.Inf(1)
	p.ID, p.Code, p.Name, p.SupportPct = "bad-piece", "P9", "Bad", math.Inf(1)
	err := d.w.Store.Write(t.Context(), func(tx *store.Tx) error {
		return errors.Join(tx.SaveMachine(m), tx.SaveResin(r), tx.SavePiece(p))
	})
	if err != nil {
		t.Fatal(err)
	}
	machines, resins, pieces := must(d.w.Kit.Machines(t.Context()))(t), must(d.w.Kit.Resins(t.Context()))(t), must(d.w.Kit.Pieces(t.Context()))(t)
	if len(machines) != 2 || machines[0].Problem != "" || !strings.Contains(machines[1].Problem, "discount") || machines[1].Price != nil {
		t.Errorf("machines %+v", machines)
	}
	if len(resins) != 2 || resins[0].Problem != "" || !strings.Contains(resins[1].Problem, "price list is not a finite number") || resins[1].Price != nil {
		t.Errorf("resins %+v", resins)
	}
	if len(pieces) != 2 || pieces[0].Problem != "" || !strings.Contains(pieces[1].Problem, "support pct") {
		t.Errorf("pieces %+v", pieces)
	}
	for _, page := range []func() error{
		func() error { _, err := d.w.BenchView.Bench(t.Context()); return err },
		func() error { _, err := d.w.Upkeep.Upkeep(t.Context()); return err },
	} {
		if err := page(); err != nil {
			t.Error(err)
		}
	}
	wrong := strings.Join(must(d.w.Record.Check(t.Context()))(t), "\n")
	for _, say := range []string{"machine M9", "resin L9: price list", "piece P9: support pct", "change the entry"} {
		if !strings.Contains(wrong, say) {
			t.Errorf("check says %q, nothing of %q", wrong, say)
		}
	}
}

// A command that is sent again, because its answer was lost or the key was pressed
// twice, is done once.
func TestACommandIsDoneOnce(t *testing.T) {
	d := newDesk(t)
	ctx := task.WithCommand(t.Context(), task.Command{ID: "page-1", Asked: "a caliper"})
	tool := bench.Instrument{Name: "Micrometer", ResolutionMM: 0.001, ReferenceUMM: 0.002}
	first, again := must(d.w.Instruments.SaveInstrument(ctx, tool))(t), must(d.w.Instruments.SaveInstrument(ctx, tool))(t)
	if first != again || len(must(d.w.Instruments.Instruments(t.Context()))(t)) != 2 {
		t.Errorf("%+v, then %+v", first, again)
	}
	other := task.WithCommand(t.Context(), task.Command{ID: "page-1", Asked: "another thing"})
	if _, err := d.w.Instruments.SaveInstrument(other, tool); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("another command under the same id: %v", err)
	}
	secretly := task.WithCommand(t.Context(), task.Command{ID: "page-2", Asked: "a device"})
	must(d.w.Feed.MakeDevice(secretly, bench.Device{Name: "Caliper", Kind: "caliper"}))(t)
	if _, err := d.w.Feed.MakeDevice(secretly, bench.Device{Name: "Caliper", Kind: "caliper"}); !errors.Is(err, bench.ErrConflict) || len(must(d.w.Feed.Devices(t.Context()))(t)) != 1 {
		t.Errorf("a token told twice: %v", err)
	}
	d.clock = d.clock.Add(2 * time.Hour)
	if must(d.w.Instruments.SaveInstrument(task.WithCommand(t.Context(), task.Command{ID: "page-3", Asked: "x"}), tool))(t).Code != "I3" {
		t.Error("not the third")
	}
	// Its answer is forgotten after an hour; that it was done is known for a month, for a phone that was away.
	if _, err := d.w.Instruments.SaveInstrument(ctx, tool); !errors.Is(err, bench.ErrDone) || !errors.Is(err, bench.ErrConflict) {
		t.Errorf("after two hours: %v", err)
	}
	d.clock = d.clock.Add(31 * 24 * time.Hour)
	must(d.w.Instruments.SaveInstrument(task.WithCommand(t.Context(), task.Command{ID: "page-4", Asked: "x"}), tool))(t)
	err := d.w.Store.Read(t.Context(), func(tx *store.Tx) error { _, _, err := tx.Command("page-1"); return err })
	if !errors.Is(err, bench.ErrNotFound) {
		t.Errorf("after a month the command is still remembered: %v", err)
	}
}

// A clock that goes back does not lock a print; the print says so and gives no time.
func TestAClockThatGoesBack(t *testing.T) {
	d := newDesk(t)
	run := d.prepared(100)
	d.happens(run, "start", nil)
	d.clock = d.clock.Add(-72 * time.Hour)
	if live := d.happens(run, "pause", nil); live.State != bench.Paused || live.RunningS != 0 {
		t.Errorf("after the clock went back: %s, %g s", live.State, live.RunningS)
	}
	d.happens(run, "resume", nil)
	d.clock = d.clock.Add(2 * time.Hour)
	live := d.happens(run, "finish", nil)
	for i, kind := range []string{"start", "pause", "resume", "finish"} {
		if e := live.Events[i]; e.Kind != kind || e.Position != int64(i+1) {
			t.Errorf("event %d is %s at %d", i, e.Kind, e.Position)
		}
	}
	r := must(d.w.Printing.RunSheet(t.Context(), run.Run.ID))(t).Run
	if !r.ClockWentBack || r.TookS() != nil || r.EndedMS == nil {
		t.Errorf("the run: went back %v, took %v", r.ClockWentBack, r.TookS())
	}
	err := d.w.Store.Read(t.Context(), func(tx *store.Tx) error {
		times, err := tx.TimesOfMachine(d.machine.ID)
		for _, r := range times {
			if r.TookS() != nil {
				t.Errorf("its time teaches: %+v", r)
			}
		}
		return err
	})
	if err != nil {
		t.Error(err)
	}
	var field *quantity.FieldError
	future := bench.MachineEvent{MachineID: d.machine.ID, Kinds: bench.IDs{"film"}, AtMS: d.clock.Add(48 * time.Hour).UnixMilli()}
	if _, err := d.w.Kit.AddEvent(t.Context(), future); !errors.As(err, &field) || field.Path != "at_ms" {
		t.Errorf("a knot of the day after tomorrow: %v", err)
	}
}

// A change of a print names what it changes; all else stays to the last digit, and what
// was stays in its history.
func TestAnAmendmentTouchesWhatItNames(t *testing.T) {
	d := newDesk(t)
	p := must(d.w.Printing.Prepare(t.Context(), printing.Preparation{MachineID: d.machine.ID, ProfileID: d.profile.ID, Pieces: []printing.Portion{{PieceID: d.piece.Piece.ID, Copies: 2}},
		VatFillML: quantity.Ptr(140.0), Prediction: "the staff breaks", PredictionFailPct: quantity.Ptr(30.0)}))(t)
	d.clock = d.clock.Add(12345 * time.Millisecond)
	d.happens(p, "start", nil)
	d.clock = d.clock.Add(time.Hour + 777*time.Millisecond)
	d.happens(p, "finish", nil)
	before := must(d.w.Printing.RunSheet(t.Context(), p.Run.ID))(t).Run
	// A command changes what it names, and nothing else.
	after := d.amend(before, `{"notes": "a note"}`).Run
	want := before
	want.Notes, want.Version = "a note", before.Version+1
	if !reflect.DeepEqual(after, want) {
		t.Errorf("before %+v, after %+v", before, after)
	}
	if same := d.amend(after, `{}`).Run; same.StartedMS != before.StartedMS || *same.EndedMS != *before.EndedMS || same.Prediction != before.Prediction {
		t.Errorf("nothing was named, and it became %+v", same)
	}
	now := must(d.w.Printing.RunSheet(t.Context(), p.Run.ID))(t)
	moved := d.amend(now.Run, `{"started_ms": `+strconv.FormatInt(before.StartedMS-600000, 10)+`}`)
	if moved.Run.StartedMS != before.StartedMS-600000 {
		t.Errorf("a start that was corrected is %d", moved.Run.StartedMS)
	}
	if len(moved.History) != 2 || !strings.Contains(moved.History[0].Before, `"notes":""`) || !strings.Contains(moved.History[1].Before, `"started_ms"`) {
		t.Errorf("history %+v", moved.History)
	}
	for change, path := range map[string]string{`{"machine_id": "x"}`: "machine_id", `{"our_estimate_s": 1}`: "our_estimate_s", `{"notes": 7}`: "body", `{"ended_how": "stopped"}`: "ended_how"} {
		_, err := d.w.Printing.AmendRun(t.Context(), p.Run.ID, moved.Run.Version, json.RawMessage(change), "", true)
		wantField(t, err, path)
	}
	if _, err := d.w.Printing.AmendRun(t.Context(), p.Run.ID, 1, json.RawMessage(`{"notes": "late"}`), "", true); !errors.Is(err, bench.ErrStale) {
		t.Errorf("a change made against an older version: %v", err)
	}
}

// Two who judge the same plate do not undo each other.
func TestJudgementsCarryTheirVersion(t *testing.T) {
	d := newDesk(t)
	run := d.treated()
	mine, theirs := append([]bench.Specimen{}, run.Specimens...), append([]bench.Specimen{}, run.Specimens...)
	ruin(&theirs[1], "lost", "void", "printed", "machine")
	must(d.w.Inspect.JudgeSpecimens(t.Context(), run.Run.ID, theirs[1:2]))(t)
	for i := range mine {
		mine[i].Outcome = "whole"
	}
	_, err := d.w.Inspect.JudgeSpecimens(t.Context(), run.Run.ID, mine)
	if !errors.Is(err, bench.ErrStale) || !strings.Contains(err.Error(), run.Specimens[1].Code+" is now lost void") {
		t.Errorf("the loss was overwritten: %v", err)
	}
	sheet := must(d.w.Inspect.JudgeSpecimens(t.Context(), run.Run.ID, append(mine[:1:1], mine[2:]...)))(t)
	if sheet.Specimens[0].Outcome != "whole" || sheet.Specimens[1].Outcome != "lost" || sheet.Specimens[0].Version != 2 {
		t.Errorf("%+v", sheet.Specimens[:2])
	}
	old := d.piece
	must(d.w.Kit.SaveFeatures(t.Context(), old.Piece.ID, old.FeaturesVersion, old.Features[:2]))(t)
	if _, err := d.w.Kit.SaveFeatures(t.Context(), old.Piece.ID, old.FeaturesVersion, old.Features); !errors.Is(err, bench.ErrStale) {
		t.Errorf("features made against an older version: %v", err)
	}
}

// What a print paused is left out of its time; one that was stopped teaches nothing,
// however it was entered.
func TestOnlyFinishedPrintsGiveATime(t *testing.T) {
	d := newDesk(t)
	run := d.prepared(100)
	for _, step := range []struct {
		kind string
		wait time.Duration
	}{{"start", 0}, {"pause", time.Hour}, {"resume", 30 * time.Minute}, {"finish", time.Hour}} {
		d.clock = d.clock.Add(step.wait)
		d.happens(run, step.kind, nil)
	}
	sheet := must(d.w.Printing.RunSheet(t.Context(), run.Run.ID))(t)
	if sheet.Took.S == nil || *sheet.Took.S != 7200 || sheet.Run.PausedS != 1800 || sheet.Run.EndedHow != bench.EndFinished {
		t.Errorf("took %v, paused %g, %s", sheet.Took, sheet.Run.PausedS, sheet.Run.EndedHow)
	}
	if _, err := d.w.Printing.AmendRun(t.Context(), sheet.Run.ID, sheet.Run.Version, json.RawMessage(`{"ended_how": "stopped", "paused_s": 0}`), "", true); err == nil {
		t.Error("how a print that was followed ended was rewritten")
	}
	other := d.prepared(100)
	d.happens(other, "start", nil)
	d.clock = d.clock.Add(time.Hour)
	d.happens(other, "stop", nil)
	if sheet := must(d.w.Printing.RunSheet(t.Context(), other.Run.ID))(t); sheet.Took.S != nil || !strings.Contains(sheet.Took.Reason, "stopped") {
		t.Errorf("a stopped print took %v", sheet.Took)
	}
	plate := d.laid(1)
	if plate.Time.OursN != 1 {
		t.Errorf("learned from %d prints, want the finished one", plate.Time.OursN)
	}
	// A prepared print may be completed afterwards; it is then no longer prepared.
	third := d.prepared(100).Run
	if kept := d.amend(third, `{"ended_how": "stopped", "ended_ms": `+strconv.FormatInt(third.StartedMS+1, 10)+`}`); kept.Run.EndedHow != bench.EndStopped {
		t.Errorf("ended %q", kept.Run.EndedHow)
	}
	if live := must(d.w.Printing.Live(t.Context(), third.ID))(t); live.State != bench.Recorded {
		t.Errorf("it is still %s", live.State)
	}
}

// Check finds a print whose page cannot be worked out, though its own row is fine.
func TestCheckComputesEveryPage(t *testing.T) {
	d := fullDesk(t)
	if wrong := must(d.w.Record.Check(t.Context()))(t); len(wrong) > 0 {
		t.Fatalf("a sound record: %v", wrong)
	}
	runs := must(d.w.Printing.Runs(t.Context(), printing.RunFilter{Most: 1}))(t)
	sheet := must(d.w.Printing.RunSheet(t.Context(), runs.Lines[0].ID))(t)
	endless := bench.Reading{ID: "endless", SpecimenID: sheet.Specimens[0].ID, FeatureID: d.piece.Features[0].ID, InstrumentID: &d.tool.ID, RecordedMS: 1, ValueMM: quantity.Ptr(1e308)}
	if err := d.w.Store.Write(t.Context(), func(tx *store.Tx) error { return tx.SaveReading(endless) }); err != nil {
		t.Fatal(err)
	}
	wrong := strings.Join(must(d.w.Record.Check(t.Context()))(t), "\n")
	for _, say := range []string{"reading of specimen " + sheet.Specimens[0].Code + ": value mm", "run " + sheet.Run.Code + ":"} {
		if !strings.Contains(wrong, say) {
			t.Errorf("check says %q, nothing of %q", wrong, say)
		}
	}
}
