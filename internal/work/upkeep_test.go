package work_test

import (
	"fmt"
	"math"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/upkeep"
)

// bottleAfter is a bottle of a litre of 1.1 g/ml after events and prints, an hour apart.
func (d *desk) bottleAfter(tareG *float64, steps ...any) upkeep.BottleCard {
	d.t.Helper()
	b := must(d.w.Kit.SaveBottle(d.t.Context(), bench.Bottle{ResinID: d.resin.ID, Lot: "L", TareG: tareG}))(d.t)
	for _, step := range steps {
		d.clock = d.clock.Add(time.Hour)
		switch s := step.(type) {
		case bench.BottleEvent:
			must(d.w.Upkeep.HappenBottle(d.t.Context(), b.ID, s))(d.t)
		case float64: // grams that a print used
			d.run(func(r *bench.Run) { r.BottleID, r.ResinUsedG = &b.ID, &s })
		case nil: // a print that noted nothing
			d.run(func(r *bench.Run) { r.BottleID, r.ResinUsedG = &b.ID, nil })
		}
	}
	for _, c := range must(d.w.Upkeep.BottleCards(d.t.Context()))(d.t) {
		if c.Bottle.ID == b.ID {
			return c
		}
	}
	d.t.Fatal("the bottle is gone")
	return upkeep.BottleCard{}
}

func TestWhatABottleHolds(t *testing.T) {
	p := quantity.Ptr[float64]
	weighed := func(g float64) bench.BottleEvent { return bench.BottleEvent{Kind: "weighed", GrossG: &g} }
	poured := func(kind string, ml float64) bench.BottleEvent {
		return bench.BottleEvent{Kind: kind, ML: &ml, Other: "L9"}
	}
	for _, c := range []struct {
		name   string
		tareG  *float64
		steps  []any
		left   *float64
		reason string
	}{
		{"full", nil, nil, p(1000), ""},
		{"printed from", nil, []any{110.0, 55.0}, p(850), ""},
		{"never below nothing", nil, []any{2000.0}, p(0), ""},
		{"a print that noted nothing", nil, []any{110.0, nil}, nil, "1 of 2 prints did not note"},
		{"weighed", p(100), []any{110.0, weighed(650)}, p(500), ""},
		{"weighed without a tare", nil, []any{weighed(650)}, nil, "empty bottle weighs is not on record"},
		{"weighed, then printed from", p(100), []any{weighed(650), 55.0}, p(450), ""},
		{"weighing forgives prints that noted nothing", p(100), []any{nil, weighed(650)}, p(500), ""},
		{"poured back into", nil, []any{110.0, poured("poured_back", 40)}, p(940), ""},
		{"poured back, then weighed", p(100), []any{poured("poured_back", 40), weighed(650)}, p(500), ""},
		{"mixed with another", nil, []any{poured("mixed", 200)}, p(1200), ""},
		{"emptied", p(100), []any{weighed(650), bench.BottleEvent{Kind: "emptied"}}, p(0), ""},
		{"emptied, then filled", nil, []any{bench.BottleEvent{Kind: "emptied"}, poured("poured_back", 30)}, p(30), ""},
		{"coloured", nil, []any{bench.BottleEvent{Kind: "coloured", Note: "a drop of blue"}}, p(1000), ""},
	} {
		t.Run(c.name, func(t *testing.T) {
			d := newDesk(t)
			got := d.bottleAfter(c.tareG, c.steps...)
			if (got.LeftML == nil) != (c.left == nil) || (c.left != nil && math.Abs(*got.LeftML-*c.left) > 1e-9) {
				t.Errorf("%v ml left (%s), want %v", got.LeftML, got.From, c.left)
			}
			if !strings.Contains(got.Reason, c.reason) || (c.left == nil) != (got.Reason != "") {
				t.Errorf("reason %q, want %q", got.Reason, c.reason)
			}
			if got.LeftML != nil && (got.Share == nil || math.Abs(*got.Share-*got.LeftML/1000) > 1e-12) {
				t.Errorf("share %v of %v ml", got.Share, *got.LeftML)
			}
		})
	}
}

