package work_test

import (
	"testing"

	"ojime/internal/bench"
	"ojime/internal/core/evidence"
	"ojime/internal/core/mesh"
	"ojime/internal/core/quantity"
	"ojime/internal/work/kit"
	"ojime/internal/work/printing"
	"ojime/internal/work/tally"
)

// part imports a wedge under another name: the same solid, another piece.
func (d *desk) part(name string) kit.PieceCard {
	d.t.Helper()
	return must(d.w.Kit.ImportPiece(d.t.Context(), kit.NewPiece{Name: name, Revision: "1", FileName: name + ".stl", File: kit.MeshBytes(mesh.WriteSTL(wedge()))}, nil))(d.t)
}

// mixed records a print of several pieces, all of it judged: the first lost of each
// piece are lost.
func (d *desk) mixed(portions []printing.Portion, lost map[string]int, change func(*bench.Run)) printing.RunSheet {
	d.t.Helper()
	r := must(d.w.Printing.DraftRun(d.t.Context(), d.machine.ID))(d.t).Run
	r.ResinID, r.BottleID, r.ProfileID, r.StartedMS = d.resin.ID, &d.bottle.ID, d.profile.ID, d.clock.UnixMilli()
	r.EndedMS, r.ResinUsedG = quantity.Ptr(r.StartedMS+30*60*1000), quantity.Ptr(22.0)
	if change != nil {
		change(&r)
	}
	sheet := must(d.w.Printing.RecordRun(d.t.Context(), printing.Recording{Run: r, Pieces: portions, Confirmed: true}))(d.t)
	left := map[string]int{}
	for id, n := range lost {
		left[id] = n
	}
	for i := range sheet.Specimens {
		s := &sheet.Specimens[i]
		if s.Outcome = "whole"; left[s.PieceID] > 0 {
			ruin(s, "lost", "void", "printed", "machine")
			left[s.PieceID]--
		}
	}
	return must(d.w.Inspect.JudgeSpecimens(d.t.Context(), sheet.Run.ID, sheet.Specimens))(d.t)
}

func TestAnAssemblyIsOneModelOverSeveralPlates(t *testing.T) {
	d := newDesk(t)
	body, wing := d.part("Body"), d.part("Wing")
	made := must(d.w.Tally.SaveAssembly(t.Context(), bench.Assembly{Name: "Drake", Parts: bench.Parts{{PieceID: body.Piece.ID, Copies: 1}, {PieceID: wing.Piece.ID, Copies: 2}}}))(t)
	if made.Complete != 0 || len(made.Makers) != 0 || !quantity.Equal(made.VolumeML, 3*1.5) {
		t.Errorf("nothing printed: %+v", made)
	}
	find := func() tally.AssemblySheet {
		t.Helper()
		return must(d.w.Tally.Assemblies(t.Context()))(t)[0]
	}
	d.mixed([]printing.Portion{{PieceID: body.Piece.ID, Copies: 3}}, nil, nil)
	half := find()
	if half.Complete != 0 || half.Missing != "Wing" || half.Parts[0].Complete != 3 || half.Makers[0].TimeS != nil || half.Makers[0].Reason != "Wing was not printed here." {
		t.Errorf("bodies alone: %+v", half)
	}
	// Five wings, one of them lost: two whole drakes, and two failures of eight at most.
	d.mixed([]printing.Portion{{PieceID: wing.Piece.ID, Copies: 5}}, map[string]int{wing.Piece.ID: 1}, nil)
	whole := find()
	if whole.Complete != 2 || whole.Missing != "Wing" || whole.Parts[1].Good != 4 || whole.Parts[1].Counts.Failed != 1 {
		t.Errorf("complete %d, wanting %s: %+v", whole.Complete, whole.Missing, whole.Parts)
	}
	m := whole.Makers[0]
	if m.Judged != 8 || m.Failed != 1 || m.Wholes != 2 || len(m.Runs) != 2 || *m.Rate.Rate != 0.125 {
		t.Errorf("%+v", m)
	}
	// A print of both parts is one.
	d.mixed([]printing.Portion{{PieceID: body.Piece.ID, Copies: 1}, {PieceID: wing.Piece.ID, Copies: 1}}, nil, nil)
	if again := find().Makers[0]; len(again.Runs) != 3 {
		t.Errorf("three prints are %v", again.Runs)
	}
	// Copies of one print share its fate: the interval is wider than that of eight by themselves.
	alone := must(evidence.Rate(evidence.Count{Events: 1, Trials: 8}))(t)
	if m.Rate.CI == nil || m.Rate.CI[1] <= alone.CI[1] {
		t.Errorf("the interval %v counts copies, as %v does", m.Rate.CI, alone.CI)
	}
	// A body takes a third of its plate's half hour; two wings two fifths of theirs.
	if want := 1800.0/3 + 2*1800.0/5; m.TimeS == nil || !quantity.Equal(*m.TimeS, want) {
		t.Errorf("a whole takes %v s, want %v", m.TimeS, want)
	}
	// 22 g at 1.1 g/ml is 20 ml a plate.
	if want := 20.0/3 + 2*20.0/5; m.ResinML == nil || !quantity.Equal(*m.ResinML, want) {
		t.Errorf("a whole takes %v ml, want %v", m.ResinML, want)
	}
	if m.Cost == nil || *m.Cost <= 0 {
		t.Errorf("a whole costs %v (%s)", m.Cost, m.Reason)
	}
}

