package work_test

import (
	"bytes"
	"encoding/json"
	"slices"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/findings"
	"ojime/internal/work/panels"
	"ojime/internal/work/record"
	"ojime/internal/work/reviews"
)

// A panel goes out sealed: another record takes votes on it, and opens it with what the first one tells once it
// has closed there.
func TestASealedPanelTravels(t *testing.T) {
	d, review, setups := motionsSeen(t)
	ctx := t.Context()
	sealed, behind := d.coded(d.voters(review, setups, func(p *bench.Panel) { p.Judges, p.Repeats, p.Same = 2, 0, 0 }))
	var export bytes.Buffer
	if err := d.w.Record.Export(ctx, &export); err != nil {
		t.Fatal(err)
	}
	there := &desk{t: t, w: newEmpty(t, d)}
	must(there.w.Record.Import(ctx, bytes.NewReader(export.Bytes())))(t)
	id := sealed.Panel.ID
	copied := must(there.w.Panels.Panel(ctx, id))(t)
	if !copied.Elsewhere || copied.State != panels.Voting || len(copied.Cards) != 0 {
		t.Fatalf("%+v", copied)
	}
	there.votes(copied, 2, forArm(behind, 0))
	for _, opening := range []string{"", "abc", strings.Repeat("0", 64)} {
		_, err := there.w.Panels.Close(ctx, id, panels.Closing{Opening: opening})
		wantField(t, err, "opening")
	}
	d.votes(sealed, 2, forArm(behind, 1))
	home := must(d.w.Panels.Close(ctx, id, panels.Closing{}))(t)
	opened := must(there.w.Panels.Close(ctx, id, panels.Closing{Opening: home.Opening}))(t)
	if a, b := home.Shown.Result.Pairs[0].Ballots, opened.Shown.Result.Pairs[0].Ballots; a.B != 2 || b.A != 2 {
		t.Errorf("at home %+v, there %+v", a, b)
	}
	// Closed it travels whole.
	export.Reset()
	if err := there.w.Record.Export(ctx, &export); err != nil {
		t.Fatal(err)
	}
	third := newEmpty(t, d)
	must(third.Record.Import(ctx, bytes.NewReader(export.Bytes())))(t)
	if got := must(third.Panels.Panel(ctx, id))(t); got.Shown == nil || got.Shown.Says[0] != opened.Shown.Says[0] {
		t.Errorf("%+v", got)
	}
}

// polled closes a panel of two set-ups, printed for it, on which two judges voted.
func (d *desk) polled(review bench.Review) panels.PanelSheet {
	d.t.Helper()
	for i := range 2 {
		settings := d.settings(func(p *bench.Profile) { p.Lift = bench.Moves{{MM: 5 + float64(i), MMMin: 50}} })
		d.seen(settings.ID, 3, 0, 30, 0.2, 30*time.Minute)
	}
	setups := must(d.w.Reviews.SetUps(d.t.Context(), review.ID))(d.t)
	choices := must(d.w.Panels.Choices(d.t.Context(), review.ID))(d.t)
	var with []reviews.SetUp
	for i, arm := range choices.Arms {
		if len(arm.Specimens) >= 2 {
			with = append(with, setups[i])
		}
	}
	p := bench.Panel{Kind: "preference", Shows: "specimens", Question: "Which is crisper?", Stage: "raw", Station: "in_hand", Light: "daylight", Judges: 3, Repeats: 1, Same: 1}
	for _, s := range with[:2] {
		arm := choices.Arms[slices.IndexFunc(choices.Arms, func(a panels.ArmChoice) bool { return a.ProfileID == s.ProfileID && a.Since == s.Since })]
		p.Arms = append(p.Arms, bench.PanelArm{ProfileID: arm.ProfileID, Since: arm.Since, PieceID: arm.PieceID, ItemIDs: bench.IDs{arm.Specimens[0].ID, arm.Specimens[1].ID}})
	}
	sealed, behind := d.coded(must(d.w.Panels.Make(d.t.Context(), review.ID, p))(d.t))
	d.votes(sealed, 2, forArm(behind, 0))
	return must(d.w.Panels.Close(d.t.Context(), sealed.Panel.ID, panels.Closing{EarlyWhy: "one did not come"}))(d.t)
}

