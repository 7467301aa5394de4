package work_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/contest"
	"ojime/internal/core/quantity"
	"ojime/internal/work/compare"
	"ojime/internal/work/experiment"
	"ojime/internal/work/printing"
)

// upgraded prints two pieces before and after a knot that is claimed to save three tenths of
// the time; after it a print takes so much of the time before. Only the wedge is printed in
// ash, so that resin tells nothing.
func upgraded(t *testing.T, share float64, claimed *float64, changes ...bench.Change) experiment.ChangeSet {
	t.Helper()
	return newDesk(t).upgraded(share, claimed, changes...)
}

func (d *desk) upgraded(share float64, claimed *float64, changes ...bench.Change) experiment.ChangeSet {
	t := d.t
	t.Helper()
	cap := d.part("Cap").Piece
	fast := d.settings(func(p *bench.Profile) { p.Lift = bench.Moves{{MM: 6, MMMin: 180}} }).ID
	print := func(piece, settings string, minutes float64) {
		d.mixed([]printing.Portion{{PieceID: piece, Copies: 2}}, nil, func(r *bench.Run) {
			r.ProfileID, r.EndedMS = settings, quantity.Ptr(r.StartedMS+int64(60_000*minutes))
		})
		d.clock = d.clock.Add(5 * time.Hour)
	}
	for i := range 3 {
		print(d.piece.Piece.ID, d.profile.ID, 60+0.1*float64(i))
		print(cap.ID, d.profile.ID, 120+0.1*float64(i))
	}
	knot := must(d.w.Kit.AddEvent(t.Context(), bench.MachineEvent{MachineID: d.machine.ID, AtMS: d.clock.UnixMilli(), Kinds: bench.IDs{"upgrade"}, Note: "second edition", ClaimedTimePct: claimed,
		Changes: changes}))(t)
	d.clock = d.clock.Add(time.Hour)
	for i := range 2 {
		print(d.piece.Piece.ID, fast, 60*share+0.1*float64(i))
		print(cap.ID, fast, 120*share+0.1*float64(i))
	}
	return must(d.w.Experiment.ChangeSet(t.Context(), knot.ID))(t)
}

func TestAnUpgradeIsHeldAgainstThePrintsBeforeIt(t *testing.T) {
	set := upgraded(t, 0.8, quantity.Ptr(70.0), bench.Change{What: "lift", From: "60", To: "180", Undoable: true}, bench.Change{What: "film type", To: "matt"})
	e := set.Effect
	if e == nil || len(e.Sides) != 2 || e.Sides[0].Label != "Before" || len(e.Sides[0].RunIDs) != 6 || len(e.Sides[1].RunIDs) != 4 {
		t.Fatalf("%+v, %q", e, set.EffectReason)
	}
	if !slices.Equal(e.UnderTest, []string{"motion", "film_type"}) {
		t.Errorf("under test %v", e.UnderTest)
	}
	var time *float64
	for _, m := range e.Measures {
		if m.Key == "time matched" {
			time = m.Pairs[0].Difference
		}
	}
	if time == nil || *time < 0.79 || *time > 0.81 {
		t.Errorf("it takes %v of the time", time)
	}
	if e.Verdict != "not_met" || !strings.HasPrefix(e.Claim, "Claimed: a print takes 70 % of the time before. Measured: 80") || !strings.HasSuffix(e.Claim, ", over 2 kinds of plates: the claim is not met.") {
		t.Errorf("%s: %q", e.Verdict, e.Claim)
	}
	for _, a := range e.Audits {
		// Motion came with it, so it does not stand in the way.
		if slices.ContainsFunc(a.Why, func(w string) bool { return strings.HasPrefix(w, "Motion") }) {
			t.Errorf("%s: %v", a.Question, a.Why)
		}
	}
	if len(e.Audits) != 6 || !slices.ContainsFunc(e.Sentences, func(s string) bool {
		return strings.HasPrefix(s, "Time, plate by plate: after against before 0.8 times")
	}) {
		t.Errorf("%d audits; says %q", len(e.Audits), e.Sentences)
	}
}

