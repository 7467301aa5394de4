package work_test

import (
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/coupon"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/planning"
)

func (d *desk) writes(change func(*store.Tx) error) {
	d.t.Helper()
	if err := d.w.Store.Write(d.t.Context(), change); err != nil {
		d.t.Fatal(err)
	}
}

// A record from before pieces were surveyed and prints knew what they printed is filled in
// from its meshes, once, and with what a new record would hold.
func TestAnOlderRecordIsFilledIn(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	run := d.run(nil).Run
	piece := d.piece.Piece
	d.writes(func(tx *store.Tx) error {
		bare, emptied := piece, run
		bare.Geometry = bench.Geometry{}
		emptied.Job, emptied.AreaMM2, emptied.OutlineMM = "", nil, nil
		if err := tx.SavePiece(bare); err != nil {
			return err
		}
		return tx.SaveRun(emptied)
	})
	if err := d.w.Kit.Survey(ctx); err != nil {
		t.Fatal(err)
	}
	if err := d.w.Printing.NoteJobs(ctx); err != nil {
		t.Fatal(err)
	}
	filled := must(d.w.Kit.Pieces(ctx))(t)[0].Piece
	if filled.Geometry.Footprint == nil || filled.Geometry.Difficulty == nil || filled.VolumeML != piece.VolumeML || filled.Version != piece.Version+1 {
		t.Errorf("surveyed %+v", filled)
	}
	noted := must(d.w.Printing.RunSheet(ctx, run.ID))(t).Run
	if noted.Job != run.Job || noted.Job == "" || *noted.AreaMM2 != *run.AreaMM2 || *noted.OutlineMM != *run.OutlineMM {
		t.Errorf("noted %q, %v mm²; was %q, %v mm²", noted.Job, *noted.AreaMM2, run.Job, *run.AreaMM2)
	}
	changes := d.w.Store.Changes()
	if err := d.w.Kit.Survey(ctx); err != nil {
		t.Fatal(err)
	}
	if err := d.w.Printing.NoteJobs(ctx); err != nil || d.w.Store.Changes() != changes {
		t.Errorf("filled in twice: %v", err)
	}
}

// What was only looked at leaves nothing behind, and is what is kept afterwards.
func TestACouponIsLookedAtBeforeItIsKept(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	params := coupon.Params{Number: 1, PostsMM: []float64{0.2, 0.3, 0.5}, SlotsMM: []float64{0.1, 0.2}, Calipers: true}
	changes := d.w.Store.Changes()
	made := must(d.w.DialIn.PreviewCoupon(ctx, params))(t)
	if d.w.Store.Changes() != changes || len(made.Picture) == 0 || made.VolumeML <= 0 || made.SizeMM[0] <= 0 {
		t.Errorf("looked at: %v mm, %v ml, %d bytes of picture", made.SizeMM, made.VolumeML, len(made.Picture))
	}
	kept := must(d.w.DialIn.KeepCoupon(ctx, "Small", params))(t)
	names := func(list []bench.Feature) (out []string) {
		for _, f := range list {
			out = append(out, f.Name)
		}
		return out
	}
	if !slices.Equal(names(made.Features), names(kept.Features)) || kept.Piece.VolumeML < 0.99*made.VolumeML || kept.Piece.VolumeML > 1.01*made.VolumeML {
		t.Errorf("kept %v, %v ml; looked at %v, %v ml", names(kept.Features), kept.Piece.VolumeML, names(made.Features), made.VolumeML)
	}
	if _, err := d.w.DialIn.PreviewCoupon(ctx, coupon.Params{PostsMM: []float64{-1}}); err == nil {
		t.Error("a post of less than nothing was drawn")
	}
}

// A mesh that no piece names is told by check and cleared; those in use stay.
func TestStrayMeshesAreToldAndCleared(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	stray := strings.Repeat("ab", 32)
	if err := d.w.Store.Meshes().Save(stray, []byte("solid nobody\nendsolid")); err != nil {
		t.Fatal(err)
	}
	wrong := must(d.w.Record.Check(ctx))(t)
	if len(wrong) != 1 || !strings.Contains(wrong[0], stray) || !strings.Contains(wrong[0], "belongs to no piece") {
		t.Errorf("check says %q", wrong)
	}
	if err := d.w.Record.Tidy(ctx); err != nil {
		t.Fatal(err)
	}
	if d.w.Store.Meshes().Has(stray) || !d.w.Store.Meshes().Has(d.piece.Piece.MeshSHA256) {
		t.Error("the wrong mesh was cleared")
	}
	if wrong := must(d.w.Record.Check(ctx))(t); len(wrong) > 0 {
		t.Errorf("after that: %q", wrong)
	}
}

