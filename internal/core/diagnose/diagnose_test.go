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
			if cause.Chance != chanceOf(cause.Share) || cause.Share >= 0.97 {
				t.Errorf("%s: %s is %s with %v", c.symptom, cause.Cause, cause.Chance, cause.Share)
			}
			if cause.Test == "" || cause.Remedy == "" {
				t.Errorf("%s has no test or remedy", cause.Cause)
			}
		}
		if sum += got.OtherShare; math.Abs(sum-1) > 1e-12 || got.OtherShare <= 0 {
			t.Errorf("%s: shares add up to %v", c.symptom, sum)
		}
	}
}

// Nothing is ever certain: a lone cause of the reviewer's own leaves room for another.
func TestALoneCauseIsNotCertain(t *testing.T) {
	got := rank(t, Input{Symptom: "a symptom of one's own", Tried: []Tried{{"my cause", false}, {"my cause", false}, {"my cause", false}}})
	if len(got.Causes) != 1 || got.Causes[0].Share >= 0.7 || got.Causes[0].Chance != "likely" || got.OtherShare < 0.3 {
		t.Errorf("%+v, else %v", got.Causes, got.OtherShare)
	}
	none := rank(t, Input{Symptom: "another symptom"})
	if !none.Has("no_such_symptom") || none.OtherShare != 1 {
		t.Errorf("%+v", none)
	}
}

func TestSharesAreShownOnceTheRecordHasProvedThem(t *testing.T) {
	for _, c := range []struct {
		judged, helped int64
		proven         bool
	}{{0, 0, false}, {19, 12, false}, {20, 12, true}} {
		got := rank(t, Input{Symptom: "no adhesion", Judged: c.judged, Helped: c.helped})
		if got.Proven != c.proven || (got.HitRate != nil) != c.proven {
			t.Errorf("of %d judged: %t, %v", c.judged, got.Proven, got.HitRate)
		}
		if c.proven && (*got.HitRate.Rate != 0.6 || got.HitRate.CI[0] > 0.4 || got.HitRate.CI[1] < 0.75) {
			t.Errorf("hit rate %v, %v", *got.HitRate.Rate, *got.HitRate.CI)
		}
	}
	for share, want := range map[float64]string{0: "unlikely", 0.149: "unlikely", 0.15: "possible", 0.499: "possible", 0.5: "likely", 0.9: "likely"} {
		if got := chanceOf(share); got != want {
			t.Errorf("%v is %s, want %s", share, got, want)
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
