package work_test

import (
	"errors"
	"slices"
	"strings"
	"testing"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/kit"
)

func base() bench.Profile {
	p, n := quantity.Ptr[float64], quantity.Ptr[int64]
	return bench.Profile{Code: "U-01", LayerUM: 50, ExposureS: p(2), BottomLayers: n(4), BottomExposureS: p(30), TransitionLayers: n(3), Basis: "default",
		Lift: bench.Moves{{MM: 6, MMMin: 60}}, Retract: bench.Moves{{MM: 6, MMMin: 120}}, WaitAfterS: p(0.5), Antialiasing: "on"}
}

// Each value that settings hold is told when it changed, with per cent where both are
// numbers, and nothing else is.
func TestSettingsSayLineByLineWhatTheyChanged(t *testing.T) {
	p, n := quantity.Ptr[float64], quantity.Ptr[int64]
	for _, c := range []struct {
		change         func(*bench.Profile)
		what, from, to string
		pct            *float64
	}{
		{func(s *bench.Profile) { s.LayerUM = 30 }, "layer height", "50 µm", "30 µm", p(-40)},
		{func(s *bench.Profile) { s.ExposureS = p(2.5) }, "exposure", "2 s", "2.5 s", p(25)},
		{func(s *bench.Profile) { s.ExposureS = nil }, "exposure", "2 s", "not known", nil},
		{func(s *bench.Profile) { s.BottomLayers = n(6) }, "bottom layers", "4", "6", p(50)},
		{func(s *bench.Profile) { s.BottomExposureS = p(24) }, "bottom exposure", "30 s", "24 s", p(-20)},
		{func(s *bench.Profile) { s.TransitionLayers = n(0) }, "transition layers", "3", "0", p(-100)},
		{func(s *bench.Profile) { s.Lift = bench.Moves{{MM: 3, MMMin: 40}, {MM: 4, MMMin: 180}} }, "lift", "6 mm at 60 mm/min", "3 mm at 40 mm/min, 4 mm at 180 mm/min", nil},
		{func(s *bench.Profile) { s.Retract = nil }, "retract", "6 mm at 120 mm/min", "", nil},
		{func(s *bench.Profile) { s.ReleaseS = p(1.2) }, "release", "not known", "1.2 s", nil},
		{func(s *bench.Profile) { s.WaitBeforeS = p(2) }, "wait before light", "not known", "2 s", nil},
		{func(s *bench.Profile) { s.WaitAfterS = p(1) }, "wait after light", "0.5 s", "1 s", p(100)},
		{func(s *bench.Profile) { s.WaitLiftS = p(1) }, "rest after lift", "not known", "1 s", nil},
		{func(s *bench.Profile) { s.LightPowerPct = p(80) }, "light power", "not known", "80 %", nil},
		{func(s *bench.Profile) { s.Antialiasing = "off" }, "anti-aliasing", "on", "off", nil},
		{func(s *bench.Profile) { s.Options = bench.Options{{Name: "blur", Value: "2", Unit: "px"}} }, "further values", "", "blur 2 px", nil},
		{func(s *bench.Profile) { s.SealedName = "Grey, fine" }, "sealed name", "", "Grey, fine", nil},
	} {
		changed := base()
		c.change(&changed)
		got := kit.ChangesFrom(base(), changed)
		if len(got) != 1 || got[0].What != c.what || got[0].From != c.from || got[0].To != c.to {
			t.Errorf("%s: %+v", c.what, got)
			continue
		}
		if (got[0].Pct == nil) != (c.pct == nil) || (c.pct != nil && !quantity.Equal(*got[0].Pct, *c.pct)) {
			t.Errorf("%s changed by %v per cent, want %v", c.what, got[0].Pct, c.pct)
		}
	}
	if got := kit.ChangesFrom(base(), base()); len(got) != 0 {
		t.Errorf("nothing changed, and it says %+v", got)
	}
}

