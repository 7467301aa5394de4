package evidence

import (
	"errors"
	"math"
	"math/rand/v2"
	"testing"

	"ojime/internal/core/quantity"
)

func wantField(t *testing.T, err error, path string) {
	t.Helper()
	var wrong *quantity.FieldError
	if !errors.As(err, &wrong) || wrong.Path != path {
		t.Errorf("error %v, want one of field %s", err, path)
	}
}

func TestARateOfNoneMayStillBeSome(t *testing.T) {
	for n, want := range map[int64]float64{1: 0.95, 3: 0.6316, 10: 0.2589, 59: 0.0495, 300: 0.00994} {
		got, err := Rate(Count{0, n})
		if err != nil || *got.Rate != 0 || math.Abs(*got.UpperIfNone-want) > 1e-4 {
			t.Errorf("none in %d may still be %v (%v), want %v", n, got.UpperIfNone, err, want)
		}
	}
	if got, err := Rate(Count{1, 10}); err != nil || got.UpperIfNone != nil || got.CI[0] <= 0 || got.CI[1] >= 1 {
		t.Errorf("%+v (%v)", got, err)
	}
	if got, err := Rate(Count{}); err != nil || got.Rate != nil || got.CI != nil || !got.Has("no_trials") {
		t.Errorf("nothing tried: %+v (%v)", got, err)
	}
	for field, in := range map[string]Count{"events": {3, 2}} {
		_, err := Rate(in)
		wantField(t, err, field)
	}
}

// Fisher's p against tables worked out by hand.
func TestFishersTestIsExact(t *testing.T) {
	for _, c := range []struct {
		a, b Count
		p    float64
	}{
		{Count{3, 3}, Count{0, 3}, 2.0 / 20}, {Count{4, 4}, Count{0, 4}, 2.0 / 70}, {Count{5, 5}, Count{0, 5}, 2.0 / 252}, {Count{1, 4}, Count{1, 4}, 1},
		{Count{8, 10}, Count{2, 10}, 0.0230141}, {Count{0, 7}, Count{0, 9}, 1}, {Count{1, 1}, Count{0, 3}, 0.25},
	} {
		got, err := TwoRates(TwoRatesInput{c.a, c.b})
		if err != nil || math.Abs(got.P-c.p) > 1e-6 {
			t.Errorf("%+v against %+v: p %v (%v), want %v", c.a, c.b, got.P, err, c.p)
		}
	}
}

// Turned round, a difference is the other way and as sure.
func TestTwoRatesHaveNoSide(t *testing.T) {
	chance := rand.New(rand.NewPCG(9, 1))
	for range 300 {
		a, b := Count{Trials: 1 + chance.Int64N(60)}, Count{Trials: 1 + chance.Int64N(60)}
		a.Events, b.Events = chance.Int64N(a.Trials+1), chance.Int64N(b.Trials+1)
		one, err := TwoRates(TwoRatesInput{a, b})
		if err != nil {
			t.Fatal(err)
		}
		other, err := TwoRates(TwoRatesInput{b, a})
		if err != nil {
			t.Fatal(err)
		}
		if math.Abs(one.P-other.P) > 1e-9 || math.Abs(one.Difference+other.Difference) > 1e-12 || math.Abs(one.CI[0]+other.CI[1]) > 1e-12 || one.Verdict != other.Verdict {
			t.Fatalf("%+v %+v: %+v, turned %+v", a, b, one, other)
		}
		if one.CI[0] > one.Difference || one.CI[1] < one.Difference || one.P < 0 || one.P > 1 {
			t.Fatalf("%+v %+v: %+v", a, b, one)
		}
		if (one.NeededPerGroup == nil) != (one.Difference == 0) {
			t.Fatalf("%+v %+v: needs %v for a difference of %v", a, b, one.NeededPerGroup, one.Difference)
		}
	}
}

