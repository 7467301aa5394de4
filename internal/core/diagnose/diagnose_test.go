package diagnose

import (
	"math"
	"strings"
	"testing"

	"ojime/internal/core/quantity"
)

func rank(t *testing.T, in Input) Result {
	t.Helper()
	out, err := Rank(in)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

func TestEvidenceBringsItsCauseFirst(t *testing.T) {
	p, b, n := quantity.Ptr[float64], quantity.Ptr[bool], quantity.Ptr[int64]
	fine := Conditions{ResinTempC: p(25), ExposureRatio: p(1), Calibrated: b(true), FilmShare: p(0.1), FilmClouded: b(false), DaysSinceLevel: p(3), MovedSinceLevel: b(false),
		BottleAgeDays: p(10), BottleExpired: b(false), LiftMMMin: p(40), LargestMM2: p(200), ContactMM2: p(400), Islands: n(0), SupportPct: p(15),
		VatShort: b(false), DebrisLikely: b(false), LightShare: p(0.1), RunsSinceStart: n(0), SoftwareNew: b(false), Hollow: b(false)}
	for want, c := range map[string]struct {
		symptom string
		change  func(*Conditions)
	}{
		"cold_resin": {"delamination", func(c *Conditions) { c.ResinTempC = p(17) }}, "vat_empty": {"let go midway", func(c *Conditions) { c.VatShort = b(true) }},
		"level": {"no adhesion", func(c *Conditions) { c.MovedSinceLevel = b(true) }}, "film": {"pull lines", func(c *Conditions) { c.FilmClouded = b(true); c.FilmShare = p(1.1) }},
		"over_exposed": {"bloated", func(c *Conditions) { c.ExposureRatio = p(1.3) }}, "under_exposed": {"thin part missing", func(c *Conditions) { c.ExposureRatio = p(0.7) }},
		"weak_supports": {"support torn", func(c *Conditions) { c.Islands = n(4) }}, "peel": {"let go midway", func(c *Conditions) { c.LargestMM2 = p(4000); c.LiftMMMin = p(180) }},
		"debris": {"stuck to film", func(c *Conditions) { c.DebrisLikely = b(true) }}, "suction": {"suction blow-out", func(c *Conditions) { c.Hollow = b(true) }},
		"slicer": {"layer shift", func(c *Conditions) { c.SoftwareNew = b(true) }}, "settled_resin": {"specks", func(c *Conditions) { c.BottleExpired = b(true); c.BottleAgeDays = p(500) }},
		"light": {"repeating mark", func(c *Conditions) { c.LightShare = p(0.95) }}, "small_contact": {"warp", func(c *Conditions) { c.ContactMM2 = p(10) }},
	} {
		conditions := fine
		c.change(&conditions)
		got := rank(t, Input{Symptom: c.symptom, Conditions: conditions})
		if got.Causes[0].Cause != want || got.Has("cannot_tell") || len(got.Causes[0].For) == 0 {
			t.Errorf("%s: first is %s (%.2f), %v; want %s", c.symptom, got.Causes[0].Cause, got.Causes[0].Share, got.Warnings.Warnings, want)
		}
		var sum float64
		for _, cause := range got.Causes {
			sum += cause.Share
			if cause.Test == "" || cause.Remedy == "" {
				t.Errorf("%s has no test or remedy", cause.Cause)
			}
		}
		if math.Abs(sum-1) > 1e-12 {
			t.Errorf("%s: shares add up to %v", c.symptom, sum)
		}
	}
}

func TestItSaysWhenItCannotTell(t *testing.T) {
	got := rank(t, Input{Symptom: "no adhesion"})
	if !got.Has("cannot_tell") || len(got.Causes[0].Unknown) == 0 || len(got.Causes[0].For) != 0 {
		t.Errorf("nothing is known, and yet: %+v", got)
	}
	if got := rank(t, Input{Symptom: "hums"}); !got.Has("no_such_symptom") || len(got.Causes) != 0 {
		t.Errorf("%+v", got)
	}
	if _, err := Rank(Input{}); err == nil || !strings.HasPrefix(err.Error(), "symptom") {
		t.Errorf("no symptom: %v", err)
	}
}

func TestWhatHelpedBeforeRisesAndWhatDidNotSinks(t *testing.T) {
	before := rank(t, Input{Symptom: "pull lines"})
	last := before.Causes[len(before.Causes)-1].Cause
	helped := rank(t, Input{Symptom: "pull lines", Tried: []Tried{{last, false}, {last, false}, {last, false}, {"elsewhere", true}}})
	if helped.Causes[0].Cause != last || helped.Causes[0].Helped != 3 || helped.Causes[0].TriedN != 3 {
		t.Errorf("%s helped three times and stands at %+v", last, helped.Causes[0])
	}
	came := rank(t, Input{Symptom: "pull lines", Tried: []Tried{{last, true}, {last, true}}})
	if got := came.Causes[len(came.Causes)-1]; got.Cause != last || got.Share >= before.Causes[len(before.Causes)-1].Share {
		t.Errorf("%s never helped and stands at %+v", last, got)
	}
}
