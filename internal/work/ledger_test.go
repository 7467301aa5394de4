package work_test

import (
	"errors"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/ledger"
	"ojime/internal/work/printing"
)

// said is the row of a claim in the ledger of a review.
func said(t *testing.T, s ledger.LedgerSheet, words string) ledger.LedgerRow {
	t.Helper()
	for _, r := range s.Rows {
		if strings.Contains(r.Words, words) {
			return r
		}
	}
	t.Fatalf("no claim says %q", words)
	return ledger.LedgerRow{}
}

// Each kind of claim is held against what was measured for it, and what nobody tested stays in sight.
func TestClaimsAreHeldAgainstWhatWasMeasured(t *testing.T) {
	d, review := twoPieces(t)
	ctx := t.Context()
	other := d.machine
	other.ID, other.Code, other.Version, other.Name, other.WidthMM = "", "", 0, "Ossik 9", d.machine.WidthMM/1.2
	other.PxX = quantity.Ptr(*d.machine.PxX * 2)
	other = must(d.w.Kit.SaveMachine(ctx, other))(t).Machine
	claim := func(words, kind string, value float64, change func(*bench.LedgerClaim)) bench.LedgerClaim {
		c := bench.LedgerClaim{MachineID: &d.machine.ID, Words: words, Kind: kind, Source: "its page", Interest: "maker"}
		if value != 0 {
			c.Value = &value
		}
		if change != nil {
			change(&c)
		}
		return must(d.w.Ledger.Keep(ctx, c))(t)
	}
	claim("Prints at 500 mm an hour", bench.ClaimSpeed, 500, nil)
	claim("Half the pixels of the 9", bench.ClaimRatio, 0.5, func(c *bench.LedgerClaim) { c.AgainstID = &other.ID })
	claim("The film does 60 000 layers", bench.ClaimLife, 60000, func(c *bench.LedgerClaim) { c.Of = "film_layers" })
	claim("The filter lasts 300 hours", bench.ClaimLife, 300, func(c *bench.LedgerClaim) { c.Of = "filter_h" })
	claim("A plate of 140 mm", bench.ClaimSize, 140, func(c *bench.LedgerClaim) { c.Of = "width" })
	claim("Hardly one in a hundred fails", bench.ClaimMeasure, 1, func(c *bench.LedgerClaim) { c.Of, c.Bound = "failures", "at_most" })
	claim("Whisper quiet", bench.ClaimWords, 0, func(c *bench.LedgerClaim) { c.Interest, c.By = "paid", "a show" })
	general := claim("Nobody sees 5 µm", bench.ClaimWords, 0, func(c *bench.LedgerClaim) { c.MachineID, c.ReviewID, c.Interest = nil, &review.ID, "unknown" })
	sheet := must(d.w.Ledger.Sheet(ctx, review.ID))(t)
	for words, want := range map[string]struct{ state, says, number string }{
		"500 mm an hour":   {"not_met", "over 13 prints of this review", "500 mm/h"},
		"Half the pixels":  {"partly", "0.5 times is the pixel count", "0.5 times"},
		"60 000 layers":    {"untested", "are used so far: unproven; what it had done before the record began is not known", "film: 60 000 layers"},
		"300 hours":        {"untested", "300 h are 10 weeks at 30 h a week; ", "filter: 300 h"},
		"140 mm":           {"untested", "was not surveyed", "140 mm width"},
		"one in a hundred": {"not_met", "Barb, ", "at most 1 %"},
		"Whisper":          {"untested", "nothing was measured", ""},
		"Nobody sees":      {"untested", "nothing was measured", ""},
	} {
		r := said(t, sheet, words)
		if r.State != want.state || !strings.Contains(r.Says, want.says) || !strings.Contains(r.Number, want.number) || r.Test == "" || r.Judged {
			t.Errorf("%s: %+v", words, r)
		}
	}
	if r := said(t, sheet, "Nobody sees"); r.Subject != "the matter of this review" {
		t.Errorf("%+v", r)
	}
	if r := said(t, sheet, "Whisper"); r.Source != "a show, its page" || r.Interest != "paid" {
		t.Errorf("%+v", r)
	}
	general.State, general.Why = "untestable", "No eyes were asked, and the pieces are painted."
	must(d.w.Ledger.Keep(ctx, general))(t)
	if r := said(t, must(d.w.Ledger.Sheet(ctx, review.ID))(t), "Nobody sees"); r.State != "untestable" || !r.Judged || r.Says != general.Why {
		t.Errorf("%+v", r)
	}
	text := string(must(d.w.Publish.WriteUp(ctx, review.ID))(t))
	for _, want := range []string{"| Whisper quiet | a show, its page (was paid to say so) | untested |", "| untestable, as judged | No eyes were asked", "against Ossik 9"} {
		if !strings.Contains(text, want) {
			t.Errorf("the write-up lacks %q", want)
		}
	}
	if table := string(must(d.w.Dataset.Table(ctx, review.ID, "claims"))(t)); strings.Count(table, "\n") != 9 {
		t.Error(table)
	}
	must(d.w.Ledger.TakeBack(ctx, general.ID, "nobody says so"))(t)
	if got := must(d.w.Ledger.Sheet(ctx, review.ID))(t); len(got.Rows) != 7 {
		t.Errorf("%d rows", len(got.Rows))
	}
	if _, err := d.w.Ledger.TakeBack(ctx, general.ID, "again"); !errors.Is(err, bench.ErrConflict) {
		t.Error(err)
	}
	must(d.w.History.Restore(ctx, "claim", general.ID, ""))(t)
	if got := must(d.w.Ledger.Sheet(ctx, review.ID))(t); len(got.Rows) != 8 {
		t.Errorf("%d rows", len(got.Rows))
	}
}

