package diagnose

import (
	"slices"
	"strings"
	"testing"

	"ojime/internal/core/quantity"
)

// cause finds one among those of a symptom.
func cause(t *testing.T, r Result, name string) Cause {
	t.Helper()
	for _, c := range r.Causes {
		if c.Cause == name {
			return c
		}
	}
	t.Fatalf("%s is not among the causes", name)
	return Cause{}
}

// Each condition speaks for its cause from one limit on, against it up to another, and
// says nothing in between; what is not known is said not to be.
func TestConditionsSpeakFromTheirLimitsOn(t *testing.T) {
	p, n := quantity.Ptr[float64], quantity.Ptr[int64]
	for _, c := range []struct {
		symptom, cause string
		set            func(*Conditions, float64)
		speaks, silent float64 // the last value that speaks for it, and one that does not
		against        float64 // the first that speaks against it
	}{
		{"delamination", "cold_resin", func(c *Conditions, v float64) { c.ResinTempC = p(v) }, 20, 20.1, 23},
		{"pull lines", "cold_resin", func(c *Conditions, v float64) { c.LiftMMMin = p(v) }, 150, 149, 40},
		{"specks", "settled_resin", func(c *Conditions, v float64) { c.BottleAgeDays = p(v) }, 240, 239, 60},
		{"no adhesion", "level", func(c *Conditions, v float64) { c.DaysSinceLevel = p(v) }, 30, 29, 7},
		{"soft", "under_exposed", func(c *Conditions, v float64) { c.ExposureRatio = p(v) }, 0.9, 0.91, 1.05},
		{"soft", "under_exposed", func(c *Conditions, v float64) { c.LightAtPct = p(v) }, 90, 90.1, 97},
		{"soft", "light", func(c *Conditions, v float64) { c.LightAtPct = p(v) }, 90, 90.1, 97},
		{"bloated", "over_exposed", func(c *Conditions, v float64) { c.ExposureRatio = p(v) }, 1.1, 1.09, 0.95},
		{"support torn", "weak_supports", func(c *Conditions, v float64) { c.SupportPct = p(v) }, 3, 3.1, 12},
		{"support torn", "peel", func(c *Conditions, v float64) { c.LargestMM2 = p(v) }, 1500, 1499, 300},
		{"layer shift", "peel", func(c *Conditions, v float64) { c.LiftMMMin = p(v) }, 120, 119, 50},
		{"warp", "small_contact", func(c *Conditions, v float64) { c.ContactMM2 = p(v) }, 30, 31, 200},
		{"pull lines", "film", func(c *Conditions, v float64) { c.FilmShare = p(v) }, 0.85, 0.84, 0.3},
		{"repeating mark", "light", func(c *Conditions, v float64) { c.LightShare = p(v) }, 0.85, 0.84, 0.2},
		{"support torn", "weak_supports", func(c *Conditions, v float64) { c.Islands = n(int64(v)) }, 1, 0, 0},
		{"layer shift", "restart", func(c *Conditions, v float64) { c.RunsSinceStart = n(int64(v)) }, 3, 2, 0},
	} {
		at := func(v float64) Cause {
			var conditions Conditions
			c.set(&conditions, v)
			return cause(t, rank(t, Input{Symptom: c.symptom, Conditions: conditions}), c.cause)
		}
		unknown := cause(t, rank(t, Input{Symptom: c.symptom}), c.cause)
		if got := at(c.speaks); len(got.For) != 1 || len(got.Unknown) != len(unknown.Unknown)-1 {
			t.Errorf("%s at %v: for %v, not known %v", c.cause, c.speaks, got.For, got.Unknown)
		}
		if got := at(c.silent); len(got.For) != 0 {
			t.Errorf("%s at %v speaks for it: %v", c.cause, c.silent, got.For)
		}
		if got := at(c.against); len(got.Against) != 1 || len(got.For) != 0 {
			t.Errorf("%s at %v: against %v", c.cause, c.against, got.Against)
		}
	}
}

