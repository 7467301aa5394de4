package work_test

import (
	"errors"
	"strings"
	"testing"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
)

func TestWhatAnnoysAndPleasesOfAMachine(t *testing.T) {
	d := newDesk(t)
	note := func(r bench.Remark) []string {
		return must(d.w.FirstDays.Remark(t.Context(), d.machine.ID, r))(t).Says
	}
	note(bench.Remark{Kind: "pleasure", About: "Lid", What: "It stays where it is left.", Often: "every_print", Weight: 2, Rater: "Marn"})
	note(bench.Remark{Kind: "annoyance", About: "lid ", What: "one screw rattles", Often: "now_and_then", Weight: 1})
	says := note(bench.Remark{Kind: "annoyance", About: "cleaning", What: "resin runs under the panel", Often: "once", Weight: 5, ForWhom: "small benches"})
	today := "2026-09-01"
	want := []string{
		"cleaning: annoys, once, weight 5 of 5 (resin runs under the panel; for small benches, " + today + ")",
		"lid: annoys, now and then, weight 1 of 5 (one screw rattles, " + today + "); pleases, every print, weight 2 of 5 (It stays where it is left; says Marn, " + today + ")",
	}
	if strings.Join(says, "\n") != strings.Join(want, "\n") {
		t.Errorf("%q\nwant %q", says, want)
	}
	for field, r := range map[string]bench.Remark{"about": {Kind: "annoyance", About: " ", What: "x", Often: "once", Weight: 1}, "what": {Kind: "annoyance", About: "lid", Often: "once", Weight: 1}, "weight": {Kind: "annoyance", About: "lid", What: "x", Often: "once"}} {
		var wrong *quantity.FieldError
		if _, err := d.w.FirstDays.Remark(t.Context(), d.machine.ID, r); !errors.As(err, &wrong) || wrong.Path != field {
			t.Errorf("%s: %v", field, err)
		}
	}
	all := must(d.w.FirstDays.RemarksOn(t.Context(), d.machine.ID))(t)
	left := must(d.w.FirstDays.TakeRemarkBack(t.Context(), d.machine.ID, all.Remarks[0].ID, "a seal was fitted"))(t)
	if len(left.Says) != 1 || len(left.Remarks) != 3 || left.Remarks[0].TakenBackWhy != "a seal was fitted" {
		t.Errorf("%+v", left)
	}
	if _, err := d.w.FirstDays.TakeRemarkBack(t.Context(), d.machine.ID, all.Remarks[0].ID, "again"); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("taken back twice: %v", err)
	}
	review := must(d.w.Reviews.SaveReview(t.Context(), bench.Review{Question: "Which?", Policy: "maker_default", MachineIDs: bench.IDs{d.machine.ID}, ResinIDs: bench.IDs{d.resin.ID}, PieceIDs: bench.IDs{d.piece.Piece.ID}}))(t)
	d.run(nil)
	text := string(must(d.w.Publish.WriteUp(t.Context(), review.ID))(t))
	if !strings.Contains(text, "## What annoys and what pleases") || !strings.Contains(text, "  - "+left.Says[0]+".") || strings.Contains(text, "under the panel") {
		t.Error(text)
	}
}
