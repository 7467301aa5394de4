package work_test

import (
	"bytes"
	"errors"
	"image/jpeg"
	"regexp"
	"slices"
	"strings"
	"testing"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/panels"
)

// pictured is a sealed panel of photographs of two set-ups, two of each, taken in different sizes.
func (d *desk) pictured(judges int64) (panels.PanelSheet, []bench.Pictured) {
	d.t.Helper()
	review := d.review(func(*bench.Review) {})
	var taken []bench.Pictured
	for i := range 2 {
		settings := d.settings(func(p *bench.Profile) { p.Lift = bench.Moves{{MM: 5 + float64(i), MMMin: 50}} })
		run := d.seen(settings.ID, 2, 0, 30, 0.2, 30*60*1e9)
		for copy := range 2 {
			taken = append(taken, d.photographed(run, copy, edgePNG(d.t.(*testing.T), 2+float64(i)+0.3*float64(copy)), nil))
		}
	}
	p := bench.Panel{Kind: "preference", Shows: "photographs", Question: "Which is sharper?", Stage: "raw", Station: "in_hand", Light: "a lamp", Judges: judges}
	for _, arm := range must(d.w.Panels.Choices(d.t.Context(), review.ID))(d.t).Arms {
		if len(arm.Photographs) == 2 {
			p.Arms = append(p.Arms, bench.PanelArm{ProfileID: arm.ProfileID, Since: arm.Since, PieceID: arm.PieceID, ItemIDs: bench.IDs{arm.Photographs[0].ID, arm.Photographs[1].ID}})
		}
	}
	made := must(d.w.Panels.Make(d.t.Context(), review.ID, p))(d.t)
	return must(d.w.Panels.Seal(d.t.Context(), made.Panel.ID))(d.t), taken
}

// A picture of a ballot is none of the files on record: it is drawn anew, all of one size, and only for the codes of
// that ballot.
func TestAPictureOfABallotTellsNothing(t *testing.T) {
	d := newDesk(t)
	sheet, taken := d.pictured(2)
	if sheet.Panel.CodedBy != "program" || sheet.Left != 0 || sheet.State != panels.Voting {
		t.Fatalf("%+v", sheet)
	}
	token := sheet.Ballots[0].Token
	ballot := must(d.w.Panels.Ballot(t.Context(), token))(t)
	for _, code := range slices.Concat(ballot.Trials...) {
		shown := must(d.w.Panels.Picture(t.Context(), token, code))(t)
		config, err := jpeg.DecodeConfig(bytes.NewReader(shown))
		if err != nil || config.Width != 1000 || config.Height != 1000 {
			t.Errorf("%s: %d × %d, %v", code, config.Width, config.Height, err)
		}
		for _, p := range taken {
			for _, file := range []string{p.CopySHA256, p.SmallSHA256} {
				if kept := must(d.w.Store.Photographs().Read(file))(t); bytes.Equal(kept, shown) {
					t.Errorf("%s is the file %.8s", code, file)
				}
			}
		}
	}
	others := slices.DeleteFunc(slices.Clone(sheet.Cards), func(c string) bool { return slices.Contains(slices.Concat(ballot.Trials...), c) })
	for _, code := range append(others, "ZZ9") {
		if _, err := d.w.Panels.Picture(t.Context(), token, code); !errors.Is(err, bench.ErrNotFound) {
			t.Errorf("%s, which is not of this ballot: %v", code, err)
		}
	}
}