// Check names what is wrong with knots too, and a mesh that was
// changed beneath it.
func TestCheckLooksAtEveryKindOfEntry(t *testing.T) {
	d := fullDesk(t)
	ctx := t.Context()
	d.writes(func(tx *store.Tx) error {
		knot := bench.MachineEvent{ID: "odd", MachineID: d.machine.ID, AtMS: 1, Kinds: bench.IDs{"upgrade"}, Changes: bench.Changes{{}}, CreatedMS: 1, Version: 1}
		return tx.SaveMachineEvent(knot)
	})
	mesh := filepath.Join(filepath.Dir(d.w.Store.TempDir()), "meshes", d.piece.Piece.MeshSHA256)
	files, err := filepath.Glob(mesh + "*")
	if err != nil || len(files) != 1 {
		t.Fatalf("%v, %v", files, err)
	}
	if err := os.WriteFile(files[0], []byte("solid other\nendsolid"), 0o600); err != nil {
		t.Fatal(err)
	}
	wrong := strings.Join(must(d.w.Record.Check(ctx))(t), "\n")
	for _, words := range []string{"knot odd (upgrade): changes[0].what", "piece " + d.piece.Piece.Code + ": its mesh file has changed"} {
		if !strings.Contains(wrong, words) {
			t.Errorf("check says nothing of %q: %s", words, wrong)
		}
	}
}

// How long a machine has run since it was switched on is known from its own feed alone.
func TestPrintsSinceAMachineWasSwitchedOnAreCounted(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	printer := d.printerOf(false)
	var last string
	seq := int64(0)
	for range 5 {
		run := d.prepared(40)
		last = run.Run.ID
		seq++
		d.receives(printer.Token, d.word(seq, 0, "printing"))
		d.clock = d.clock.Add(40 * time.Minute)
		seq++
		d.receives(printer.Token, d.word(seq, run.Run.Layers, "finished"))
		d.clock = d.clock.Add(time.Hour)
	}
	if err := d.w.Store.Read(ctx, func(tx *store.Tx) error {
		feed, err := tx.FeedOfRun(last)
		if err != nil {
			return err
		}
		n, err := tx.RunsInSession(feed.DeviceID, feed.Session, feed.Seq)
		if n != 4 {
			t.Errorf("%d prints before the fifth of a session", n)
		}
		return err
	}); err != nil {
		t.Fatal(err)
	}
	for _, c := range must(d.w.Diagnosis.Diagnose(ctx, last, "layer shift"))(t).Result.Causes {
		if c.Cause == "restart" && (len(c.Unknown) > 0 || len(c.For) != 1) {
			t.Errorf("the feed counts the prints of its session: %+v", c)
		}
	}
}

// A piece that was not surveyed yet lies on a plate by its box, and says that its
// difficulty is not known.
func TestAPieceThatWasNotSurveyedIsItsBox(t *testing.T) {
	d := newDesk(t)
	bare := d.piece.Piece
	bare.Geometry = bench.Geometry{}
	f := planning.FootprintOf(bare)
	if len(f.Outline) != 4 || f.HeightMM != bare.SizeZMM {
		t.Fatalf("%+v", f)
	}
	for _, p := range f.Outline {
		if max(p[0], -p[0]) != bare.SizeXMM/2 || max(p[1], -p[1]) != bare.SizeYMM/2 {
			t.Errorf("a corner at %v of a box of %v by %v mm", p, bare.SizeXMM, bare.SizeYMM)
		}
	}
	if words := kit.DifficultyWords(bare); words != "How hard Wedge is was not read off its slices." {
		t.Error(words)
	}
	if words := kit.DifficultyWords(d.piece.Piece); !strings.HasPrefix(words, "Wedge: 5 mm tall, largest layer ") {
		t.Error(words)
	}
}
