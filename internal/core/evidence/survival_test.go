package evidence

import (
	"math"
	"math/rand/v2"
	"testing"
)

// Ages and censoring of the first arm of Freireich et al. (1963), whose curve
// is printed in textbooks.
func TestSurvivalOfAPublishedTrial(t *testing.T) {
	var lives []Life
	for _, age := range []float64{6, 6, 6, 7, 10, 13, 16, 22, 23} {
		lives = append(lives, Life{age, true})
	}
	for _, age := range []float64{6, 9, 10, 11, 17, 19, 20, 25, 32, 32, 34, 35} {
		lives = append(lives, Life{age, false})
	}
	got, err := Survival(lives)
	if err != nil {
		t.Fatal(err)
	}
	want := []float64{0.8571, 0.8067, 0.7529, 0.6902, 0.6275, 0.5378, 0.4482}
	if len(got.Steps) != len(want) {
		t.Fatalf("%d steps, want %d", len(got.Steps), len(want))
	}
	for i, s := range got.Steps {
		if math.Abs(s.Share-want[i]) > 5e-5 || s.CI == nil || s.CI[0] >= s.Share || s.CI[1] <= s.Share || s.CI[0] < 0 || s.CI[1] > 1 {
			t.Errorf("step %d: %+v, want %g", i, s, want[i])
		}
	}
	if got.Median == nil || *got.Median != 23 || len(got.Warnings.Warnings) != 0 {
		t.Errorf("median %v, warnings %v", got.Median, got.Warnings)
	}
}

func TestSurvivalOfFewLivesConcludesNothing(t *testing.T) {
	got, err := Survival([]Life{{100, true}, {200, false}})
	if err != nil || len(got.Warnings.Warnings) != 1 || got.Warnings.Warnings[0].Code != "too_few" {
		t.Errorf("%+v (%v)", got, err)
	}
	if last, err := Survival([]Life{{100, true}}); err != nil || last.Steps[0].Share != 0 || last.Steps[0].CI != nil {
		t.Errorf("the only life: %+v (%v)", last, err)
	}
	if _, err := Survival([]Life{{-1, true}}); err == nil {
		t.Error("an age below 0 was taken")
	}
}

func TestTrendOfARate(t *testing.T) {
	rising, err := Trend([]Dose{{0, Count{2, 50}}, {1, Count{6, 50}}, {2, Count{14, 50}}})
	// By hand: the sum of events × level is 34 against 22 expected; its variance 150 × 0.1467 × 0.8533 × 2/3.
	if err != nil || math.Abs(*rising.Z-12/math.Sqrt(150*(22.0/150)*(128.0/150)*2/3)) > 1e-9 || rising.Verdict != Clear {
		t.Errorf("%+v (%v)", rising, err)
	}
	falling, err := Trend([]Dose{{0, Count{14, 50}}, {1, Count{6, 50}}, {2, Count{2, 50}}})
	if err != nil || math.Abs(*falling.Z+*rising.Z) > 1e-9 {
		t.Errorf("mirrored: %+v (%v)", falling, err)
	}
	for name, doses := range map[string][]Dose{"none": nil, "no events": {{0, Count{0, 5}}, {1, Count{0, 5}}}, "all": {{0, Count{5, 5}}}, "one level": {{3, Count{2, 5}}, {3, Count{1, 5}}}} {
		if got, err := Trend(doses); err != nil || got.P != nil || got.Verdict != NotShown {
			t.Errorf("%s: %+v (%v)", name, got, err)
		}
	}
}

// streaks are prints on one ageing film that fail in streaks, whatever its age.
func streaks(n int, seed uint64) (out []Dose) {
	chance := rand.New(rand.NewPCG(seed, 3))
	failing := false
	for i := range n {
		if chance.Float64() < 0.5 {
			failing = chance.Float64() < 0.4
		}
		d := Dose{Level: float64(100 * i), Count: Count{Trials: 1}}
		if failing {
			d.Events = 1
		}
		out = append(out, d)
	}
	return out
}

func TestAStreakIsNoTrend(t *testing.T) {
	const trials = 200
	plain, blocks := 0, 0
	for i := range uint64(trials) {
		doses := streaks(60, i)
		a, err := Trend(doses)
		if err != nil {
			t.Fatal(err)
		}
		b, err := TrendInTime(doses, i)
		if err != nil {
			t.Fatal(err)
		}
		plain += shows(a)
		blocks += shows(b)
		if a.Z != nil && *a.Z != *b.Z {
			t.Errorf("z is %v and %v", *a.Z, *b.Z)
		}
	}
	if plain < 40 || blocks > 22 || blocks*2 > plain {
		t.Errorf("of %d records of streaks %d were called a trend print by print, %d by blocks", trials, plain, blocks)
	}
}

func shows(r TrendResult) int {
	if r.Verdict == NotShown {
		return 0
	}
	return 1
}

func TestATrendInTimeIsFound(t *testing.T) {
	var doses []Dose
	for i := range 48 {
		d := Dose{Level: float64(i), Count: Count{Trials: 1}}
		if i%4 != 0 && i > 23 {
			d.Events = 1
		}
		doses = append(doses, d)
	}
	got, err := TrendInTime(doses, 1)
	if err != nil || got.Verdict != Clear || *got.Z <= 0 {
		t.Errorf("%+v (%v)", got, err)
	}
	if none, err := TrendInTime(doses[:5], 1); err != nil || none.P != nil {
		t.Errorf("no failures: %+v (%v)", none, err)
	}
	if _, err := TrendInTime([]Dose{{Level: math.NaN(), Count: Count{Trials: 1}}}, 1); err == nil {
		t.Error("a level that is no number was taken")
	}
}