// A claim that stands with the kit is in the ledger until it is taken into it, in the same words.
func TestClaimsOfTheKitStandInTheLedger(t *testing.T) {
	d := newDesk(t)
	d.resin.Claims = bench.Notes{"No smell"}
	d.resin = must(d.w.Kit.SaveResin(t.Context(), d.resin))(t).Resin
	review := d.review(func(*bench.Review) {})
	if r := said(t, must(d.w.Ledger.Sheet(t.Context(), review.ID))(t), "No smell"); r.Claim != nil || r.State != "untested" || r.ResinID != d.resin.ID {
		t.Errorf("%+v", r)
	}
	must(d.w.Ledger.Keep(t.Context(), bench.LedgerClaim{ResinID: &d.resin.ID, Words: "no smell ", Kind: bench.ClaimWords, Source: "the label", Interest: "maker", State: "not_met", Why: "Three of three smelled it."}))(t)
	sheet := must(d.w.Ledger.Sheet(t.Context(), review.ID))(t)
	if len(sheet.Rows) != 1 || sheet.Rows[0].State != "not_met" || !sheet.Rows[0].Judged {
		t.Errorf("%+v", sheet.Rows)
	}
}

func TestClaimsThatMakeNoSense(t *testing.T) {
	d := newDesk(t)
	for field, c := range map[string]bench.LedgerClaim{
		"words":      {Words: " ", Source: "x", MachineID: &d.machine.ID},
		"source":     {Words: "x", MachineID: &d.machine.ID},
		"machine_id": {Words: "x", Source: "x"},
		"value":      {Words: "x", Source: "x", Kind: bench.ClaimSpeed, MachineID: &d.machine.ID},
		"against_id": {Words: "x", Source: "x", Kind: bench.ClaimRatio, Value: quantity.Ptr(2.0), MachineID: &d.machine.ID, AgainstID: &d.machine.ID},
		"of":         {Words: "x", Source: "x", Kind: bench.ClaimLife, Value: quantity.Ptr(2.0), MachineID: &d.machine.ID},
		"bound":      {Words: "x", Source: "x", Kind: bench.ClaimMeasure, Value: quantity.Ptr(2.0), MachineID: &d.machine.ID, Of: "failures"},
		"why":        {Words: "x", Source: "x", State: "met", MachineID: &d.machine.ID},
		"resin_id":   {Words: "x", Source: "x", ResinID: quantity.Ptr("nothing")},
	} {
		if c.Kind == "" {
			c.Kind = bench.ClaimWords
		}
		c.Interest = "none"
		_, err := d.w.Ledger.Keep(t.Context(), c)
		wantField(t, err, field)
	}
}