func TestWhatIsSoSpeaksForItsCause(t *testing.T) {
	for _, c := range []struct {
		symptom, cause string
		set            func(*Conditions, *bool)
	}{
		{"void", "vat_empty", func(c *Conditions, v *bool) { c.VatShort = v }}, {"specks", "settled_resin", func(c *Conditions, v *bool) { c.BottleExpired = v }},
		{"layer shift", "surroundings", func(c *Conditions, v *bool) { c.Surroundings = v }}, {"void", "debris", func(c *Conditions, v *bool) { c.DebrisLikely = v }},
		{"no adhesion", "level", func(c *Conditions, v *bool) { c.MovedSinceLevel = v }}, {"void", "suction", func(c *Conditions, v *bool) { c.Hollow = v }},
		{"pull lines", "film", func(c *Conditions, v *bool) { c.FilmClouded = v }}, {"void", "slicer", func(c *Conditions, v *bool) { c.SoftwareNew = v }},
	} {
		share := map[string]float64{}
		for name, v := range map[string]*bool{"so": quantity.Ptr(true), "not": quantity.Ptr(false), "unknown": nil} {
			var conditions Conditions
			c.set(&conditions, v)
			share[name] = cause(t, rank(t, Input{Symptom: c.symptom, Conditions: conditions}), c.cause).Share
		}
		if share["so"] <= share["unknown"] || share["not"] >= share["unknown"] {
			t.Errorf("%s for %s: %v", c.cause, c.symptom, share)
		}
	}
}

// Calibrated settings make an exposure that is off unlikely; others make it likelier.
func TestACalibratedExposureIsSeldomOff(t *testing.T) {
	yes := cause(t, rank(t, Input{Symptom: "soft", Conditions: Conditions{Calibrated: quantity.Ptr(true)}}), "under_exposed")
	no := cause(t, rank(t, Input{Symptom: "soft", Conditions: Conditions{Calibrated: quantity.Ptr(false)}}), "under_exposed")
	if yes.Share >= no.Share || len(yes.Against) != 1 || len(no.Against)+len(no.For) != 1 {
		t.Errorf("calibrated %+v, not %+v", yes, no)
	}
}

// A cause that the reviewer wrote and tried stands among the others, with how it fared.
func TestACauseOfOnesOwnIsRanked(t *testing.T) {
	got := rank(t, Input{Symptom: "void", Tried: []Tried{{"the cat sat on it", false}, {"the cat sat on it", false}, {"the cat sat on it", true}}})
	own := cause(t, got, "the cat sat on it")
	if own.TriedN != 3 || own.Helped != 2 || own.Title != "the cat sat on it" || own.Test == "" || own.Remedy == "" {
		t.Errorf("%+v", own)
	}
	alone := rank(t, Input{Symptom: "hums", Tried: []Tried{{"a loose fan", false}}})
	if len(alone.Causes) != 1 || alone.Has("no_such_symptom") {
		t.Errorf("a symptom of which only the reviewer knows: %+v", alone)
	}
}

func TestQuirksAreSaidWithTheirCounts(t *testing.T) {
	got := rank(t, Input{Symptom: "layer shift", Quirks: []Quirk{
		{Text: "Loses steps", Workaround: "restart", Without: Faults{Of: 3, Were: 3}, With: &Faults{Of: 8}},
		{Text: "Warms up", Without: Faults{Of: 1, Were: 1}},
	}})
	for i, want := range []string{"Loses steps: 3 of 3 judged prints without the workaround had it, 0 of 8 judged prints since.", "Warms up: 1 of 1 judged print had it."} {
		if got.Quirks[i].Says != want {
			t.Errorf("%q, want %q", got.Quirks[i].Says, want)
		}
	}
	if none := rank(t, Input{Symptom: "void"}); none.Quirks == nil {
		t.Error("no quirks is null")
	}
}

// The table holds together: every cause has its words, and no cause stands twice.
func TestTheTableOfCausesHoldsTogether(t *testing.T) {
	var seen []string
	for _, k := range known {
		if slices.Contains(seen, k.cause) || k.title == "" || k.test == "" || k.remedy == "" || len(k.symptoms) == 0 || len(k.clues) == 0 {
			t.Errorf("%s: %+v", k.cause, k.symptoms)
		}
		seen = append(seen, k.cause)
		for i, s := range k.symptoms {
			if slices.Contains(k.symptoms[:i], s) || s != strings.ToLower(s) {
				t.Errorf("%s has %q", k.cause, s)
			}
		}
		none, _ := k.weigh(Conditions{})
		if len(none.For)+len(none.Against) != 0 || len(none.Unknown) != len(k.clues) {
			t.Errorf("%s of nothing known: %+v", k.cause, none)
		}
	}
}
