package work_test

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"reflect"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/mesh"
	"ojime/internal/core/quantity"
	"ojime/internal/work/kit"
	"ojime/internal/work/printing"
	"ojime/internal/work/shorthand"
	"ojime/internal/work/task"
)

// byPage is a context of a command that a page asks for.
func byPage(t *testing.T, n int) context.Context {
	says := fmt.Sprint("command ", n)
	return task.WithCommand(t.Context(), task.Command{ID: says, Asked: says, Says: says})
}

// plainly is a record without its history, its versions, and the hash of itself.
func plainly(t *testing.T, d *desk) any {
	t.Helper()
	var out any
	if err := json.Unmarshal(exported(t, d.w), &out); err != nil {
		t.Fatal(err)
	}
	delete(out.(map[string]any), "amendments")
	delete(out.(map[string]any), "exported_ms")
	var strip func(any)
	strip = func(v any) {
		switch v := v.(type) {
		case map[string]any:
			delete(v, "version")
			for _, e := range v {
				strip(e)
			}
		case []any:
			for _, e := range v {
				strip(e)
			}
		}
	}
	strip(out)
	return out
}

// Whatever a page asks for is undone to the last field, and done again by undoing that.
func TestEveryCommandOfTheLastMinutesIsUndone(t *testing.T) {
	d := newDesk(t)
	d.withVat(100, 10)
	run := d.run(nil)
	prepared := d.prepared(60)
	plate := d.laid(2)
	photo := d.photographed(run, 0, edgePNG(t, 2), nil)
	d.stressed()
	reading := []bench.Reading{{SpecimenID: run.Specimens[0].ID, FeatureID: d.piece.Features[2].ID, State: quantity.Ptr("present")}}
	commands := map[string]func(context.Context) error{
		"change a machine": func(ctx context.Context) error {
			m := must(d.w.Kit.Machines(ctx))(t)[0].Machine
			m.Notes, m.PowerW = "loud", 60
			_, err := d.w.Kit.SaveMachine(ctx, m)
			return err
		},
		"a bottle": func(ctx context.Context) error {
			_, err := d.w.Kit.SaveBottle(ctx, bench.Bottle{ResinID: d.resin.ID, Lot: "9"})
			return err
		},
		"settings": func(ctx context.Context) error {
			p := d.profile
			p.ID, p.ExposureS, p.ParentID = "", quantity.Ptr(2.2), &d.profile.ID
			_, err := d.w.Kit.AddProfile(ctx, p)
			return err
		},
		"a piece": func(ctx context.Context) error {
			_, err := d.w.Kit.ImportPiece(ctx, kit.NewPiece{Name: "Twin", Revision: "1", FileName: "twin.stl", File: kit.MeshBytes(mesh.WriteSTL(wedge()))}, nil)
			return err
		},
		"features": func(ctx context.Context) error {
			twin := must(d.w.Kit.Pieces(ctx))(t)[0]
			_, err := d.w.Kit.SaveFeatures(ctx, twin.Piece.ID, twin.FeaturesVersion, append(twin.Features, bench.Feature{Kind: "checkpoint", Name: "Foot"}))
			return err
		},
		"a print": func(ctx context.Context) error {
			r := run.Run
			r.ID, r.Code, r.Version, r.StartedMS, r.EndedMS = "", "", 0, d.clock.UnixMilli(), quantity.Ptr(d.clock.Add(time.Hour).UnixMilli())
			_, err := d.w.Printing.RecordRun(ctx, d.recording(r, 2))
			return err
		},
		"a corrected print": func(ctx context.Context) error {
			now := must(d.w.Printing.RunSheet(ctx, run.Run.ID))(t).Run
			_, err := d.w.Printing.AmendRun(ctx, now.ID, now.Version, json.RawMessage(`{"room_temp_c":19,"notes":"x"}`), "read anew", true)
			return err
		},
		"outcomes": func(ctx context.Context) error {
			list := must(d.w.Printing.RunSheet(ctx, run.Run.ID))(t).Specimens
			list[0].Outcome = "whole"
			ruin(&list[1], "lost", "let go midway", "printed", "machine")
			_, err := d.w.Inspect.JudgeSpecimens(ctx, run.Run.ID, list)
			return err
		},
		"readings": func(ctx context.Context) error {
			_, err := d.w.Inspect.RecordReadings(ctx, run.Run.ID, reading, false)
			return err
		},
		"a knot": func(ctx context.Context) error {
			_, err := d.w.Kit.AddEvent(ctx, bench.MachineEvent{MachineID: d.machine.ID, AtMS: d.clock.UnixMilli(), Kinds: bench.IDs{"film", "relevel"}})
			return err
		},
		"a photograph": func(ctx context.Context) error {
			_, err := d.w.Photographs.Keep(ctx, d.taken(run, 1, edgePNG(t, 3), nil), nil)
			return err
		},
		"a photograph taken back": func(ctx context.Context) error {
			_, err := d.w.Photographs.TakeBack(ctx, photo.ID, "dark", false)
			return err
		},
		"a review": func(ctx context.Context) error {
			_, err := d.w.Reviews.SaveReview(ctx, bench.Review{Question: "Which?", Policy: "maker_default", MachineIDs: bench.IDs{d.machine.ID}, ResinIDs: bench.IDs{d.resin.ID}, PieceIDs: bench.IDs{d.piece.Piece.ID}})
			return err
		},
		"a prepared print": func(ctx context.Context) error {
			fill := 70.0
			_, err := d.w.Printing.Prepare(ctx, printing.Preparation{MachineID: d.machine.ID, PlateID: &plate.Plate.ID, ProfileID: d.profile.ID, BottleID: &d.bottle.ID, VatFillML: &fill})
			return err
		},
		"ticks": func(ctx context.Context) error {
			_, err := d.w.Printing.SkipOpen(ctx, prepared.Run.ID, "a test")
			return err
		},
		"light": func(ctx context.Context) error {
			_, err := d.w.FirstDays.MeasureLight(ctx, d.machine.ID, bench.LightGrid{Readings: bench.GridRows{{1, 2}, {2, 2}}})
			return err
		},
		"a line": func(ctx context.Context) error {
			seen := must(d.w.Shorthand.Understand(ctx, "relevel Ossik closer"))(t)
			_, err := d.w.Shorthand.Keep(ctx, shorthand.Saying{Text: "relevel Ossik closer", Says: seen.Says, Confirmed: true})
			return err
		},
	}
	n := 0
	for what, do := range commands {
		before := plainly(t, d)
		n++
		if err := do(byPage(t, n)); err != nil {
			t.Errorf("%s: %v", what, err)
			continue
		}
		after := plainly(t, d)
		done := d.w.Recent()
		if len(done) == 0 || done[0].Says != fmt.Sprint("command ", n) || done[0].Rows == 0 || done[0].Of == "" || done[0].Reason != "" {
			t.Errorf("%s is not among what was done: %+v", what, done)
			continue
		}
		if reflect.DeepEqual(before, after) {
			t.Errorf("%s changes nothing that is exported", what)
		}
		list, err := d.w.Undo(byPage(t, 1000+n), done[0].ID)
		if err != nil {
			t.Errorf("undo %s: %v", what, err)
			continue
		}
		if undone := plainly(t, d); !reflect.DeepEqual(undone, before) {
			t.Errorf("%s is not undone: %s", what, firstDifference("", before, undone))
		}
		if list[0].Says != fmt.Sprint("Undo: command ", n) || list[1].UndoneMS == nil {
			t.Errorf("after undoing %s: %+v", what, list[:2])
		}
		if _, err := d.w.Undo(byPage(t, 2000+n), list[0].ID); err != nil {
			t.Errorf("do %s again: %v", what, err)
		}
		if again := plainly(t, d); !reflect.DeepEqual(again, after) {
			t.Errorf("%s is not done again: %s", what, firstDifference("", after, again))
		}
	}
	if wrong := must(d.w.Record.Check(t.Context()))(t); len(wrong) > 0 {
		t.Errorf("check: %v", wrong)
	}
}

