package work_test

import (
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"testing"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/history"
	"ojime/internal/work/task"
)

// last is the newest change of an entry.
func (d *desk) last(kind, id string) history.EntryChange {
	d.t.Helper()
	list := must(d.w.History.Of(d.t.Context(), kind, id))(d.t)
	if len(list) == 0 {
		d.t.Fatalf("nothing was changed of %s %s", kind, id)
	}
	return list[len(list)-1]
}

func TestAChangeIsPutBackFromTheHistory(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	run := d.run(nil)
	review := must(d.w.Reviews.SaveReview(ctx, bench.Review{Question: "Which?", Policy: "maker_default", MachineIDs: bench.IDs{d.machine.ID}, ResinIDs: bench.IDs{d.resin.ID}, PieceIDs: bench.IDs{d.piece.Piece.ID}}))(t)
	knot := must(d.w.Kit.AddEvent(ctx, bench.MachineEvent{MachineID: d.machine.ID, AtMS: d.clock.UnixMilli(), Kinds: bench.IDs{"film"}}))(t)
	list := run.Specimens
	ruin(&list[0], "lost", "let go midway", "printed", "machine")
	judged := must(d.w.Inspect.JudgeSpecimens(ctx, run.Run.ID, list[:1]))(t)

	for _, c := range []struct {
		kind, id string
		change   func() error
		is       func() string
		was      string
	}{
		{"machine", d.machine.ID, func() error {
			m := d.machine
			m.Name, m.PowerW = "Ossik 8", 70
			_, err := d.w.Kit.SaveMachine(ctx, m)
			return err
		}, func() string { return must(d.w.Kit.Machines(ctx))(t)[0].Machine.Name }, "Ossik 7"},
		{"resin", d.resin.ID, func() error {
			r := d.resin
			r.DensityGML = nil
			_, err := d.w.Kit.SaveResin(ctx, r)
			return err
		}, func() string { return fmt.Sprint(quantity.Or(must(d.w.Kit.Resins(ctx))(t)[0].Resin.DensityGML, 0)) }, "1.1"},
		{"bottle", d.bottle.ID, func() error {
			_, err := d.w.Kit.CorrectBottle(ctx, d.bottle.ID, d.bottle.Version, json.RawMessage(`{"lot":"7"}`), "read anew")
			return err
		}, func() string { return must(task.ReadOne(ctx, d.w.Base, d.bottle.ID, (*store.Tx).Bottle))(t).Lot }, ""},
		{"run", run.Run.ID, func() error {
			_, err := d.w.Printing.AmendRun(ctx, run.Run.ID, run.Run.Version, json.RawMessage(`{"room_temp_c":31,"notes":"warm"}`), "", true)
			return err
		}, func() string { return must(d.w.Printing.RunSheet(ctx, run.Run.ID))(t).Run.Notes }, ""},
		{"review", review.ID, func() error {
			review.Question = "Who?"
			_, err := d.w.Reviews.SaveReview(ctx, review)
			return err
		}, func() string { return must(d.w.Reviews.Reviews(ctx))(t)[0].Question }, "Which?"},
		{"machine_event", knot.ID, func() error {
			_, err := d.w.Kit.CorrectEvent(ctx, knot.ID, knot.Version, json.RawMessage(`{"note":"a film of another lot"}`), "forgotten")
			return err
		}, func() string { return must(task.ReadOne(ctx, d.w.Base, knot.ID, (*store.Tx).MachineEvent))(t).Note }, ""},
		{"profile", d.profile.ID, func() error {
			_, err := d.w.Kit.NameProfile(ctx, d.profile.ID, d.profile.Version, "Plain", "x")
			return err
		}, func() string { return must(d.w.Kit.SettingsCards(ctx))(t)[0].Profile.Name }, ""},
		{"instrument", d.tool.ID, func() error {
			_, err := d.w.Instruments.RenameInstrument(ctx, d.tool.ID, d.tool.Version, "Long caliper")
			return err
		}, func() string { return must(d.w.Instruments.InstrumentCards(ctx))(t)[0].Instrument.Name }, "Caliper"},
		{"specimen", list[0].ID, func() error {
			whole := judged.Specimens[0]
			whole.Outcome, whole.Defects = "whole", nil
			_, err := d.w.Inspect.JudgeSpecimens(ctx, run.Run.ID, []bench.Specimen{whole})
			return err
		}, func() string {
			s := must(d.w.Printing.RunSheet(ctx, run.Run.ID))(t).Specimens[0]
			return s.Outcome + " by " + s.FailedBy
		}, "lost by machine"},
	} {
		if err := c.change(); err != nil {
			t.Errorf("%s: %v", c.kind, err)
			continue
		}
		change := d.last(c.kind, c.id)
		if c.is() == c.was || !change.PutBack || change.Code == "" {
			t.Errorf("%s is %q after %+v", c.kind, c.is(), change)
		}
		after, err := d.w.History.PutBack(ctx, change.ID, "a slip")
		if err != nil {
			t.Errorf("put a %s back: %v", c.kind, err)
			continue
		}
		if c.is() != c.was || len(after) < 2 {
			t.Errorf("%s is %q after it was put back, want %q; %d changes", c.kind, c.is(), c.was, len(after))
		}
		// Its fields are not as that change left them any more.
		if _, err := d.w.History.PutBack(ctx, change.ID, ""); !errors.Is(err, bench.ErrConflict) || !strings.Contains(err.Error(), "was changed again since") {
			t.Errorf("put a %s back twice: %v", c.kind, err)
		}
	}

	all := must(d.w.History.All(ctx, "", 0))(t)
	some := must(d.w.History.All(ctx, "run", 0))(t)
	if len(all) < 18 || len(some) != 2 || some[0].Code != run.Run.Code || some[0].Link != "/runs/"+run.Run.ID || len(must(d.w.History.All(ctx, "run", 1))(t)) != 1 {
		t.Errorf("%d of all, of runs %+v", len(all), some)
	}
	if _, err := d.w.History.PutBack(ctx, "nothing", ""); !errors.Is(err, bench.ErrNotFound) {
		t.Errorf("put nothing back: %v", err)
	}
}

func TestWhatIsNotPutBackSaysWhere(t *testing.T) {
	d := newDesk(t)
	plate := d.laid(1)
	must(d.w.Planning.WithdrawPlate(t.Context(), plate.Plate.ID, plate.Plate.Version, "not now"))(t)
	change := d.last("plate", plate.Plate.ID)
	if change.PutBack || change.Code != plate.Plate.Code {
		t.Errorf("%+v", change)
	}
	if _, err := d.w.History.PutBack(t.Context(), change.ID, ""); !errors.Is(err, bench.ErrConflict) || !strings.Contains(err.Error(), "on its own page") {
		t.Errorf("%v", err)
	}
}