// found publishes what the closed panel of a review showed, and a row of its comparison.
func (d *desk) found(review bench.Review) {
	d.t.Helper()
	sheet := must(d.w.Findings.Sheet(d.t.Context(), review.ID))(d.t)
	at := slices.IndexFunc(sheet.Offered, func(r findings.FoundRow) bool { return r.Question == "panel" })
	must(d.w.Findings.Pick(d.t.Context(), review.ID, sheet.Offered[at].Key, ""))(d.t)
	at = slices.IndexFunc(sheet.Offered, func(r findings.FoundRow) bool { return r.Question == "failure" })
	must(d.w.Findings.Pick(d.t.Context(), review.ID, sheet.Offered[at].Key, ""))(d.t)
	must(d.w.Ledger.Keep(d.t.Context(), bench.LedgerClaim{MachineID: &d.machine.ID, Words: "Lasts 2000 hours", Kind: bench.ClaimLife, Value: quantity.Ptr(2000.0), Of: "light_h", Source: "the box", Interest: "maker"}))(d.t)
	must(d.w.Readers.Begin(d.t.Context(), review.ID, "army"))(d.t)
	must(d.w.Money.Ask(d.t.Context(), bench.Price{MachineID: &d.machine.ID, Day: "2026-02-01", State: "list", Source: "a shop"}))(d.t)
	must(d.w.Money.Equip(d.t.Context(), bench.Equipment{MachineID: d.machine.ID, Item: "a filter", Need: "included"}))(d.t)
	must(d.w.Money.Budgeted(d.t.Context(), review.ID, bench.Budget{PiecesPerYear: 100, Years: 2}))(d.t)
	must(d.w.Reviews.FollowUp(d.t.Context(), review.ID, bench.FollowUp{Question: "Does it still hold?", DueDay: "2027-01-01"}))(d.t)
	must(d.w.Reviews.WriteUpAs(d.t.Context(), review.ID, must(d.w.Reviews.Review(d.t.Context(), review.ID))(d.t).Version, bench.Blocks{{Key: "own-1", Text: "Said between."}}))(d.t)
	must(d.w.Publish.Publish(d.t.Context(), review.ID, "as it stands", false))(d.t)
	must(d.w.Disclosure.Tie(d.t.Context(), bench.Interest{ResinID: &d.resin.ID, How: "given", Whom: "its maker"}))(d.t)
}

