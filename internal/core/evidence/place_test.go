package evidence

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"
)

// plates stands 20 specimens in a grid on each plate; fails says how likely each
// is to fail.
func plates(n int, seed uint64, fails func(x, y float64) float64) [][]Spot {
	chance := rand.New(rand.NewPCG(seed, 1))
	var out [][]Spot
	for range n {
		var plate []Spot
		for i := range 20 {
			x, y := (float64(i%5)+0.5)/5, (float64(i/5)+0.5)/4
			plate = append(plate, Spot{x, y, chance.Float64() < fails(x, y)})
		}
		out = append(out, plate)
	}
	return out
}

func verdicts(t *testing.T, in PlaceInput) map[string]Pattern {
	t.Helper()
	got, err := PlacePattern(in)
	if err != nil {
		t.Fatal(err)
	}
	out := map[string]Pattern{}
	for _, p := range got.Patterns {
		out[p.Pattern] = p
		if p.PAll < p.P || p.P <= 0 || p.PAll > 1 || p.Sentence == "" {
			t.Errorf("%+v", p)
		}
	}
	return out
}

func TestFailuresThatLieSomewhereAreFound(t *testing.T) {
	left := verdicts(t, PlaceInput{Seed: 7, Plates: plates(60, 3, func(x, _ float64) float64 { return 0.16 * (1 - x) })})
	if left["side"].Verdict == NotShown || left["side"].Where != "left" || !strings.Contains(left["side"].Sentence, "left") {
		t.Errorf("leaning left: %+v", left["side"])
	}
	edge := verdicts(t, PlaceInput{Seed: 7, Plates: plates(60, 4, func(x, y float64) float64 {
		if radius(Spot{X: x, Y: y}) > 0.7 {
			return 0.18
		}
		return 0.02
	})})
	if edge["edge"].Verdict == NotShown || edge["edge"].Where != "edge" {
		t.Errorf("at the edge: %+v", edge["edge"])
	}
	spot := verdicts(t, PlaceInput{Seed: 7, Plates: plates(60, 5, func(x, y float64) float64 {
		if x > 0.6 && x < 0.8 && y < 0.3 {
			return 0.4
		}
		return 0.02
	})})
	if spot["spot"].Verdict != Clear || !strings.Contains(spot["spot"].Where, "row 1") {
		t.Errorf("at one spot: %+v", spot["spot"])
	}
}

// Where nothing is, the test says so about as seldom wrongly as it promises.
func TestChanceAloneSeldomLooksLikeAPlace(t *testing.T) {
	shown := 0
	const trials = 60
	for i := range uint64(trials) {
		for _, p := range verdicts(t, PlaceInput{Seed: i, Draws: 400, Plates: plates(30, 100+i, func(_, _ float64) float64 { return 0.06 })}) {
			if p.Verdict != NotShown {
				shown++
				break
			}
		}
	}
	if shown > 8 { // 3 expected; 9 and more come once in 500 times
		t.Errorf("%d of %d even spreads were called a pattern", shown, trials)
	}
}

// A part that lets go takes its neighbours with it, at another place each time: many
// failures, and no pattern.
func TestFailuresThatTakeTheirNeighboursAreNoPlace(t *testing.T) {
	shown := 0
	const trials = 100
	for i := range uint64(trials) {
		chance := rand.New(rand.NewPCG(300+i, 2))
		all := plates(12, i, func(_, _ float64) float64 { return 0 })
		for _, plate := range all {
			middle := plate[chance.IntN(len(plate))]
			for j := range plate {
				plate[j].Failed = math.Hypot(plate[j].X-middle.X, plate[j].Y-middle.Y) < 0.27
			}
		}
		for _, p := range verdicts(t, PlaceInput{Seed: i, Draws: 400, Plates: all}) {
			if p.Verdict != NotShown {
				shown++
				break
			}
		}
	}
	if shown > 11 { // 5 expected; 12 and more come once in 200 times
		t.Errorf("%d of %d clusters without a place were called a pattern", shown, trials)
	}
}

func TestTheSameSeedGivesTheSameAnswer(t *testing.T) {
	in := PlaceInput{Seed: 11, Plates: plates(40, 9, func(x, _ float64) float64 { return 0.1 * x })}
	a, b := verdicts(t, in), verdicts(t, in)
	for k := range a {
		if a[k] != b[k] {
			t.Errorf("%s: %+v and %+v", k, a[k], b[k])
		}
	}
}

func TestHowFewPlatesTellAPlace(t *testing.T) {
	leaning := func(n int) [][]Spot {
		return plates(n, 1, func(x, _ float64) float64 {
			if x < 0.3 {
				return 1
			}
			return 0
		})
	}
	if got, err := PlacePattern(PlaceInput{Plates: leaning(6)}); err != nil || len(got.Patterns) != 0 || !got.Has("too_few") {
		t.Errorf("six plates: %+v (%v)", got.Patterns, err)
	}
	// Of the 128 ways to turn seven plates about, two lean as far.
	if got := verdicts(t, PlaceInput{Plates: leaning(7)})["side"]; got.P != 2.0/128 || got.Where != "left" || got.Verdict != Likely {
		t.Errorf("seven plates: %+v", got)
	}
}

func TestTheChanceThatNoneIsHit(t *testing.T) {
	for _, c := range []struct {
		n, k, f int
		want    float64
	}{{10, 2, 3, 7.0 / 15}, {5, 5, 1, 0}, {5, 3, 3, 0}, {5, 0, 2, 1}, {4, 1, 1, 0.75}} {
		if got := missing(c.n, c.k, c.f); math.Abs(got-c.want) > 1e-12 {
			t.Errorf("none of %d among %d, %d fail: %v, want %v", c.k, c.n, c.f, got, c.want)
		}
	}
}

func TestPlaceOfFewOrNoFailures(t *testing.T) {
	lost := plates(3, 1, func(_, _ float64) float64 { return 1 })
	got, err := PlacePattern(PlaceInput{Plates: lost})
	if err != nil || got.Failed != 60 || len(got.Patterns) != 0 || got.Warnings.Warnings[0].Code != "too_few" {
		t.Errorf("plates lost whole tell no place: %+v (%v)", got.Patterns, err)
	}
	if _, err := PlacePattern(PlaceInput{Plates: [][]Spot{{{X: 1.2}}}}); err == nil {
		t.Error("a place off the plate was taken")
	}
}

func BenchmarkPlace(b *testing.B) {
	in := PlaceInput{Seed: 1, Plates: plates(600, 2, func(_, _ float64) float64 { return 0.05 })}
	for b.Loop() {
		if _, err := PlacePattern(in); err != nil {
			b.Fatal(err)
		}
	}
}
