package work_test

import (
	"bytes"
	"errors"
	"reflect"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/preflight"
	"ojime/internal/core/quantity"
	"ojime/internal/work/firstdays"
)

// levelled is the desk's machine levelled, its corners read.
func (d *desk) levelled() firstdays.Levellings {
	d.t.Helper()
	return must(d.w.FirstDays.LevelMachine(d.t.Context(), d.machine.ID, bench.Levelling{How: "four screws, a card under the plate", BeforeMM: bench.Sizes{0.1, 0.02, -0.11, 0}, AfterMM: bench.Sizes{0.02, 0, 0.01, 0.04},
		ZeroMM: quantity.Ptr(0.1), Ends: bench.LevelEnds}))(d.t)
}

func TestALevelIsVerifiedByItsFirstLayerUntilSomethingEndsIt(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	d.withVat(100, 10)
	if got := must(d.w.FirstDays.Levellings(ctx, d.machine.ID))(t); got.Says != "When it was levelled is not on record." || !reflect.DeepEqual(got.Usual, bench.LevelEnds) {
		t.Errorf("%+v", got)
	}
	got := d.levelled()
	if got.Levellings[0].Says != "corners within 0.21 mm before; corners within 0.04 mm after; zero 0.1 mm; first layer not looked at" || got.Says != "Levelled 0 days ago, and not verified by a first layer." {
		t.Errorf("%q, %q", got.Levellings[0].Says, got.Says)
	}
	if knot := must(d.w.FirstDays.Levellings(ctx, d.machine.ID))(t).Levellings[0].MachineEventID; knot == "" {
		t.Error("no knot was tied")
	}
	id := got.Levellings[0].ID
	d.clock = d.clock.Add(time.Hour)
	seen := must(d.w.FirstDays.SeeFirstLayer(ctx, d.machine.ID, id, "even", "32 squares"))(t)
	if !strings.HasPrefix(seen.Says, "Verified on 2026-09-01") || !strings.HasSuffix(seen.Levellings[0].Says, "first layer even: verified (32 squares)") {
		t.Errorf("%q, %q", seen.Says, seen.Levellings[0].Says)
	}
	if change := d.last("levelling", id); change.Before != `{"first_layer":"","first_layer_note":""}` || change.Code != d.machine.Code {
		t.Errorf("%+v", change)
	}
	inside := d.run(nil)
	prepared := d.prepared(60)
	d.clock = d.clock.Add(time.Hour)
	must(d.w.Kit.AddEvent(ctx, bench.MachineEvent{MachineID: d.machine.ID, AtMS: d.clock.UnixMilli(), Kinds: bench.IDs{"vat_clean"}}))(t)
	if now := must(d.w.FirstDays.Levellings(ctx, d.machine.ID))(t); now.Level.EndedBy != "" {
		t.Errorf("a cleaned vat ends it: %+v", now.Level)
	}
	must(d.w.Kit.AddEvent(ctx, bench.MachineEvent{MachineID: d.machine.ID, AtMS: d.clock.UnixMilli(), Kinds: bench.IDs{"film"}}))(t)
	if now := must(d.w.FirstDays.Levellings(ctx, d.machine.ID))(t); now.Says != "Verified on 2026-09-01, and ended since by: film." {
		t.Errorf("%q", now.Says)
	}
	d.clock = d.clock.Add(time.Hour)
	outside := d.run(nil)
	for _, c := range []struct{ id, ended string }{{inside.Run.ID, ""}, {outside.Run.ID, "film"}} {
		if l := must(d.w.Printing.RunSheet(ctx, c.id))(t).Condition.Level; l.VerifiedMS == nil || l.EndedBy != c.ended {
			t.Errorf("a print, ended by %q: %+v", c.ended, l)
		}
	}
	level := item(t, must(d.w.Printing.Live(ctx, prepared.Run.ID))(t), "level")
	if level.State != preflight.Fine || !strings.Contains(level.Fact, "Verified by a first layer on 2026-09-01.") {
		t.Errorf("%+v", level)
	}
	review := must(d.w.Reviews.SaveReview(ctx, bench.Review{Question: "Which?", Policy: "maker_default", MachineIDs: bench.IDs{d.machine.ID}, ResinIDs: bench.IDs{d.resin.ID}, PieceIDs: bench.IDs{d.piece.Piece.ID}}))(t)
	text := string(must(d.w.Publish.WriteUp(ctx, review.ID))(t))
	for _, want := range []string{"level verified 2026-09-01", "outside its verified level, ended by: film"} {
		if !strings.Contains(text, want) {
			t.Errorf("the write-up lacks %q", want)
		}
	}

	// It travels; levelled again, it is not verified; taken back, its knot is retired with it.
	other := newEmpty(t, d)
	must(other.Record.Import(ctx, bytes.NewReader(exported(t, d.w))))(t)
	if there := must(other.FirstDays.Levellings(ctx, d.machine.ID))(t); len(there.Levellings) != 1 || there.Levellings[0].Says != seen.Levellings[0].Says {
		t.Errorf("there %+v", there)
	}
	again := d.levelled()
	if again.Level.VerifiedMS != nil || len(again.Levellings) != 2 {
		t.Errorf("levelled again: %+v", again.Level)
	}
	back := must(d.w.FirstDays.TakeLevellingBack(ctx, d.machine.ID, again.Levellings[0].ID, "the wrong machine"))(t)
	if back.Level.VerifiedMS == nil || back.Levellings[0].TakenBackWhy != "the wrong machine" {
		t.Errorf("taken back: %+v", back)
	}
	if _, err := d.w.FirstDays.SeeFirstLayer(ctx, d.machine.ID, again.Levellings[0].ID, "even", ""); !errors.Is(err, bench.ErrNotFound) {
		t.Errorf("the first layer of what was taken back: %v", err)
	}
}

func TestWhatIsNoLevellingIsRefused(t *testing.T) {
	d := newDesk(t)
	for field, l := range map[string]bench.Levelling{
		"before_mm":   {BeforeMM: bench.Sizes{0.1}},
		"after_mm[1]": {AfterMM: bench.Sizes{0.1, 120}},
		"ends[0]":     {Ends: bench.IDs{"rain"}},
		"at_ms":       {AtMS: d.clock.Add(72 * time.Hour).UnixMilli()},
	} {
		_, err := d.w.FirstDays.LevelMachine(t.Context(), d.machine.ID, l)
		wantField(t, err, field)
	}
}