// Whatever is wrong with a panel in a file is named, and nothing of the file is written.
func TestABrokenPanelIsNamed(t *testing.T) {
	d := newDesk(t)
	review := d.review(func(*bench.Review) {})
	d.polled(review)
	d.found(review)
	text := exported(t, d.w)
	other := newEmpty(t, d)
	for at, spoil := range map[string]func(*record.Record){
		"panels[0].question":         func(r *record.Record) { r.Panels[0].Question = " " },
		"panels[0].review_id":        func(r *record.Record) { r.Panels[0].ReviewID = "x" },
		"panels[0].id":               func(r *record.Record) { r.PanelSeals = r.PanelSeals[:0] },
		"panels[0].closed_ms":        func(r *record.Record) { r.PanelSeals[0].PanelKey = "" },
		"panels[0].key_sha256":       func(r *record.Record) { r.Panels[0].KeySHA256 = strings.Repeat("0", 64) },
		"panels[0].arms[1].item_ids": func(r *record.Record) { r.Panels[0].Arms[1].ItemIDs[0] = "x" },
		"panels[0].judges":           func(r *record.Record) { r.Ballots = r.Ballots[1:] },
		"panels[0].kind":             func(r *record.Record) { r.Ballots[1].Trials[0] = nil },
		"panels[0].codes":            func(r *record.Record) { r.Ballots[1].Trials[0][1] = "none" },
		"panels[0].answers[0].place": func(r *record.Record) { r.Ballots[0].Answers[0].Place = 2 },
		"panel_seals[1].panel_id":    func(r *record.Record) { r.PanelSeals = append(r.PanelSeals, r.PanelSeals[0]) },
		"panel_seals[0].panel_id":    func(r *record.Record) { r.PanelSeals[0].PanelID = "x" },
		"readers[0].review_id":       func(r *record.Record) { r.Readers[0].ReviewID = "x" },
		"readers[0].criteria":        func(r *record.Record) { r.Readers[0].Criteria = nil },
		"prices[0].machine_id":       func(r *record.Record) { r.Prices[0].MachineID = quantity.Ptr("x") },
		"prices[0].day":              func(r *record.Record) { r.Prices[0].Day = "2026" },
		"equipment[0].machine_id":    func(r *record.Record) { r.Equipment[0].MachineID = "x" },
		"equipment[0].need":          func(r *record.Record) { r.Equipment[0].Need = "maybe" },
		"budgets[0].review_id":       func(r *record.Record) { r.Budgets[0].ReviewID = "x" },
		"budgets[0].years":           func(r *record.Record) { r.Budgets[0].Years = 0 },
		"budgets[0].paths[0].measured_on": func(r *record.Record) {
			r.Budgets[0].Paths = bench.BudgetPaths{{Name: "new", MeasuredOn: &bench.SetUpRef{ProfileID: "x"}}}
		},
		"publications[0].review_id":                      func(r *record.Record) { r.Publications[0].ReviewID = "x" },
		"follow_ups[0].review_id":                        func(r *record.Record) { r.FollowUps[0].ReviewID = "x" },
		"follow_ups[0].due_day":                          func(r *record.Record) { r.FollowUps[0].DueDay = "soon" },
		"reviews[0].blocks[0].text":                      func(r *record.Record) { r.Reviews[0].Blocks[0].Text = " " },
		"reviews[0].blocks[0].pictures[0].photograph_id": func(r *record.Record) { r.Reviews[0].Blocks[0].Pictures = bench.BlockPictures{{PhotographID: "x"}} },
		"claims[0].machine_id":                           func(r *record.Record) { r.Claims[0].MachineID = quantity.Ptr("x") },
		"claims[0].against_id":                           func(r *record.Record) { r.Claims[0].AgainstID = quantity.Ptr("x") },
		"claims[0].of":                                   func(r *record.Record) { r.Claims[0].Of = "years" },
		"interests[0].resin_id":                          func(r *record.Record) { r.Interests[0].ResinID = quantity.Ptr("x") },
		"interests[0].machine_id":                        func(r *record.Record) { r.Interests[0].MachineID = quantity.Ptr(r.Machines[0].ID) },
		"interests[0].how":                               func(r *record.Record) { r.Interests[0].How = "found" },
		"findings[0].review_id":                          func(r *record.Record) { r.Findings[0].ReviewID = "x" },
		"findings[0].panel_id":                           func(r *record.Record) { r.Findings[0].PanelID = quantity.Ptr("x") },
		"findings[0].words":                              func(r *record.Record) { r.Findings[0].PanelID = nil },
		"findings[0].sides":                              func(r *record.Record) { r.Findings[0].PanelID, r.Findings[0].Measure = nil, "failures" },
		"findings[0].grade":                              func(r *record.Record) { r.Findings[0].Grade = "proves" },
		"findings[1].sides[0]":                           func(r *record.Record) { r.Findings[1].Sides[0].ProfileID = "x" },
		"ballots[0].panel_id":                            func(r *record.Record) { r.Ballots[0].PanelID = "x" },
	} {
		broken := recordOf(t, text)
		spoil(&broken)
		t.Run(at, func(t *testing.T) {
			file := must(json.Marshal(broken))(t)
			_, err := other.Record.Import(t.Context(), bytes.NewReader(file))
			wantField(t, err, at)
		})
	}
	must(other.Record.Import(t.Context(), bytes.NewReader(text)))(t)
}