func TestFishersTestIsQuickForMillions(t *testing.T) {
	got, err := TwoRates(TwoRatesInput{Count{500_000, 1_000_000}, Count{500_800, 1_000_000}})
	if err != nil || got.P < 0.2 || got.P > 0.3 {
		t.Errorf("p %v (%v)", got.P, err)
	}
}

func TestVerdictsChangeAtTheirLimits(t *testing.T) {
	for p, want := range map[float64]string{0: Clear, 0.0099: Clear, 0.01: Likely, 0.0499: Likely, 0.05: NotShown, 1: NotShown} {
		if got := VerdictOf(p); got != want {
			t.Errorf("p = %v is %s, want %s", p, got, want)
		}
	}
}

func TestMeansOfEqualSpreadAreTheTextbooks(t *testing.T) {
	got, err := Means(MeansInput{A: []float64{1, 2, 3, 4, 5}, B: []float64{3, 4, 5, 6, 7}})
	if err != nil {
		t.Fatal(err)
	}
	// Both variances 2.5, n 5: se 1, t = −2 on 8 degrees.
	if got.Difference != -2 || math.Abs(*got.DF-8) > 1e-9 || math.Abs(*got.P-0.0805) > 5e-5 || math.Abs(got.CI[1]-(-2+2.306004)) > 1e-5 {
		t.Errorf("%+v p %v", got, *got.P)
	}
	flat, err := Means(MeansInput{A: []float64{2, 2}, B: []float64{3, 3}})
	if err != nil || flat.Difference != -1 || flat.P != nil || flat.CI != nil || !flat.Has("no_spread") {
		t.Errorf("no spread: %+v (%v)", flat, err)
	}
	_, err = Means(MeansInput{A: []float64{1}, B: []float64{1, 2}})
	wantField(t, err, "a")
	_, err = Means(MeansInput{A: []float64{1, 2}, B: []float64{1, math.NaN()}})
	wantField(t, err, "b[1]")
}

// Welch's test is right as often as it says: of two samples of one kind, one in twenty
// is told apart.
func TestMeansAreWrongAsOftenAsTheySay(t *testing.T) {
	chance := rand.New(rand.NewPCG(11, 12))
	sample := func(n int, sd float64) (out []float64) {
		for range n {
			out = append(out, sd*chance.NormFloat64())
		}
		return out
	}
	wrong := 0
	const deals = 4000
	for range deals {
		got, err := Means(MeansInput{A: sample(4, 1), B: sample(8, 3)})
		if err != nil {
			t.Fatal(err)
		}
		if *got.P < 0.05 {
			wrong++
		}
		if (*got.P < 0.05) != (got.CI[0] > 0 || got.CI[1] < 0) {
			t.Fatalf("p %v and interval %v disagree", *got.P, *got.CI)
		}
	}
	if share := float64(wrong) / deals; share < 0.035 || share > 0.065 {
		t.Errorf("%.3f of equal pairs are told apart", share)
	}
}

func TestPanelsAgainstChance(t *testing.T) {
	for _, c := range []struct {
		kind         string
		picks, votes int64
		p            float64
	}{
		{Preference, 5, 5, 2.0 / 32}, {Preference, 0, 5, 2.0 / 32}, {Preference, 6, 6, 2.0 / 64}, {Preference, 3, 6, 1}, {Preference, 4, 5, 12.0 / 32},
		{OddOneOut, 3, 3, 1.0 / 27}, {OddOneOut, 0, 3, 1}, {OddOneOut, 2, 3, 7.0 / 27},
	} {
		got, err := Panel(PanelInput{c.kind, c.picks, c.votes})
		if err != nil || math.Abs(got.P-c.p) > 1e-9 {
			t.Errorf("%+v: p %v (%v)", c, got.P, err)
		}
	}
	// Five judges are too few, whatever they say; six can.
	five, err := Panel(PanelInput{Preference, 5, 5})
	if err != nil || five.Verdict != NotShown || *five.VotesToConvince != 6 {
		t.Errorf("five of five: %+v (%v)", five, err)
	}
	even, err := Panel(PanelInput{Preference, 4, 8})
	if err != nil || even.VotesToConvince != nil {
		t.Errorf("a tie convinces nobody: %+v (%v)", even, err)
	}
	for field, in := range map[string]PanelInput{"kind": {"best", 1, 2}, "picks": {Preference, 3, 2}, "votes": {Preference, 0, 0}} {
		_, err := Panel(in)
		wantField(t, err, field)
	}
}

