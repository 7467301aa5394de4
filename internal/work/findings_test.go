package work_test

import (
	"errors"
	"slices"
	"strings"
	"testing"

	"ojime/internal/bench"
	"ojime/internal/core/finding"
	"ojime/internal/work/findings"
	"ojime/internal/work/panels"
)

// offered is the row of a measure, and the piece, that a review offers.
func offered(t *testing.T, s findings.FindingsSheet, says string) findings.FoundRow {
	t.Helper()
	at := slices.IndexFunc(s.Offered, func(r findings.FoundRow) bool { return strings.Contains(r.Sentence, says) })
	if at < 0 {
		t.Fatalf("no row says %q", says)
	}
	return s.Offered[at]
}

// What is picked keeps its words and place, and what the record gives now stands beside it.
func TestFindingsArePickedPutInOrderAndInWords(t *testing.T) {
	d, review := twoPieces(t)
	sheet := must(d.w.Findings.Sheet(t.Context(), review.ID))(t)
	for i := 1; i < len(sheet.Offered); i++ {
		if finding.Rank(sheet.Offered[i-1].Grade) > finding.Rank(sheet.Offered[i].Grade) {
			t.Error("a stronger row stands after a weaker one")
		}
	}
	together := offered(t, sheet, "Time, plate by plate")
	if together.Grade == finding.NotTested || !strings.Contains(together.Link, "piece=all") || len(together.Rests) != 2 || len(together.Rests[0].RunIDs)+len(together.Rests[1].RunIDs) != 13 {
		t.Errorf("%+v", together)
	}
	failures := offered(t, sheet, "Barb, failures, all")
	if failures.Grade != finding.CannotTell || len(failures.Because) == 0 || !strings.Contains(failures.Scope, "one machine, ") || len(failures.Disclosure) != 1 {
		t.Errorf("%+v", failures)
	}
	sheet = must(d.w.Findings.Pick(t.Context(), review.ID, failures.Key, ""))(t)
	sheet = must(d.w.Findings.Pick(t.Context(), review.ID, together.Key, ""))(t)
	sheet = must(d.w.Findings.Pick(t.Context(), review.ID, "", " The lid is easy to lift off with one hand. "))(t)
	if len(sheet.Picked) != 3 || slices.ContainsFunc(sheet.Offered, func(r findings.FoundRow) bool { return r.Key == failures.Key }) {
		t.Fatalf("%d picked", len(sheet.Picked))
	}
	if own := sheet.Picked[2]; own.Says != "The lid is easy to lift off with one hand." || own.Grade() != finding.Looked || own.Now != nil || own.Changed != "" {
		t.Errorf("%+v", own)
	}
	ids := []string{sheet.Picked[2].Finding.ID, sheet.Picked[0].Finding.ID, sheet.Picked[1].Finding.ID}
	sheet = must(d.w.Findings.Order(t.Context(), review.ID, ids))(t)
	worded := sheet.Picked[1].Finding
	sheet = must(d.w.Findings.Reword(t.Context(), worded.ID, worded.Version, "Nobody can say from these which of the two fails more."))(t)
	if p := sheet.Picked[1]; p.Says != "Nobody can say from these which of the two fails more." || p.Now.Sentence != failures.Sentence || p.Finding.Original != failures.Sentence {
		t.Errorf("%+v", p)
	}
	text := string(must(d.w.Publish.WriteUp(t.Context(), review.ID))(t))
	lid, nobody := strings.Index(text, "- The lid is easy"), strings.Index(text, "- Nobody can say")
	if lid < 0 || nobody < lid || !strings.Contains(text, "As the record has it: Barb, failures") || !strings.Contains(text, "Grade: cannot tell: ") || !strings.Contains(text, "Grade: looked.") {
		t.Error(text[:min(len(text), 3000)])
	}
	table := string(must(d.w.Dataset.Table(t.Context(), review.ID, "findings"))(t))
	if strings.Count(table, "\n") != 4 || !strings.Contains(table, "Nobody can say") {
		t.Error(table)
	}
	sheet = must(d.w.Findings.TakeBack(t.Context(), worded.ID, "it says little"))(t)
	if len(sheet.Picked) != 2 {
		t.Fatalf("%d picked", len(sheet.Picked))
	}
	offered(t, sheet, "Barb, failures, all") // it is offered again
	must(d.w.History.Restore(t.Context(), "finding", worded.ID, ""))(t)
	if sheet = must(d.w.Findings.Sheet(t.Context(), review.ID))(t); len(sheet.Picked) != 3 {
		t.Error("what was taken back cannot be put back")
	}
}