func TestBottleEventsThatCannotBeAreRefused(t *testing.T) {
	d := newDesk(t)
	b := must(d.w.Kit.SaveBottle(t.Context(), bench.Bottle{ResinID: d.resin.ID, Lot: "L", TareG: quantity.Ptr(100.0)}))(t)
	_, err := d.w.Upkeep.HappenBottle(t.Context(), b.ID, bench.BottleEvent{Kind: "weighed"})
	wantField(t, err, "gross_g")
	_, err = d.w.Upkeep.HappenBottle(t.Context(), b.ID, bench.BottleEvent{Kind: "weighed", GrossG: quantity.Ptr(99.0)})
	wantField(t, err, "gross_g")
	_, err = d.w.Upkeep.HappenBottle(t.Context(), b.ID, bench.BottleEvent{Kind: "opened", AtMS: d.clock.Add(48 * time.Hour).UnixMilli()})
	wantField(t, err, "at_ms")
	if got := must(d.w.Upkeep.HappenBottle(t.Context(), b.ID, bench.BottleEvent{Kind: "opened"}))(t); got.Bottle.OpenedOn == nil || *got.Bottle.OpenedOn != "2026-09-01" {
		t.Errorf("opened on %v", got.Bottle.OpenedOn)
	}
}

func TestBottlesThatNeedLookingAtAreDue(t *testing.T) {
	d := newDesk(t) // its own bottle expires on 2026-09-10
	due := func(what string) *upkeep.Due {
		t.Helper()
		for _, u := range must(d.w.Upkeep.Upkeep(t.Context()))(t).Due {
			if u.What == what && strings.HasPrefix(u.Of, d.bottle.Code) {
				return &u
			}
		}
		return nil
	}
	if u := due("age"); u == nil || u.State != "soon" || u.Why != "Opened 31 days ago, expires in 9 days." {
		t.Errorf("nine days before its end: %+v", u)
	}
	d.clock = time.Date(2026, 9, 12, 9, 0, 0, 0, time.UTC)
	if u := due("age"); u == nil || u.State != "due" || !strings.Contains(u.Why, "expired 2 days ago") {
		t.Errorf("past its end: %+v", u)
	}
	if u := due("content"); u != nil {
		t.Errorf("a full bottle is due: %+v", u)
	}
	d.run(func(r *bench.Run) { r.ResinUsedG = quantity.Ptr(1050.0) })
	if u := due("content"); u == nil || u.State != "soon" || !strings.HasPrefix(u.Why, "45 ml left") {
		t.Errorf("nearly empty: %+v", u)
	}
	must(d.w.Upkeep.HappenBottle(t.Context(), d.bottle.ID, bench.BottleEvent{Kind: "emptied"}))(t)
	if a, c := due("age"), due("content"); a != nil || c != nil {
		t.Errorf("an emptied bottle is done with: %+v, %+v", a, c)
	}
}

// A reminder is held against what the machine did since the knot of its kind.
func TestRemindersCountFromTheirKnot(t *testing.T) {
	d := newDesk(t)
	remind := func(kind, unit string, every float64) {
		t.Helper()
		must(d.w.Upkeep.SaveReminder(t.Context(), bench.Reminder{MachineID: d.machine.ID, Kind: kind, Unit: unit, Every: every, Source: "own"}))(t)
	}
	find := func(what string) upkeep.Due {
		t.Helper()
		for _, u := range must(d.w.Upkeep.Upkeep(t.Context()))(t).Due {
			if u.What == what {
				return u
			}
		}
		t.Fatalf("nothing due of %s", what)
		return upkeep.Due{}
	}
	remind("relevel", "days", 30)
	remind("vat_clean", "runs", 4)
	remind("filter", "layers", 1000)
	for what, want := range map[string]string{"relevel": "Every 30 days; when it was last done is not known.", "vat_clean": "Every 4 prints; when it was last done is not known."} {
		if u := find(what); u.Share != nil || u.State != "unknown" || u.Why != want {
			t.Errorf("%s: %+v", what, u)
		}
	}
	must(d.w.Kit.AddEvent(t.Context(), bench.MachineEvent{MachineID: d.machine.ID, AtMS: d.clock.UnixMilli(), Kinds: bench.IDs{"relevel", "vat_clean", "filter"}}))(t)
	for i := range 3 {
		d.clock = d.clock.Add(9*24*time.Hour - 30*time.Minute)
		d.run(nil)
		d.clock = d.clock.Add(30 * time.Minute)
		u := find("vat_clean")
		if want := fmt.Sprintf("%d of 4 prints since it was last done.", i+1); u.Why != want || !quantity.Equal(*u.Share, float64(i+1)/4) {
			t.Errorf("after %d prints: %+v", i+1, u)
		}
	}
	if u := find("relevel"); u.State != "soon" || !quantity.Equal(*u.Share, 0.9) || u.Why != "27 of 30 days since it was last done." {
		t.Errorf("level: %+v", u)
	}
	if u := find("filter"); !quantity.Equal(*u.Share, 0.3) || u.State != "fine" {
		t.Errorf("300 of 1 000 layers: %+v", u)
	}
	d.clock = d.clock.Add(3 * 24 * time.Hour)
	if u := find("relevel"); u.State != "due" {
		t.Errorf("after thirty days: %+v", u)
	}
}