func TestSettingsAreNamedByWhatTellsThemApart(t *testing.T) {
	for want, change := range map[string]func(*bench.Profile){
		"U-01 2 s (default)":            func(*bench.Profile) {},
		"U-01 Slow lift (own)":          func(s *bench.Profile) { s.Name, s.Basis = "Slow lift", "own" },
		"U-01 Grey, fine (sealed)":      func(s *bench.Profile) { s.SealedName, s.Basis, s.ExposureS = "Grey, fine", "sealed", nil },
		"U-01 Before the fall (sealed)": func(s *bench.Profile) { s.Name, s.SealedName, s.Basis = "Before the fall", "Grey, fine", "sealed" },
		"U-01 (series)":                 func(s *bench.Profile) { s.ExposureS, s.Basis = nil, "series" },
	} {
		s := base()
		change(&s)
		if got := kit.SettingsName(s); got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
}

// What settings hide is said to be hidden, and what nobody entered is not said.
func TestSettingsSayAllTheyHoldAndInventNothing(t *testing.T) {
	p := quantity.Ptr[float64]
	all := base()
	all.LightPowerPct, all.Options = p(85), bench.Options{{Name: "grey level", Value: "4"}}
	if got := strings.Join(kit.SettingsWords(all), "; "); got != "50 µm layers; exposure 2 s; 4 bottom layers; bottom exposure 30 s; 3 transition layers; lift 6 mm at 60 mm/min; retract 6 mm at 120 mm/min; wait after light 0.5 s; light at 85 %; anti-aliasing on, grey level 4" {
		t.Errorf("all: %s", got)
	}
	tilts := base()
	tilts.ReleaseS = p(1.2)
	if got := strings.Join(kit.SettingsWords(tilts), "; "); !strings.Contains(got, "release 1.2 s") || strings.Contains(got, "lift") {
		t.Errorf("a vat that tilts: %s", got)
	}
	sealed := bench.Profile{LayerUM: 50, Basis: "sealed", SealedName: "Grey"}
	if got := kit.SettingsWords(sealed); !slices.Equal(got, []string{"50 µm layers", `sealed as "Grey", its exposures hidden`}) {
		t.Errorf("sealed: %q", got)
	}
	series := bench.Profile{LayerUM: 30, Basis: bench.BasisSeries}
	if got := kit.SettingsWords(series); !slices.Equal(got, []string{"30 µm layers", "each cell its own exposure"}) {
		t.Errorf("series: %q", got)
	}
}

func (d *desk) settings(change func(*bench.Profile)) bench.Profile {
	d.t.Helper()
	s := base()
	s.Code, s.MachineID, s.ResinID = "", d.machine.ID, d.resin.ID
	change(&s)
	return must(d.w.Kit.AddProfile(d.t.Context(), s))(d.t)
}

func card(t *testing.T, d *desk, id string) kit.SettingsCard {
	t.Helper()
	for _, c := range must(d.w.Kit.SettingsCards(t.Context()))(t) {
		if c.Profile.ID == id {
			return c
		}
	}
	t.Fatalf("no settings %s", id)
	return kit.SettingsCard{}
}

func TestDuplicatedSettingsKnowTheirParentAndTheirPrints(t *testing.T) {
	d := newDesk(t)
	parent := d.settings(func(s *bench.Profile) { s.Name = "First" })
	child := d.settings(func(s *bench.Profile) { s.ParentID, s.Basis, s.ExposureS = &parent.ID, "adjusted", quantity.Ptr(2.2) })
	d.run(func(r *bench.Run) { r.ProfileID = child.ID })
	got := card(t, d, child.ID)
	if got.Parent != "U-02 First (default)" || len(got.Changed) != 1 || got.Changed[0].To != "2.2 s" || got.Runs != 1 || got.Machine != d.machine.Name || got.Resin != d.resin.Name {
		t.Errorf("%+v", got)
	}
	if of := card(t, d, parent.ID); of.Parent != "" || len(of.Changed) != 0 || of.Runs != 0 {
		t.Errorf("the parent: %+v", of)
	}
	sheet := d.run(func(r *bench.Run) { r.ProfileID = child.ID })
	if sheet.Settings != "U-03 2.2 s (adjusted)" {
		t.Errorf("the print calls its settings %q", sheet.Settings)
	}
}

func TestSettingsThatCannotBeAreRefused(t *testing.T) {
	d := newDesk(t)
	gone := "no-such-settings"
	for field, change := range map[string]func(*bench.Profile){
		"basis":             func(s *bench.Profile) { s.Basis = "calibrated" },
		"layer_um":          func(s *bench.Profile) { s.LayerUM = 0.05 },
		"exposure_s":        func(s *bench.Profile) { s.ExposureS = quantity.Ptr(2000.0) },
		"bottom_exposure_s": func(s *bench.Profile) { s.BottomExposureS = nil },
		"sealed_name":       func(s *bench.Profile) { s.Basis = "sealed" },
		"parent_id":         func(s *bench.Profile) { s.ParentID = &gone },
	} {
		s := base()
		s.MachineID, s.ResinID = d.machine.ID, d.resin.ID
		change(&s)
		_, err := d.w.Kit.AddProfile(t.Context(), s)
		wantField(t, err, field)
	}
	orphan := base()
	orphan.MachineID, orphan.ResinID, orphan.Basis = d.machine.ID, d.resin.ID, "adjusted"
	_, err := d.w.Kit.AddProfile(t.Context(), orphan)
	wantField(t, err, "parent_id")
	if n := len(must(d.w.Kit.Profiles(t.Context()))(t)); n != 1 {
		t.Errorf("%d settings on record, want the desk's own", n)
	}
}

// The machine keeps its usual moves as a template: new settings begin with them, and a
// later change of the template leaves them as they are.
func TestTheMachinesUsualMovesAreATemplate(t *testing.T) {
	d := newDesk(t)
	s := d.settings(func(s *bench.Profile) { s.Lift, s.Retract, s.WaitAfterS = nil, nil, nil })
	if len(s.Lift) != 1 || s.Lift[0] != d.machine.Lift[0] {
		t.Fatalf("without moves of their own they lift %+v", s.Lift)
	}
	m := d.machine
	m.Lift = bench.Moves{{MM: 9, MMMin: 300}}
	must(d.w.Kit.SaveMachine(t.Context(), m))(t)
	if now := card(t, d, s.ID).Profile; now.Lift[0].MMMin != 60 {
		t.Errorf("the machine was edited, and the settings lift at %v mm/min", now.Lift[0].MMMin)
	}
	own := d.settings(func(s *bench.Profile) { s.Lift, s.Retract, s.WaitAfterS, s.ReleaseS = nil, nil, nil, quantity.Ptr(1.5) })
	if len(own.Lift) != 0 || *own.ReleaseS != 1.5 {
		t.Errorf("settings with a release of their own lift %+v", own.Lift)
	}
}

func TestSettingsAreWithdrawnWithAReasonAndBroughtBack(t *testing.T) {
	d := newDesk(t)
	s := d.settings(func(*bench.Profile) {})
	away := must(d.w.Kit.ArchiveProfile(t.Context(), s.ID, s.Version, "typed for the wrong machine"))(t)
	if away.ArchivedMS == nil || away.ArchivedWhy != "typed for the wrong machine" {
		t.Errorf("%+v", away)
	}
	if _, err := d.w.Kit.ArchiveProfile(t.Context(), s.ID, s.Version, "again"); !errors.Is(err, bench.ErrStale) {
		t.Errorf("against an older version: %v", err)
	}
	back := must(d.w.Kit.ArchiveProfile(t.Context(), s.ID, away.Version, ""))(t)
	if back.ArchivedMS != nil || back.ArchivedWhy != "" {
		t.Errorf("brought back: %+v", back)
	}
	named := must(d.w.Kit.NameProfile(t.Context(), s.ID, back.Version, "Slow lift", "for the winter"))(t)
	if named.Name != "Slow lift" || named.Note != "for the winter" || *named.ExposureS != *s.ExposureS {
		t.Errorf("named: %+v", named)
	}
	if _, err := d.w.Kit.NameProfile(t.Context(), s.ID, s.Version, "x", ""); !errors.Is(err, bench.ErrStale) {
		t.Errorf("named against an older version: %v", err)
	}
	history := must(d.w.History.Of(t.Context(), "profile", s.ID))(t)
	if len(history) != 3 || history[0].Command != "withdraw settings" || history[0].Why != "typed for the wrong machine" || history[2].Command != "name settings" {
		t.Errorf("history %+v", history)
	}
	if !strings.Contains(history[2].Before, `"name":""`) || !strings.Contains(history[2].After, `"name":"Slow lift"`) {
		t.Errorf("the name changed from %s to %s", history[2].Before, history[2].After)
	}
	for _, missing := range []error{
		func() error { _, err := d.w.Kit.ArchiveProfile(t.Context(), "no", 1, "x"); return err }(),
		func() error { _, err := d.w.Kit.NameProfile(t.Context(), "no", 1, "x", ""); return err }(),
	} {
		if !errors.Is(missing, bench.ErrNotFound) {
			t.Errorf("settings that are not there: %v", missing)
		}
	}
}