func TestAClaimOfAnUpgradeIsMetOrCannotBeTold(t *testing.T) {
	if e := upgraded(t, 0.65, quantity.Ptr(70.0)).Effect; e.Verdict != "met" || !strings.HasSuffix(e.Claim, "the claim is met.") {
		t.Errorf("%s: %q", e.Verdict, e.Claim)
	}
	if e := upgraded(t, 0.7, quantity.Ptr(70.0)).Effect; e.Verdict != "cannot_tell" || !strings.HasSuffix(e.Claim, "whether the claim is met cannot be told.") {
		t.Errorf("%s: %q", e.Verdict, e.Claim)
	}
	if unnamed := upgraded(t, 0.7, nil).Effect; !slices.Equal(unnamed.UnderTest, []string{"motion", "accessories", "panel", "firmware"}) {
		t.Errorf("an upgrade that names no change tests %v", unnamed.UnderTest)
	}
	if e := upgraded(t, 0.7, nil).Effect; e.Verdict != "" || e.Claim != "" {
		t.Errorf("nothing was claimed: %s: %q", e.Verdict, e.Claim)
	}
}

// How long taking supports off took is no print time: a claim on print time is decided as it was before that was timed.
func TestAClaimOnPrintTimeIsHeldAgainstPrintTimeAlone(t *testing.T) {
	d := newDesk(t)
	set := d.upgraded(0.6, quantity.Ptr(70.0))
	said := set.Effect.Claim
	for i, id := range slices.Concat(set.Effect.Sides[0].RunIDs, set.Effect.Sides[1].RunIDs) {
		begun := d.clock.UnixMilli()
		took := int64(10*60_000 + i*1000)
		must(d.w.Aftercare.SaveStep(t.Context(), id, bench.ProcessStep{Kind: "supports", StartedMS: begun, EndedMS: quantity.Ptr(begun + took), How: "by hand", Scars: "light"}))(t)
		d.clock = d.clock.Add(time.Hour)
	}
	e := must(d.w.Experiment.ChangeSet(t.Context(), set.Event.ID))(t).Effect
	if !slices.ContainsFunc(e.Measures, func(m contest.Measure) bool { return strings.HasPrefix(m.Key, "removal ") }) {
		t.Fatal("taking supports off is no row")
	}
	if e.Verdict != "met" || e.Claim != said {
		t.Errorf("%s: %q, before it was timed %q", e.Verdict, e.Claim, said)
	}
}

func TestAKnotWithoutPrintsOnBothSidesSaysSo(t *testing.T) {
	d := newDesk(t)
	d.runOf(2, nil)
	d.clock = d.clock.Add(3 * time.Hour)
	knot := must(d.w.Kit.AddEvent(t.Context(), bench.MachineEvent{MachineID: d.machine.ID, AtMS: d.clock.UnixMilli(), Kinds: bench.IDs{"film"}}))(t)
	set := must(d.w.Experiment.ChangeSet(t.Context(), knot.ID))(t)
	if set.Effect != nil || !strings.HasPrefix(set.EffectReason, "No piece was printed in one resin both before and after it") {
		t.Errorf("%+v, %q", set.Effect, set.EffectReason)
	}
}