// How things came is disclosed by itself, and stands at each finding that it touches.
func TestTheDisclosureWritesItself(t *testing.T) {
	d, review := twoPieces(t)
	ctx := t.Context()
	must(d.w.Disclosure.Tie(ctx, bench.Interest{ResinID: &d.resin.ID, How: "given", Whom: "its maker", Day: quantity.Ptr("2026-08-02"), Note: "two bottles."}))(t)
	wrong := must(d.w.Disclosure.Tie(ctx, bench.Interest{MachineID: &d.machine.ID, How: "lent"}))(t)
	must(d.w.Disclosure.TakeTieBack(ctx, wrong[0].Interest.ID, "it was bought"))(t)
	must(d.w.Disclosure.Tie(ctx, bench.Interest{MachineID: &d.machine.ID, How: "bought"}))(t)
	must(d.w.Disclosure.Tie(ctx, bench.Interest{ReviewID: &review.ID, How: "code", Whom: "a shop"}))(t)
	got := must(d.w.Disclosure.OfReview(ctx, review.ID))(t)
	var all []string
	for _, one := range got {
		all = append(all, one.Kind+" "+one.Name+": "+strings.Join(one.Says, "; "))
	}
	want := []string{"review This review: the reviewer earns by a code of a shop", "machine Ossik 7: bought by the reviewer", "resin Plain Grey: given, to keep by its maker, 2026-08-02 (two bottles)", "piece Wedge: ", "piece Barb: "}
	if strings.Join(all, "\n") != strings.Join(want, "\n") {
		t.Errorf("%s", strings.Join(all, "\n"))
	}
	row := offered(t, must(d.w.Findings.Sheet(ctx, review.ID))(t), "Barb, failures, all")
	if said := strings.Join(row.Disclosure, "\n"); !strings.Contains(said, "earns by a code") || !strings.Contains(said, "Ossik 7: bought") || !strings.Contains(said, "Plain Grey: given") || strings.Contains(said, "lent") {
		t.Error(said)
	}
	text := string(must(d.w.Publish.WriteUp(ctx, review.ID))(t))
	if !strings.Contains(text, "- Plain Grey (resin): given, to keep by its maker") || !strings.Contains(text, "- Barb (piece): how it came is not on record.") {
		t.Error(text[:1200])
	}
	_, err := d.w.Disclosure.Tie(ctx, bench.Interest{How: "bought"})
	wantField(t, err, "machine_id")
	_, err = d.w.Disclosure.Tie(ctx, bench.Interest{How: "bought", PieceID: quantity.Ptr("nothing")})
	wantField(t, err, "piece_id")
	if _, err := d.w.Disclosure.TakeTieBack(ctx, wrong[0].Interest.ID, "again"); !errors.Is(err, bench.ErrConflict) {
		t.Error(err)
	}
}

// A claimed rate is pooled over everything that the claim is about: one copy lost in a small cell decides nothing.
func TestAClaimedRateIsPooled(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	cap := d.part("Cap").Piece
	second := d.settings(func(p *bench.Profile) { p.Lift = bench.Moves{{MM: 6, MMMin: 30}} }).ID
	for i := range 8 {
		settings := d.profile.ID
		if i%2 == 1 {
			settings = second
		}
		d.mixed([]printing.Portion{{PieceID: d.piece.Piece.ID, Copies: 6}}, nil, func(r *bench.Run) { r.ProfileID = settings })
		d.clock = d.clock.Add(3 * time.Hour)
	}
	for _, settings := range []string{d.profile.ID, second} {
		lost := map[string]int{}
		if settings == second {
			lost[cap.ID] = 1
		}
		d.mixed([]printing.Portion{{PieceID: cap.ID, Copies: 1}}, lost, func(r *bench.Run) { r.ProfileID = settings })
		d.clock = d.clock.Add(3 * time.Hour)
	}
	review := d.review(func(r *bench.Review) { r.UnderTest, r.PieceIDs = bench.IDs{"motion"}, append(r.PieceIDs, cap.ID) })
	must(d.w.Ledger.Keep(ctx, bench.LedgerClaim{MachineID: &d.machine.ID, Words: "Hardly any fails", Kind: bench.ClaimMeasure, Value: quantity.Ptr(4.0), Of: "failures", Bound: "at_most", Source: "its page", Interest: "maker"}))(t)
	row := said(t, must(d.w.Ledger.Sheet(ctx, review.ID))(t), "Hardly any fails")
	if row.State != "cannot_tell" || !strings.HasPrefix(row.Says, "together 1 of 50 copies over 10 prints: 2 %") {
		t.Errorf("%s: %s", row.State, row.Says)
	}
}

// Prints with hidden exposures were lit for a time that nobody knows; that is not 0 h.
func TestALifeInHoursLitIsNotKnownOfHiddenExposures(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	sealed := must(d.w.Kit.AddProfile(ctx, bench.Profile{MachineID: d.machine.ID, ResinID: d.resin.ID, LayerUM: 50, SealedName: "House grey", Basis: "sealed"}))(t)
	for range 2 {
		d.run(func(r *bench.Run) { r.ProfileID = sealed.ID })
		d.clock = d.clock.Add(3 * time.Hour)
	}
	review := d.review(func(r *bench.Review) { r.UnderTest = bench.IDs{"motion"} })
	must(d.w.Ledger.Keep(ctx, bench.LedgerClaim{MachineID: &d.machine.ID, Words: "Good for 2,000 hours", Kind: bench.ClaimLife, Value: quantity.Ptr(2000.0), Of: "light_h", Source: "its page", Interest: "maker"}))(t)
	lit := func() ledger.LedgerRow { return said(t, must(d.w.Ledger.Sheet(ctx, review.ID))(t), "2,000 hours") }
	if row := lit(); row.State != "untested" || row.Says != "how long it was lit is not known: its 2 prints hide their exposures" {
		t.Errorf("%s: %s", row.State, row.Says)
	}
	d.run(nil)
	if row := lit(); !strings.Contains(row.Says, "not counted are 2 of 3 prints, which hide their exposures") {
		t.Errorf("%s: %s", row.State, row.Says)
	}
}
