package work_test

import (
	"bytes"
	"errors"
	"reflect"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/preflight"
	"ojime/internal/core/quantity"
	"ojime/internal/work/firstdays"
)

// unpacked is the unit file of the desk's machine.
func (d *desk) unpacked() firstdays.UnitSheet {
	d.t.Helper()
	asked := d.clock.UnixMilli()
	return must(d.w.FirstDays.SaveUnit(d.t.Context(), d.machine.ID, bench.UnitFile{Status: "first_batch", ReceivedOn: quantity.Ptr("2026-08-20"), Revision: "B", Serial: "0417", Firmware: "4.2",
		BodyWidthMM: quantity.Ptr(290.0), BodyDepthMM: quantity.Ptr(290.0), BodyHeightMM: quantity.Ptr(440.0), LidOpenMM: quantity.Ptr(712.0), MassKG: quantity.Ptr(9.4),
		Contents: bench.Contents{{What: "Scraper", Count: 1, Found: "missing"}, {What: "Vat", Count: 1, Found: "there"}, {What: "Screw", Count: 4, Found: "broken", Note: "one bent"}, {What: "Mask", Count: 2, Found: "not_looked"}},
		Peels:    bench.Peels{{What: "film under the vat"}, {What: "anti-scratch sheet", Keep: true}},
		Ports:    bench.Ports{{What: "USB", State: "used"}, {What: "network", State: "present", Note: "not tried"}},
		Openness: bench.Openness{{What: "settings can be changed", Answer: "partly", Note: "not the lift"}, {What: "needs an account", Answer: "no"}},
		Contacts: bench.Contacts{{About: "the scraper", AskedMS: asked, AnsweredMS: quantity.Ptr(asked + 26*3_600_000), Solved: "yes", How: "sent one"}, {About: "the hinge", AskedMS: asked}},
		Claimed:  bench.Claims{{Says: "80 mm an hour", Source: "on the box"}}}))(d.t)
}

func TestAUnitFileSaysWhatCameAndHow(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	m := d.machine
	m.SuppliedBy = "lent by its maker"
	d.machine = must(d.w.Kit.SaveMachine(ctx, m))(t).Machine
	if got := must(d.w.FirstDays.Unit(ctx, d.machine.ID, ""))(t); got.File != nil || got.Provenance != "lent by its maker" {
		t.Errorf("before it was unpacked: %+v", got)
	}
	got := d.unpacked()
	for what, pair := range map[string][2]string{
		"provenance": {got.Provenance, "a unit of the first batch, revision B; lent by its maker"},
		"size":       {got.Size, "290 × 290 × 440 mm; 712 mm high with its lid open; 9.4 kg"},
		"box":        {got.Box, "1 of 4 things there; missing: Scraper; broken: 4 × Screw (one bent); 1 not looked for"},
		"ports":      {got.Ports, "USB used; network present (not tried)"},
		"open":       {got.Open, "settings can be changed: partly (not the lift); needs an account: no"},
		"contacts":   {got.Contacts, "asked 2 times, answered 1 after 26 h, solved 1"},
		"unpeeled":   {strings.Join(got.Unpeeled, ", "), "take off: film under the vat, keep on: anti-scratch sheet"},
	} {
		if pair[0] != pair[1] {
			t.Errorf("%s: %q, want %q", what, pair[0], pair[1])
		}
	}

	// It travels, is changed with its history, and a stale page is refused.
	other := newEmpty(t, d)
	must(other.Record.Import(ctx, bytes.NewReader(exported(t, d.w))))(t)
	if there := must(other.FirstDays.Unit(ctx, d.machine.ID, ""))(t); !reflect.DeepEqual(there, got) {
		t.Errorf("there %+v", there)
	}
	changed := *got.File
	changed.Serial = "0418"
	must(d.w.FirstDays.SaveUnit(ctx, d.machine.ID, changed))(t)
	if _, err := d.w.FirstDays.SaveUnit(ctx, d.machine.ID, changed); !errors.Is(err, bench.ErrStale) {
		t.Errorf("a stale page: %v", err)
	}
	if change := d.last("unit_file", got.File.ID); change.Before != `{"serial":"0417"}` || change.Code != d.machine.Code {
		t.Errorf("%+v", change)
	}
	for field, spoil := range map[string]func(*bench.UnitFile){
		"received_on": func(u *bench.UnitFile) { u.ReceivedOn = quantity.Ptr("yesterday") },
		"lid_open_mm": func(u *bench.UnitFile) { u.LidOpenMM = quantity.Ptr(400.0) },
		"mass_kg":     func(u *bench.UnitFile) { u.MassKG = quantity.Ptr(-1.0) },
		"contacts[0].answered_ms": func(u *bench.UnitFile) {
			u.Contacts = bench.Contacts{{About: "x", AskedMS: 10, AnsweredMS: quantity.Ptr(int64(5))}}
		},
		"contacts[0].solved": func(u *bench.UnitFile) { u.Contacts = bench.Contacts{{About: "x", AskedMS: 10, Solved: "yes"}} },
	} {
		u := *got.File
		spoil(&u)
		_, err := d.w.FirstDays.SaveUnit(ctx, d.machine.ID, u)
		wantField(t, err, field)
	}
}