// A side that mixes resins is compared resin by resin, where resin is not under test.
func TestResinsThatASideMixesAreNotAveraged(t *testing.T) {
	d := newDesk(t)
	ash := d.resin
	ash.ID, ash.Code, ash.Version, ash.Name = "", "", 0, "Ash"
	ash = must(d.w.Kit.SaveResin(t.Context(), ash))(t).Resin
	inAsh := d.settings(func(p *bench.Profile) { p.ResinID = ash.ID }).ID
	var sides [2][]string
	for side := range 2 {
		for i := range 3 {
			for _, resin := range []string{d.resin.ID, ash.ID} {
				run := d.mixed([]printing.Portion{{PieceID: d.piece.Piece.ID, Copies: 2}}, nil, func(r *bench.Run) {
					minutes := 60 + 10*side + i
					if resin == ash.ID {
						r.ResinID, r.ProfileID, r.BottleID, minutes = ash.ID, inAsh, nil, 2*minutes
					}
					r.EndedMS = quantity.Ptr(r.StartedMS + int64(minutes)*60_000)
				})
				sides[side] = append(sides[side], run.Run.ID)
				d.clock = d.clock.Add(4 * time.Hour)
			}
		}
	}
	req := compare.ComparisonRequest{Sides: sides[:], Question: "time"}
	c := must(d.w.Reviews.Compare(t.Context(), req))(t)
	if m := measure(t, c, "time 2 × Wedge in Ash"); m.Sides[0].Prints != 3 || *m.Sides[0].Value < 7200 {
		t.Errorf("%+v", m.Sides)
	}
	if p := measure(t, c, "time matched").Pairs[0]; p.Kinds != 2 {
		t.Errorf("%+v", p)
	}
	req.UnderTest = []string{"resin"}
	if m := measure(t, must(d.w.Reviews.Compare(t.Context(), req))(t), "time "); m.Sides[0].Prints != 6 {
		t.Errorf("resin is under test: %+v", m.Sides)
	}
}

func TestAReviewListsWhatIsClaimedWithWhatWasMeasured(t *testing.T) {
	d := newDesk(t)
	d.machine.ClaimedMMH = quantity.Ptr(100.0)
	d.machine = must(d.w.Kit.SaveMachine(t.Context(), d.machine))(t).Machine
	other := d.machine
	other.ID, other.Code, other.Version, other.Name, other.ClaimedMMH = "", "", 0, "Ossik 9", quantity.Ptr(80.0)
	other = must(d.w.Kit.SaveMachine(t.Context(), other))(t).Machine
	d.upgraded(0.8, quantity.Ptr(70.0))
	must(d.w.Kit.AddEvent(t.Context(), bench.MachineEvent{MachineID: other.ID, AtMS: d.clock.UnixMilli(), Kinds: bench.IDs{"upgrade"}, ClaimedTimePct: quantity.Ptr(50.0)}))(t)
	review := must(d.w.Reviews.SaveReview(t.Context(), bench.Review{Question: "Is it worth it?", Policy: "same_settings", MachineIDs: bench.IDs{d.machine.ID, other.ID}, ResinIDs: bench.IDs{d.resin.ID}, PieceIDs: bench.IDs{d.piece.Piece.ID}}))(t)
	got := must(d.w.Ledger.Sheet(t.Context(), review.ID))(t).Rows
	if len(got) != 4 {
		t.Fatalf("%d claims: %+v", len(got), got)
	}
	for i, want := range []struct{ machine, claimed, verdict, says string }{
		{d.machine.Name, "100 mm/h", "not_met", "100 mm/h claimed: the claim is not met"}, {d.machine.Name, "70 % of the time before, by upgrade", "not_met", "over 2 kinds of plates: the claim is not met"},
		{"Ossik 9", "80 mm/h", "untested", "not tested"}, {"Ossik 9", "50 % of the time before", "untested", "not tested: No piece was printed"},
	} {
		c := got[i]
		if c.Subject != want.machine || !strings.HasPrefix(c.Words, want.claimed) || c.State != want.verdict || !strings.Contains(c.Says, want.says) {
			t.Errorf("claim %d is %+v, want %+v", i, c, want)
		}
	}
	text := string(must(d.w.Publish.WriteUp(t.Context(), review.ID))(t))
	if !strings.Contains(text, "## What is claimed") || !strings.Contains(text, "| Ossik 9 | 80 mm/h | with the machine (its maker) | untested | not tested |") {
		t.Errorf("the write-up does not list the claims:\n%s", text)
	}
}