// Parts on one plate share its time and resin by their volume.
func TestPartsOfOnePlateShareIt(t *testing.T) {
	d := newDesk(t)
	body, wing := d.part("Body"), d.part("Wing")
	must(d.w.Tally.SaveAssembly(t.Context(), bench.Assembly{Name: "Drake", Parts: bench.Parts{{PieceID: body.Piece.ID, Copies: 1}, {PieceID: wing.Piece.ID, Copies: 1}}}))(t)
	d.mixed([]printing.Portion{{PieceID: body.Piece.ID, Copies: 2}, {PieceID: wing.Piece.ID, Copies: 2}}, nil, nil)
	m := must(d.w.Tally.Assemblies(t.Context()))(t)[0].Makers[0]
	if m.TimeS == nil || !quantity.Equal(*m.TimeS, 1800.0/2) || m.Wholes != 2 || len(m.Runs) != 1 {
		t.Errorf("half a plate of half an hour each: %+v", m)
	}
}

func TestAnAssemblyThatCannotBeIsRefused(t *testing.T) {
	d := newDesk(t)
	body := d.part("Body").Piece.ID
	for field, parts := range map[string]bench.Parts{
		"parts":             nil,
		"parts[0].piece_id": {{PieceID: "nothing", Copies: 1}},
		"parts[1].piece_id": {{PieceID: body, Copies: 1}, {PieceID: body, Copies: 2}},
	} {
		_, err := d.w.Tally.SaveAssembly(t.Context(), bench.Assembly{Name: "Drake", Parts: parts})
		wantField(t, err, field)
	}
	if kept := must(d.w.Tally.Assemblies(t.Context()))(t); len(kept) != 0 {
		t.Errorf("kept %+v", kept)
	}
}

// A mixed plate is named, counted and listed by each of its pieces.
func TestAMixedPlateIsToldByItsPieces(t *testing.T) {
	d := newDesk(t)
	body, wing := d.part("Body"), d.part("Wing")
	sheet := d.mixed([]printing.Portion{{PieceID: body.Piece.ID, Copies: 2}, {PieceID: wing.Piece.ID, Copies: 1}}, map[string]int{wing.Piece.ID: 1}, nil)
	if sheet.Printed != "2 × Body, 1 × Wing" {
		t.Errorf("it is called %q", sheet.Printed)
	}
	for _, by := range []struct {
		piece  string
		copies int64
		failed int64
	}{{body.Piece.ID, 2, 0}, {wing.Piece.ID, 1, 1}} {
		lines := must(d.w.Printing.Runs(t.Context(), printing.RunFilter{PieceID: by.piece, Most: 10}))(t).Lines
		if len(lines) != 1 || lines[0].ID != sheet.Run.ID {
			t.Errorf("a list by piece has %+v", lines)
		}
		for _, p := range lines[0].Pieces {
			if p.PieceID == by.piece && (p.Counts.Specimens != by.copies || p.Counts.Failed != by.failed) {
				t.Errorf("%+v, want %d copies and %d failed", p, by.copies, by.failed)
			}
		}
	}
	rates := must(d.w.Tally.FailureRates(t.Context()))(t)
	for _, row := range rates.Pieces {
		if want := map[string]int64{"Body": 0, "Wing": 1}[row.Name]; row.Specimens.Failed != want {
			t.Errorf("%s has %d failures, want %d", row.Name, row.Specimens.Failed, want)
		}
	}
}
