package work_test

import (
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/compare"
)

// timed compares the times of sides, the last of which the others are held against.
func timed(t *testing.T, d *desk, sides ...[]string) compare.Comparison {
	t.Helper()
	return must(d.w.Reviews.Compare(t.Context(), compare.ComparisonRequest{Sides: sides, Baseline: len(sides) - 1, Question: "time"}))(t)
}

// took records a print of so many wedges with settings.
func (d *desk) took(settings string, copies int64, minutes float64) []string {
	d.t.Helper()
	run := d.runOf(copies, func(r *bench.Run) {
		r.ProfileID = settings
		r.EndedMS = quantity.Ptr(r.StartedMS + int64(minutes*60_000))
	})
	d.clock = d.clock.Add(5 * time.Hour)
	return []string{run.Run.ID}
}

func TestTimesThatAreAlikeNeedNoReason(t *testing.T) {
	d := newDesk(t)
	a, b := d.settings(func(*bench.Profile) {}).ID, d.settings(func(p *bench.Profile) { p.ExposureS = quantity.Ptr(6.0) }).ID
	c := timed(t, d, d.took(a, 2, 100), d.took(b, 2, 100.2))
	said := c.Whys[0].Sentences
	if len(said) != 2 || said[0] != "A plate of 2 × Wedge took as long on A as on B, within a hundredth." || !strings.Contains(said[1], "should have taken") || !strings.Contains(said[1], "less on A") {
		t.Errorf("%q", said)
	}
	same := timed(t, d, d.took(a, 2, 100), d.took(a, 2, 100.2))
	if said := same.Whys[0].Sentences; len(said) != 1 {
		t.Errorf("the same settings: %q", said)
	}
}

// Plates of other fill are not set against each other: then the settings alone speak, and
// say so.
func TestWithoutAPlateOfBothTheSettingsSpeak(t *testing.T) {
	d := newDesk(t)
	slow, fast := d.settings(func(p *bench.Profile) { p.Lift = bench.Moves{{MM: 6, MMMin: 30}} }).ID, d.settings(func(p *bench.Profile) { p.Lift = bench.Moves{{MM: 6, MMMin: 180}} }).ID
	c := timed(t, d, d.took(slow, 2, 60), d.took(fast, 5, 40))
	said := c.Whys[0].Sentences
	if !strings.HasPrefix(said[0], "By their settings a plate takes 17 min longer on A than on B; no plate was measured on both.") || !strings.Contains(said[1], "The lift accounts for 17 min longer: most of it.") {
		t.Errorf("%q", said)
	}
	alike := timed(t, d, d.took(slow, 3, 60), d.took(slow, 4, 60))
	if said := alike.Whys[0].Sentences; len(said) != 1 || !strings.Contains(said[0], "takes as long on A as on B, within a hundredth; no plate was measured on both.") {
		t.Errorf("%q", said)
	}
}

// What the settings do not account for is said, not hidden.
func TestWhatNoSettingAccountsForIsSaid(t *testing.T) {
	d := newDesk(t)
	slow, fast := d.settings(func(p *bench.Profile) { p.Lift = bench.Moves{{MM: 6, MMMin: 45}} }).ID, d.settings(func(p *bench.Profile) { p.Lift = bench.Moves{{MM: 6, MMMin: 180}} }).ID
	said := strings.Join(timed(t, d, d.took(slow, 2, 90), d.took(fast, 2, 40)).Whys[0].Sentences, " ")
	if !strings.Contains(said, "took 50 min longer") || !strings.Contains(said, "The lift accounts for 10 min longer: part of it.") || !strings.Contains(said, "unexplained") {
		t.Errorf("%s", said)
	}
	plain := d.settings(func(p *bench.Profile) { p.Lift = bench.Moves{{MM: 6, MMMin: 45}} }).ID
	if said := strings.Join(timed(t, d, d.took(plain, 2, 90), d.took(slow, 2, 40)).Whys[0].Sentences, " "); !strings.Contains(said, "No setting that differs accounts for that.") {
		t.Errorf("the same settings, and other times: %s", said)
	}
}

// Where settings are hidden, or a laser draws, the time has no phases, and the page says why.
func TestATimeWithoutPhasesSaysWhy(t *testing.T) {
	d := newDesk(t)
	p := quantity.Ptr[float64]
	sealed := must(d.w.Kit.AddProfile(t.Context(), bench.Profile{MachineID: d.machine.ID, ResinID: d.resin.ID, LayerUM: 50, Basis: "sealed", SealedName: "House"}))(t)
	laser := must(d.w.Kit.SaveMachine(t.Context(), bench.Machine{Name: "Trace", LightEngine: bench.Laser, WidthMM: 150, DepthMM: 150, HeightMM: 150, DialStepS: 0.1,
		SpotUM: p(80), HatchMM: p(0.08), HatchMMS: p(1500), ContourPasses: quantity.Ptr[int64](1), ContourMMS: p(500), SettleS: p(3)}))(t).Machine
	traced := must(d.w.Kit.AddProfile(t.Context(), bench.Profile{MachineID: laser.ID, ResinID: d.resin.ID, LayerUM: 50, ExposureS: p(1), BottomExposureS: p(1), Basis: "default"}))(t)
	on := d.runOf(2, func(r *bench.Run) { r.MachineID, r.ProfileID = laser.ID, traced.ID }).Run.ID
	c := timed(t, d, d.took(sealed.ID, 2, 60), []string{on}, d.took(d.settings(func(*bench.Profile) {}).ID, 2, 40))
	for i, want := range []string{"its machine hides its settings", "a laser draws each slice: its time has no such phases", ""} {
		if s := c.TimeSplits[i]; s.Reason != want || s.Known != (want == "") {
			t.Errorf("side %d: %+v", i, s)
		}
	}
	if len(c.Whys) != 0 {
		t.Errorf("explained %+v", c.Whys)
	}
}