// The number of votes that would convince does, and one fewer at the same share does not
// where it is the first.
func TestVotesToConvinceDo(t *testing.T) {
	for votes := int64(4); votes <= 40; votes++ {
		for picks := votes/2 + 1; picks <= votes; picks++ {
			got, err := Panel(PanelInput{Preference, picks, votes})
			if err != nil {
				t.Fatal(err)
			}
			if got.VotesToConvince == nil {
				continue
			}
			n := *got.VotesToConvince
			k := int64(quantity.Round(float64(picks) * float64(n) / float64(votes)))
			if panelP(Preference, k, n) >= 0.05 || n < votes {
				t.Fatalf("%d of %d: %d votes are said to convince, p %v", picks, votes, n, panelP(Preference, k, n))
			}
		}
	}
}

func TestStrengthsFollowTheWins(t *testing.T) {
	got, err := Rank(RankInput{Items: []string{"a", "b", "c"}, Contests: []Contest{{A: "a", B: "b", AWins: 7, BWins: 3}, {A: "b", B: "c", AWins: 7, BWins: 3}, {A: "a", B: "c", AWins: 9, BWins: 1}}})
	if err != nil {
		t.Fatal(err)
	}
	s := got.Strength
	if s[0] <= s[1] || s[1] <= s[2] || math.Abs(s[0]+s[1]+s[2]) > 1e-9 || got.Has("regularised") {
		t.Errorf("%+v", got)
	}
	for i := range s {
		for j := range s {
			if math.Abs(got.WinProbability[i][j]+got.WinProbability[j][i]-1) > 1e-9 {
				t.Errorf("%d against %d: %v", i, j, got.WinProbability[i][j])
			}
		}
		if got.SE[i] <= 0 {
			t.Errorf("standard errors %v", got.SE)
		}
	}
	// One pair: the strength is the log odds.
	pair, err := Rank(RankInput{Items: []string{"a", "b"}, Contests: []Contest{{A: "a", B: "b", AWins: 30, BWins: 10}}})
	if err != nil || math.Abs(pair.Strength[0]-pair.Strength[1]-math.Log(3)) > 1e-6 {
		t.Errorf("%+v (%v)", pair, err)
	}
	never, err := Rank(RankInput{Items: []string{"a", "b"}, Contests: []Contest{{A: "a", B: "b", AWins: 3}}})
	if err != nil || !never.Has("regularised") || math.IsInf(never.Strength[0], 0) {
		t.Errorf("never lost: %+v (%v)", never, err)
	}
}

func TestRanksThatCannotBe(t *testing.T) {
	for field, in := range map[string]RankInput{
		"items":              {Items: []string{"a"}},
		"contests[0].a":      {Items: []string{"a", "b"}, Contests: []Contest{{A: "z", B: "b", AWins: 1}}},
		"contests[0].b":      {Items: []string{"a", "b"}, Contests: []Contest{{A: "a", B: "a", AWins: 1}}},
		"contests[0].a_wins": {Items: []string{"a", "b"}, Contests: []Contest{{A: "a", B: "b", AWins: -1}}},
		"contests":           {Items: []string{"a", "b", "c"}, Contests: []Contest{{A: "a", B: "b", AWins: 1}}},
	} {
		_, err := Rank(in)
		wantField(t, err, field)
	}
	_, err := Rank(RankInput{Items: []string{"a", "a"}, Contests: []Contest{{A: "a", B: "a"}}})
	wantField(t, err, "items")
}