// A page to guess on holds pictures and codes and no name; a file of answers counts once, takes a free ballot where its
// own was cast, and is refused where it is none.
func TestFilesOfAnswers(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	sheet, taken := d.pictured(2)
	id := sheet.Panel.ID
	name, page, err := d.w.Panels.GuessPage(ctx, id)
	if err != nil || name != "which-is-which-V1.html" || bytes.Count(page, []byte("data:image/jpeg;base64,")) < 2 {
		t.Fatalf("%s: %d bytes, %v", name, len(page), err)
	}
	for _, p := range taken {
		if bytes.Contains(page, []byte(p.Code)) || bytes.Contains(page, []byte(p.ID)) {
			t.Errorf("the page names %s", p.Code)
		}
	}
	if regexp.MustCompile(`S-\d{3}-\d{2}|Ossik`).Match(page) {
		t.Error("the page names a copy or a machine")
	}
	file := panels.AnswersFile{Format: panels.AnswersFormat, Panel: "V1", Ballot: 1, Mark: "abcdefghij", Answers: bench.BallotAnswers{{Place: 0, Sure: quantity.Ptr(int64(2))}}, Knew: quantity.Ptr(false), KnewBy: "nothing"}
	for field, spoil := range map[string]func(*panels.AnswersFile){
		"format": func(f *panels.AnswersFile) { f.Format = "another" }, "panel": func(f *panels.AnswersFile) { f.Panel = "V2" }, "mark": func(f *panels.AnswersFile) { f.Mark = "../../etc/passwd" },
		"ballot": func(f *panels.AnswersFile) { f.Ballot = 3 }, "answers": func(f *panels.AnswersFile) { f.Answers = nil }, "answers[0].place": func(f *panels.AnswersFile) { f.Answers = bench.BallotAnswers{{Place: 2}} },
	} {
		bad := file
		spoil(&bad)
		_, err := d.w.Panels.Take(ctx, id, bad)
		t.Run(field, func(t *testing.T) { wantField(t, err, field) })
	}
	first := must(d.w.Panels.Take(ctx, id, file))(t)
	if first.Cast != 1 || first.Ballots[0].Way != "file" || first.Ballots[0].CastMS == nil {
		t.Errorf("%+v", first.Ballots)
	}
	if _, err := d.w.Panels.Take(ctx, id, file); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("the same file again: %v", err)
	}
	file.Mark = "klmnopqrst" // somebody else was given the same ballot
	if second := must(d.w.Panels.Take(ctx, id, file))(t); second.Cast != 2 {
		t.Errorf("%+v", second.Ballots)
	}
	file.Mark = "uvwxyz0123"
	if _, err := d.w.Panels.Take(ctx, id, file); !errors.Is(err, bench.ErrConflict) || !strings.Contains(err.Error(), "all 2 ballots are cast") {
		t.Errorf("one too many: %v", err)
	}
	if _, _, err := d.w.Panels.GuessPage(ctx, id); err == nil {
		t.Error("a page for a panel without a free ballot")
	}
	closed := must(d.w.Panels.Close(ctx, id, panels.Closing{}))(t)
	if closed.Shown.Result.Judges != 2 || closed.Shown.Knew.Said != 0 || len(closed.Shown.Knew.By) != 0 {
		t.Errorf("%+v", closed.Shown)
	}
	if got := closed.Shown.Grade; !strings.HasPrefix(got, "double-blind: the program coded") {
		t.Errorf("%q", got)
	}
}

// What may tell set-ups apart is said before the seal, and mended it is said no more.
func TestWhatMayTellThemApart(t *testing.T) {
	d := newDesk(t)
	review := d.review(func(*bench.Review) {})
	thin := d.settings(func(p *bench.Profile) { p.LayerUM = 30 })
	thick := d.settings(func(p *bench.Profile) { p.LayerUM = 50 })
	runs := []string{d.seen(thin.ID, 2, 0, 30, 0.2, 30*60*1e9).Run.ID, d.seen(thick.ID, 2, 0, 30, 0.2, 30*60*1e9).Run.ID}
	p := bench.Panel{Kind: "preference", Shows: "specimens", Question: "Which is smoother?", Stage: "primed", Station: "in_hand", Light: "a lamp", Judges: 6}
	for i, arm := range must(d.w.Panels.Choices(t.Context(), review.ID))(t).Arms {
		of := bench.PanelArm{ProfileID: arm.ProfileID, Since: arm.Since, PieceID: arm.PieceID, ItemIDs: bench.IDs{arm.Specimens[0].ID}}
		if i == 0 {
			of.ItemIDs = append(of.ItemIDs, arm.Specimens[1].ID)
		}
		p.Arms = append(p.Arms, of)
	}
	made := must(d.w.Panels.Make(t.Context(), review.ID, p))(t)
	says := strings.Join(made.Tells, "\n")
	for _, want := range []string{"Layer height: ", "30 µm", "50 µm", "The lines themselves may tell", "One copy stands for ", "is raw, and the panel is of what is primed", "Not on record: a raft left on"} {
		if !strings.Contains(says, want) {
			t.Errorf("tells %q, nothing of %q", says, want)
		}
	}
	for _, run := range runs {
		sheet := must(d.w.Printing.RunSheet(t.Context(), run))(t)
		must(d.reaches(sheet, "primed", 5, 0, 1))(t)
	}
	if again := strings.Join(must(d.w.Panels.Panel(t.Context(), made.Panel.ID))(t).Tells, "\n"); strings.Contains(again, "is raw") || !strings.Contains(again, "Layer height") {
		t.Errorf("once primed: %q", again)
	}
}