// firstDifference says where two trees of JSON differ.
func firstDifference(at string, a, b any) string {
	if reflect.DeepEqual(a, b) {
		return ""
	}
	switch a := a.(type) {
	case map[string]any:
		for name := range a {
			if there, ok := b.(map[string]any); ok {
				if says := firstDifference(at+"."+name, a[name], there[name]); says != "" {
					return says
				}
			}
		}
	case []any:
		if there, ok := b.([]any); ok && len(there) == len(a) {
			for i := range a {
				if says := firstDifference(fmt.Sprint(at, "[", i, "]"), a[i], there[i]); says != "" {
					return says
				}
			}
		}
	}
	return fmt.Sprintf("%s: %v, then %v", at, a, b)
}

func TestWhatCannotBeUndoneSaysWhy(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	run := d.run(nil)
	photo := d.photographed(run, 0, edgePNG(t, 2), nil)
	must(d.w.Photographs.TakeBack(byPage(t, 1), photo.ID, "of a person", true))(t)
	_, err := d.w.Undo(byPage(t, 2), "command 1")
	wantField(t, err, "id")
	if !strings.Contains(err.Error(), "its files were erased for good") {
		t.Errorf("%v", err)
	}
	bottle := must(d.w.Kit.SaveBottle(byPage(t, 3), bench.Bottle{ResinID: d.resin.ID}))(t)
	must(d.w.Kit.CorrectBottle(byPage(t, 4), bottle.ID, bottle.Version, json.RawMessage(`{"lot":"7"}`), "read anew"))(t)
	if _, err := d.w.Undo(byPage(t, 5), "command 3"); !errors.Is(err, bench.ErrConflict) || !strings.Contains(err.Error(), "a bottle was changed since") {
		t.Errorf("a bottle that was corrected since: %v", err)
	}
	must(d.w.Undo(byPage(t, 6), "command 4"))(t)
	if _, err := d.w.Undo(byPage(t, 7), "command 4"); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("undone twice: %v", err)
	}
	// The same command again is the same undoing, and what came of another page's is not its own.
	if list := must(d.w.Undo(byPage(t, 8), "command 6"))(t); list[0].Says != "Do again: command 4" {
		t.Errorf("%+v", list[0])
	}
	if _, err := d.w.Undo(byPage(t, 9), "nothing"); !errors.Is(err, bench.ErrNotFound) {
		t.Errorf("what was never done: %v", err)
	}
	d.clock = d.clock.Add(16 * time.Minute)
	if list := d.w.Recent(); len(list) != 0 {
		t.Errorf("after 16 minutes %+v", list)
	}
	// What was undone stays in the history, field by field.
	history := must(d.w.History.Of(ctx, "bottle", bottle.ID))(t)
	said := []string{}
	for _, a := range history {
		said = append(said, a.Command+" "+a.Before)
	}
	if len(said) != 3 || said[1] != `Undo: command 4 {"lot":"7"}` {
		t.Errorf("history %q", said)
	}
}