func TestAReminderIsContradictedAndStaysOnRecord(t *testing.T) {
	d := newDesk(t)
	got := must(d.w.Upkeep.SaveReminder(t.Context(), bench.Reminder{MachineID: d.machine.ID, Kind: "film", Unit: "layers", Every: 20000, Source: "maker"}))(t)
	r := got.Reminders[0]
	r.Contradiction = "it went cloudy at 9 000"
	got = must(d.w.Upkeep.SaveReminder(t.Context(), r))(t)
	if len(got.Reminders) != 1 || got.Reminders[0].ContradictedMS == nil {
		t.Errorf("%+v", got.Reminders)
	}
	for _, u := range got.Due {
		if u.What == "film" {
			t.Errorf("what was contradicted still reminds: %+v", u)
		}
	}
	_, err := d.w.Upkeep.SaveReminder(t.Context(), bench.Reminder{MachineID: d.machine.ID, Kind: "film", Unit: "layers", Source: "own"})
	wantField(t, err, "every")
}

func TestBathsAgeByPrintsAndAreRenewed(t *testing.T) {
	d := newDesk(t)
	n := quantity.Ptr[int64](2)
	water := must(d.w.Upkeep.SaveBath(t.Context(), bench.Bath{Name: "Rinse", Solvent: "water", VolumeML: quantity.Ptr(1500.0), LifePrints: n}))(t)
	if water.Prints != 0 || water.State != "fine" || *water.Share != 0 {
		t.Errorf("fresh: %+v", water)
	}
	for i, want := range []string{"fine", "due"} {
		run := d.run(nil)
		d.clock = d.clock.Add(time.Hour)
		must(d.w.Aftercare.SaveStep(t.Context(), run.Run.ID, bench.ProcessStep{Kind: "wash", BathID: &water.Bath.ID, StartedMS: d.clock.UnixMilli() - 1000, EndedMS: quantity.Ptr(d.clock.UnixMilli())}))(t)
		b := must(d.w.Upkeep.Baths(t.Context()))(t)[0]
		if b.Prints != int64(i+1) || b.State != want {
			t.Errorf("after %d prints: %+v", i+1, b)
		}
	}
	d.clock = d.clock.Add(time.Minute)
	fresh := must(d.w.Upkeep.RenewBath(t.Context(), water.Bath.ID, upkeep.Renewal{VolumeML: quantity.Ptr(1200.0), WentTo: "collection point"}))(t)
	if fresh.Prints != 0 || *fresh.Bath.VolumeML != 1200 {
		t.Errorf("renewed: %+v", fresh)
	}
	for _, line := range []bench.Waste{{Kind: "wipes", Amount: 3}, {Kind: "wipes", Amount: 2}} {
		must(d.w.Upkeep.AddWaste(t.Context(), line))(t)
	}
	ledger := must(d.w.Upkeep.Waste(t.Context()))(t)
	totals := map[string]upkeep.WasteTotal{}
	for _, total := range ledger.Totals {
		totals[total.Kind] = total
	}
	if w := totals["wash_water"]; w.Amount != 1500 || w.Lines != 1 || w.Unit != "ml" {
		t.Errorf("the old water: %+v of %+v", w, ledger)
	}
	if g := totals["wipes"]; g.Amount != 5 || g.Lines != 2 {
		t.Errorf("wipes: %+v", g)
	}
	if ledger.Lines[0].Amount != 2 || !strings.Contains(ledger.Rule, "safety data sheet") {
		t.Errorf("the newest first, with the rule: %+v", ledger)
	}
	_, err := d.w.Upkeep.SaveBath(t.Context(), bench.Bath{Name: "x", Solvent: "water", FilledMS: d.clock.Add(48 * time.Hour).UnixMilli()})
	wantField(t, err, "filled_ms")
	_, err = d.w.Upkeep.AddWaste(t.Context(), bench.Waste{Kind: "scrap"})
	wantField(t, err, "amount")
}