func TestWhatIsNoFindingIsRefused(t *testing.T) {
	d, review := twoPieces(t)
	_, err := d.w.Findings.Pick(t.Context(), review.ID, "", "  ")
	wantField(t, err, "words")
	_, err = d.w.Findings.Pick(t.Context(), review.ID, "nothing|of|the|kind", "")
	wantField(t, err, "key")
	row := must(d.w.Findings.Sheet(t.Context(), review.ID))(t).Offered[0]
	one := must(d.w.Findings.Pick(t.Context(), review.ID, row.Key, ""))(t).Picked[0].Finding
	_, err = d.w.Findings.Pick(t.Context(), review.ID, row.Key, "") // no row is picked twice
	wantField(t, err, "key")
	if _, err := d.w.Findings.Reword(t.Context(), one.ID, one.Version+1, "x"); !errors.Is(err, bench.ErrStale) {
		t.Error(err)
	}
	for _, ids := range [][]string{{}, {"another"}, {one.ID, one.ID}} {
		_, err := d.w.Findings.Order(t.Context(), review.ID, ids)
		wantField(t, err, "ids")
	}
	must(d.w.Findings.TakeBack(t.Context(), one.ID, ""))(t)
	if _, err := d.w.Findings.TakeBack(t.Context(), one.ID, ""); !errors.Is(err, bench.ErrConflict) {
		t.Error(err)
	}
}

// A print that comes in, or goes out, changes what the record says: the finding says so.
func TestAFindingSaysThatTheRecordMovedOn(t *testing.T) {
	d, review := twoPieces(t)
	row := offered(t, must(d.w.Findings.Sheet(t.Context(), review.ID))(t), "Barb, failures, all")
	must(d.w.Findings.Pick(t.Context(), review.ID, row.Key, ""))(t)
	must(d.w.Reviews.LeaveOut(t.Context(), review.ID, bench.LeftOut{RunID: row.Rests[0].RunIDs[0], Reason: "another firmware by mistake"}))(t)
	p := must(d.w.Findings.Sheet(t.Context(), review.ID))(t).Picked[0]
	if p.Now == nil || p.Now.Sentence == row.Sentence || p.Finding.Original != row.Sentence || !strings.Contains(p.Changed, row.Sentence) || p.Says != p.Now.Sentence {
		t.Errorf("%+v", p)
	}
	for _, id := range append(slices.Clone(row.Rests[0].RunIDs[1:]), row.Rests[1].RunIDs...) {
		must(d.w.Reviews.LeaveOut(t.Context(), review.ID, bench.LeftOut{RunID: id, Reason: "all of them were of another batch"}))(t)
	}
	p = must(d.w.Findings.Sheet(t.Context(), review.ID))(t).Picked[0]
	if p.Now != nil || !strings.Contains(p.Changed, "no longer has this row") || p.Says != row.Sentence || p.Grade() != row.Grade {
		t.Errorf("%+v", p)
	}
}

// What a closed panel showed is a finding with how blind it was; a sealed one offers nothing.
func TestAClosedPanelIsAFinding(t *testing.T) {
	d, review, setups := motionsSeen(t)
	sealed, behind := d.coded(d.voters(review, setups, nil))
	d.votes(sealed, 8, forArm(behind, 1))
	asked := func() findings.FindingsSheet { return must(d.w.Findings.Sheet(t.Context(), review.ID))(t) }
	if slices.ContainsFunc(asked().Offered, func(r findings.FoundRow) bool { return r.Question == "panel" }) {
		t.Fatal("a sealed panel offers a finding")
	}
	must(d.w.Panels.Close(t.Context(), sealed.Panel.ID, panels.Closing{}))(t)
	row := offered(t, asked(), "“Which is crisper?” Blind judges showed it: ")
	if row.Grade != finding.Showed || !strings.Contains(row.Scope, "8 judges") || !strings.Contains(row.Scope, "raw, in hand, daylight") || len(row.Rests) != 2 || len(row.Rests[0].Runs) != 1 || len(row.Disclosure) != 1 || len(row.Beside) == 0 {
		t.Errorf("%+v", row)
	}
	picked := must(d.w.Findings.Pick(t.Context(), review.ID, row.Key, ""))(t).Picked[0]
	if picked.Finding.PanelID == nil || picked.Now == nil || picked.Changed != "" || picked.Finding.Code != "N-01" {
		t.Errorf("%+v", picked)
	}
	if text := string(must(d.w.Publish.WriteUp(t.Context(), review.ID))(t)); !strings.Contains(text, "Grade: showed.") {
		t.Error("the write-up lacks its grade")
	}
}

// A symptom that was seen on either side is offered as a finding, counted over copies and prints and no more than looked.
func TestASymptomIsAFinding(t *testing.T) {
	d, review := twoPriced(t)
	sheet := must(d.w.Findings.Sheet(t.Context(), review.ID))(t)
	row := offered(t, sheet, ": seen on ")
	if row.Grade != "looked" || !strings.Contains(row.Because[0], "not tested against chance") || len(row.Rests) != 2 || row.Scope == "" || row.Rests[0].Figure == "" {
		t.Errorf("%+v", row)
	}
	picked := must(d.w.Findings.Pick(t.Context(), review.ID, row.Key, ""))(t).Picked
	if len(picked) != 1 || picked[0].Now == nil || picked[0].Changed != "" || picked[0].Says != row.Sentence {
		t.Errorf("%+v", picked)
	}
}