func TestTwoBoxesStandBesideEachOther(t *testing.T) {
	d := newDesk(t)
	d.unpacked()
	second := d.machine
	second.ID, second.Code, second.Version, second.Name = "", "", 0, "Ossik 8"
	other := must(d.w.Kit.SaveMachine(t.Context(), second))(t).Machine
	must(d.w.FirstDays.SaveUnit(t.Context(), other.ID, bench.UnitFile{Contents: bench.Contents{{What: "vat", Count: 2, Found: "there"}, {What: "Funnel", Count: 1, Found: "there"}}}))(t)
	want := []firstdays.InBoxes{{What: "Scraper", Here: "missing"}, {What: "Vat", Here: "there", There: "there × 2"}, {What: "Screw", Here: "broken × 4, one bent"}, {What: "Mask", Here: "not looked × 2"}, {What: "Funnel", There: "there"}}
	if got := must(d.w.FirstDays.Unit(t.Context(), d.machine.ID, other.ID))(t).Beside; !reflect.DeepEqual(got, want) {
		t.Errorf("%+v", got)
	}
}

func TestFilmsAreConfirmedBeforeTheFirstPrint(t *testing.T) {
	d := newDesk(t)
	d.withVat(100, 10)
	d.unpacked()
	run := d.prepared(60)
	first := must(d.w.Printing.Live(t.Context(), run.Run.ID))(t).Items[0]
	if first.Item != "unpeeled" || !first.Must || first.State != preflight.Act || !strings.Contains(first.Fact, "take off: film under the vat; keep on: anti-scratch sheet") {
		t.Errorf("%+v", first)
	}
	must(d.w.FirstDays.ConfirmPeel(t.Context(), d.machine.ID, "film under the vat"))(t)
	_, err := d.w.FirstDays.ConfirmPeel(t.Context(), d.machine.ID, "film under the vat")
	wantField(t, err, "what")
	done := must(d.w.FirstDays.ConfirmPeel(t.Context(), d.machine.ID, "anti-scratch sheet"))(t)
	if len(done.Unpeeled) != 0 {
		t.Errorf("open still: %v", done.Unpeeled)
	}
	if first := must(d.w.Printing.Live(t.Context(), run.Run.ID))(t).Items[0]; first.Item == "unpeeled" {
		t.Errorf("asked still: %+v", first)
	}
}

func TestHowAMachineCameStandsAtItsFindings(t *testing.T) {
	d := newDesk(t)
	d.unpacked()
	first := d.run(nil)
	d.clock = d.clock.Add(2 * time.Hour)
	settings := d.settings(func(p *bench.Profile) { p.ExposureS = quantity.Ptr(2.4) })
	d.run(func(r *bench.Run) { r.ProfileID = settings.ID })
	review := must(d.w.Reviews.SaveReview(t.Context(), bench.Review{Question: "Which?", Policy: "maker_default", MachineIDs: bench.IDs{d.machine.ID}, ResinIDs: bench.IDs{d.resin.ID}, PieceIDs: bench.IDs{d.piece.Piece.ID}}))(t)
	if sheet := must(d.w.Printing.RunSheet(t.Context(), first.Run.ID))(t); sheet.Unit != "a unit of the first batch, revision B" {
		t.Errorf("%q", sheet.Unit)
	}
	text := string(must(d.w.Publish.WriteUp(t.Context(), review.ID))(t))
	for _, want := range []string{
		"## The very machines\n\n- **Ossik 7**: a unit of the first batch, revision B.\n  - Received: 2026-08-20.\n  - Serial: 0417.",
		"  - In the box: 1 of 4 things there; missing: Scraper", "  - Claimed, on the box: 80 mm an hour", "(R-001); a unit of the first batch, revision B, against which the others are set",
	} {
		if !strings.Contains(text, want) {
			t.Errorf("the write-up lacks %q", want)
		}
	}
}
