package setup

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"ojime/internal/core/outcome"
	"ojime/internal/core/quantity"
)

// ended is a judged print at a temperature that failed or did not.
func ended(kind string, tempC float64, failed bool) WarmPrint {
	c := outcome.Counts{Specimens: 4}
	if failed {
		c.Failed = 1
	}
	return WarmPrint{Kind: kind, TempC: &tempC, Counts: c}
}

// Pairs that are one degree apart, of which the colder failed each time, have a closed form: by the penalised
// likelihood k·b' − (k+1)·ln(1+e^b') + b'/2 with b' = −b the chance of that is (k+½)/(k+1).
func TestPairsThatAllFailInTheColdHaveAClosedForm(t *testing.T) {
	for _, k := range []int{3, 5, 12} {
		var prints []WarmPrint
		for i := range k {
			kind := strings.Repeat("x", i+1)
			// Ten degrees apart, so that what is asked for at least is there: the slope is a tenth.
			prints = append(prints, ended(kind, 15+float64(i)/7, true), ended(kind, 25+float64(i)/7, false))
		}
		got := FailuresPerDegree(prints)
		p := (float64(k) + 0.5) / (float64(k) + 1)
		if want := math.Exp(-math.Log(p/(1-p)) / 10); got == nil || math.Abs(got.PerC-want) > 1e-6 || got.Prints != int64(2*k) || got.Failed != int64(k) || got.Kinds != int64(k) {
			t.Errorf("%d pairs: %+v, want %v", k, got, want)
		}
		if got.CI[0] <= 0 || got.CI[0] >= got.PerC || got.CI[1] <= got.PerC || math.IsInf(got.CI[1], 0) {
			t.Errorf("%d pairs: interval %v of %v", k, got.CI, got.PerC)
		}
	}
}

func TestOddsOverTemperatureHaveTheirSymmetries(t *testing.T) {
	chance := rand.New(rand.NewPCG(3, 9))
	var prints, turned, moved, mirrored []WarmPrint
	for i := range 40 {
		c, kind := 15+12*chance.Float64(), []string{"a", "b", "c"}[i%3]
		failed := chance.Float64() < 1/(1+math.Exp(0.3*(c-20)))
		prints = append(prints, ended(kind, c, failed))
		turned = append(turned, ended(kind, c, !failed))
		moved = append(moved, ended(kind, c+map[string]float64{"a": 0, "b": 4, "c": -3}[kind], failed))
		mirrored = append(mirrored, ended(kind, -c, failed))
	}
	of := FailuresPerDegree(prints)
	close := func(name string, got *WarmOdds, perC, low, high float64) {
		t.Helper()
		if got == nil || math.Abs(math.Log(got.PerC/perC)) > 1e-6 || math.Abs(math.Log(got.CI[0]/low)) > 1e-6 || math.Abs(math.Log(got.CI[1]/high)) > 1e-6 {
			t.Errorf("%s: %+v, want %v (%v to %v)", name, got, perC, low, high)
		}
	}
	close("what failed held, and the other way round", FailuresPerDegree(turned), 1/of.PerC, 1/of.CI[1], 1/of.CI[0])
	close("each kind some degrees warmer", FailuresPerDegree(moved), of.PerC, of.CI[0], of.CI[1])
	close("cold for warm", FailuresPerDegree(mirrored), 1/of.PerC, 1/of.CI[1], 1/of.CI[0])
	// Kinds that all failed, or never did, and prints that nobody judged or measured say nothing.
	more := append(append([]WarmPrint{}, prints...), ended("all fail", 10, true), ended("all fail", 30, true), ended("none fails", 10, false), ended("none fails", 30, false))
	more = append(more, WarmPrint{Kind: "a", TempC: quantity.Ptr(5.0), Counts: outcome.Counts{Specimens: 3, Pending: 3}}, WarmPrint{Kind: "a", Counts: outcome.Counts{Specimens: 3, Failed: 3}})
	close("with prints that say nothing", FailuresPerDegree(more), of.PerC, of.CI[0], of.CI[1])
	if of.Prints != 40 || of.Kinds != 3 || !strings.HasPrefix(of.Says, "One degree more multiplies the odds that a print fails by ") {
		t.Errorf("%+v", of)
	}
}

// The interval of the odds holds the truth at least about as often as it says, with few prints too.
func TestTheIntervalOfOddsHoldsTheTruth(t *testing.T) {
	chance := rand.New(rand.NewPCG(21, 8))
	for _, slope := range []float64{0, -0.25} {
		held, of := 0, 0
		for range 1500 {
			var prints []WarmPrint
			for i := range 24 {
				c := 16 + 10*chance.Float64()
				prints = append(prints, ended([]string{"a", "b", "c"}[i%3], c, chance.Float64() < 1/(1+math.Exp(-slope*(c-21)+0.5*float64(i%3)))))
			}
			s := FailuresPerDegree(prints)
			if s == nil {
				continue
			}
			of++
			if truth := math.Exp(slope); s.CI[0] <= truth && truth <= s.CI[1] {
				held++
			}
		}
		if share := float64(held) / float64(of); of < 1400 || share < 0.935 || share > 0.975 {
			t.Errorf("slope %v: %d of %d intervals hold the truth", slope, held, of)
		}
	}
}

func TestWhatOddsAskForAtLeast(t *testing.T) {
	of := func(failed, whole int, span float64) []WarmPrint {
		var out []WarmPrint
		for i := range failed + whole {
			out = append(out, ended("a", 20+span*float64(i)/float64(failed+whole-1), i%2 == 0 && i/2 < failed || i >= 2*whole))
		}
		return out
	}
	for _, c := range []struct {
		failed, whole int
		span          float64
		want          bool
	}{{3, 3, 3, true}, {3, 3, 2.9, false}, {2, 4, 5, false}, {4, 2, 5, false}, {3, 9, 5, true}} {
		if got := FailuresPerDegree(of(c.failed, c.whole, c.span)); (got != nil) != c.want {
			t.Errorf("%d failed and %d held over %v °C: %+v", c.failed, c.whole, c.span, got)
		}
	}
	if FailuresPerDegree(nil) != nil {
		t.Error("nothing says something")
	}
	// No spread, however wide, breaks it.
	if got := FailuresPerDegree([]WarmPrint{ended("a", -20, true), ended("a", -19, true), ended("a", -18, true), ended("a", 60, false), ended("a", 61, false), ended("a", 62, false)}); got == nil || math.IsNaN(got.PerC) || got.CI[0] >= got.PerC || got.CI[1] <= got.PerC {
		t.Errorf("%+v", got)
	}
}

func BenchmarkFailuresPerDegree(b *testing.B) {
	chance := rand.New(rand.NewPCG(1, 1))
	var prints []WarmPrint
	for range 100 {
		prints = append(prints, ended("a", 16+10*chance.Float64(), chance.Float64() < 0.3))
	}
	for b.Loop() {
		FailuresPerDegree(prints)
	}
}
