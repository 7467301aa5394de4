package evidence

import (
	"math"
	"math/rand/v2"
	"testing"

	"ojime/internal/core/quantity"
)

func prints(judged int64, failed ...int64) (out []PrintCount) {
	for _, f := range failed {
		out = append(out, PrintCount{Failed: f, Judged: judged})
	}
	return out
}

func ofPrints(t *testing.T, in PrintsInput) PrintsResult {
	t.Helper()
	out, err := Prints(in)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

// Every deal is counted, by hand: of the 20 ways to deal 6 prints to two sides of three.
func TestDealsAreCountedExactly(t *testing.T) {
	for _, c := range []struct {
		a, b []PrintCount
		p    float64
	}{
		{prints(1, 1, 1, 1), prints(1, 0, 0, 0), 2.0 / 20},
		{prints(1, 1, 1, 0), prints(1, 0, 0, 0), 8.0 / 20},
		{prints(1, 1, 0, 0), prints(1, 1, 0, 0), 1},
		{prints(4, 4, 4, 4, 4), prints(4, 0, 0, 0, 0), 2.0 / 70},
		{prints(4, 0), prints(4, 0, 0, 4), 1},
		{prints(4, 4), prints(4, 0, 0, 0), 1.0 / 4},
	} {
		got := ofPrints(t, PrintsInput{A: c.a, B: c.b})
		if math.Abs(*got.P-c.p) > 1e-12 || *got.Method != "permutation" {
			t.Errorf("%v against %v: p %v, want %v", c.a, c.b, *got.P, c.p)
		}
	}
}

// Counting deals gives what listing them gives.
func TestCountingDealsIsListingThem(t *testing.T) {
	chance := rand.New(rand.NewPCG(12, 13))
	for range 100 {
		var all []PrintCount
		n := 4 + chance.IntN(6)
		for range n {
			judged := 1 + chance.Int64N(9)
			all = append(all, PrintCount{chance.Int64N(judged + 1), judged})
		}
		m := 1 + chance.IntN(n-1)
		seen := dealtApart(all, 1<<m-1)
		ways, extreme := 0, 0
		for mask := range 1 << n {
			bits := 0
			for i := range n {
				bits += mask >> i & 1
			}
			if bits != m {
				continue
			}
			ways++
			if d := dealtApart(all, mask); d >= seen || quantity.Equal(d, seen) {
				extreme++
			}
		}
		got := ofPrints(t, PrintsInput{A: all[:m], B: all[m:]})
		if math.Abs(*got.P-float64(extreme)/float64(ways)) > 1e-12 {
			t.Fatalf("%v, %d on a side: %v counted, %d of %d listed", all, m, *got.P, extreme, ways)
		}
		if *got.P < *got.LeastP-1e-12 {
			t.Fatalf("p %v below the least %v", *got.P, *got.LeastP)
		}
	}
}

func dealtApart(all []PrintCount, mask int) float64 {
	var fa, na, fb, nb float64
	for i, p := range all {
		if mask>>i&1 == 1 {
			fa, na = fa+float64(p.Failed), na+float64(p.Judged)
		} else {
			fb, nb = fb+float64(p.Failed), nb+float64(p.Judged)
		}
	}
	return math.Abs(fa/na - fb/nb)
}

// Copies that fail together are worth hardly more than prints; copies that fail on their
// own are worth more.
func TestCopiesOfAPlateAreNotEvidenceOfTheirOwn(t *testing.T) {
	together, apart := ofPrints(t, PrintsInput{A: prints(8, 0, 8, 0, 8)}).A, ofPrints(t, PrintsInput{A: prints(8, 4, 4, 4, 4)}).A
	if together.Rate != apart.Rate || together.EffectiveN >= apart.EffectiveN || together.CI[1]-together.CI[0] <= apart.CI[1]-apart.CI[0] {
		t.Errorf("together %+v, apart %+v", together, apart)
	}
	if apart.DesignEffect < 1 || apart.EffectiveN > float64(apart.Specimens) {
		t.Errorf("%+v", apart)
	}
	single := ofPrints(t, PrintsInput{A: prints(1, 0, 1, 0, 0)})
	if single.A.DesignEffect != 1.0125 && single.A.DesignEffect < 1 {
		t.Errorf("one copy a print: %+v", single.A)
	}
	none := ofPrints(t, PrintsInput{A: prints(1, 0, 0, 0)})
	if none.A.DesignEffect != 1 || !none.Has("assumed_clustering") || math.Abs(*none.A.UpperIfNone-(1-math.Pow(0.05, 1.0/3))) > 1e-12 {
		t.Errorf("none failed: %+v", none)
	}
}

// Intervals over prints cover the true rate about as often as they say, though copies
// share their plate; those over specimens do not.
func TestIntervalsOverPrintsCover(t *testing.T) {
	chance := rand.New(rand.NewPCG(5, 55))
	overPrints, overSpecimens := 0, 0
	const many, rate, correlation = 2000, 0.3, 0.35
	theta := (1 - correlation) / correlation
	for range many {
		var a []PrintCount
		for range 4 {
			own := betaOf(chance, rate*theta, (1-rate)*theta)
			p := PrintCount{Judged: 8}
			for range 8 {
				if chance.Float64() < own {
					p.Failed++
				}
			}
			a = append(a, p)
		}
		got := ofPrints(t, PrintsInput{A: a}).A
		if got.CI[0] <= rate && rate <= got.CI[1] {
			overPrints++
		}
		if ci := (Count{got.Failed, got.Specimens}).wilson(); ci[0] <= rate && rate <= ci[1] {
			overSpecimens++
		}
	}
	if share := float64(overPrints) / many; share < 0.9 {
		t.Errorf("intervals over prints cover in %.3f of cases", share)
	}
	if share := float64(overSpecimens) / many; share > 0.85 {
		t.Errorf("intervals over specimens cover in %.3f: the simulation shows nothing", share)
	}
}

func betaOf(chance *rand.Rand, a, b float64) float64 {
	for {
		x, y := math.Pow(chance.Float64(), 1/a), math.Pow(chance.Float64(), 1/b)
		if x+y <= 1 && x+y > 0 {
			return x / (x + y)
		}
	}
}

func TestPrintsNeededFollowWhatMatters(t *testing.T) {
	in := PrintsInput{A: prints(6, 1, 0, 1, 0), B: prints(6, 1, 1, 0, 1)}
	usual := ofPrints(t, in)
	in.Matters = quantity.Ptr(0.5)
	coarse := ofPrints(t, in)
	in.Matters = quantity.Ptr(0.05)
	fine := ofPrints(t, in)
	if *coarse.PrintsNeeded >= *usual.PrintsNeeded || *usual.PrintsNeeded >= *fine.PrintsNeeded || *coarse.PrintsNeeded < 4 {
		t.Errorf("for half %d, for a fifth %d, for a twentieth %d", *coarse.PrintsNeeded, *usual.PrintsNeeded, *fine.PrintsNeeded)
	}
	in = PrintsInput{A: prints(10, 5, 5), B: prints(10, 5, 5), Matters: quantity.Ptr(0.9)}
	if got := ofPrints(t, in); got.PrintsNeeded != nil {
		t.Errorf("no rate is 0.9 from a half: %d", *got.PrintsNeeded)
	}
}

func TestManyPrintsAreComparedByTheirShares(t *testing.T) {
	spread := func(n int, of ...int64) (out []PrintCount) {
		for i := range n {
			out = append(out, PrintCount{of[i%len(of)], 4})
		}
		return out
	}
	if got := ofPrints(t, PrintsInput{A: spread(12, 0, 1), B: spread(12, 3, 4)}); *got.Method != "welch" || *got.Verdict != Clear {
		t.Errorf("%s, p %v", *got.Method, *got.P)
	}
	if got := ofPrints(t, PrintsInput{A: spread(12, 1), B: spread(12, 1)}); *got.P != 1 {
		t.Errorf("without spread, alike: p %v", *got.P)
	}
	if got := ofPrints(t, PrintsInput{A: spread(12, 1), B: spread(12, 2)}); *got.P != *got.LeastP {
		t.Errorf("without spread, unlike: p %v", *got.P)
	}
	if got := ofPrints(t, PrintsInput{A: spread(9, 0, 1), B: spread(9, 3, 4)}); *got.Method != "permutation" {
		t.Errorf("48 620 deals are %s", *got.Method)
	}
}

func TestPrintsThatCannotBe(t *testing.T) {
	for path, in := range map[string]PrintsInput{
		"a": {}, "b": {A: prints(1, 0), B: []PrintCount{}}, "a[1].judged": {A: []PrintCount{{0, 1}, {0, 0}}}, "b[0].failed": {A: prints(1, 0), B: prints(2, 3)},
		"a[0].failed": {A: prints(2, -1)}, "matters": {A: prints(1, 0), Matters: quantity.Ptr(1.0)},
	} {
		_, err := Prints(in)
		wantField(t, err, path)
	}
}

func TestHolmNeverMakesAPSmaller(t *testing.T) {
	chance := rand.New(rand.NewPCG(1, 9))
	for range 300 {
		var in HolmInput
		for range chance.IntN(12) {
			if chance.IntN(5) == 0 {
				in.P = append(in.P, nil)
			} else {
				in.P = append(in.P, quantity.Ptr(chance.Float64()*chance.Float64()))
			}
		}
		got, err := Holm(in)
		if err != nil {
			t.Fatal(err)
		}
		for i, p := range in.P {
			if (p == nil) != (got.Adjusted[i] == nil) {
				t.Fatalf("%d", i)
			}
			if p == nil {
				continue
			}
			if *got.Adjusted[i] < *p || *got.Adjusted[i] > math.Min(1, *p*float64(got.M))+1e-12 {
				t.Fatalf("%v became %v of %d", *p, *got.Adjusted[i], got.M)
			}
			for j, q := range in.P {
				if q != nil && *p < *q && *got.Adjusted[i] > *got.Adjusted[j] {
					t.Fatalf("%v above %v, though %v below %v", *got.Adjusted[i], *got.Adjusted[j], *p, *q)
				}
			}
		}
	}
	for path, in := range map[string]HolmInput{"p[0]": {P: []*float64{quantity.Ptr(-0.1)}}, "p[1]": {P: []*float64{nil, quantity.Ptr(math.NaN())}}} {
		_, err := Holm(in)
		wantField(t, err, path)
	}
}

func TestJudgesAreTheUnitOfABlindChoice(t *testing.T) {
	vote := func(choices ...string) (in BallotsInput) {
		for judge, all := range choices {
			for pair, c := range all {
				in.Ballots = append(in.Ballots, Ballot{Judge: string(rune('A' + judge)), Pair: string(rune('1' + pair)), Choice: map[rune]string{'a': ChoiceA, 'b': ChoiceB, '-': ChoiceNone}[c]})
			}
		}
		return in
	}
	for _, c := range []struct {
		votes    []string
		p, least float64
		share    float64
	}{
		{[]string{"a", "a", "a", "a", "a"}, 2.0 / 32, 2.0 / 32, 1},
		{[]string{"a", "a", "a", "a", "a", "a"}, 2.0 / 64, 2.0 / 64, 1},
		{[]string{"aaaaaaaaaaaa"}, 1, 1, 1}, // one judge, however many votes
		{[]string{"ab", "-", "ba"}, 1, 1, 0.5},
		{[]string{"aa", "ab", "bb"}, 1, 0.5, 0.5},
	} {
		got, err := Ballots(vote(c.votes...))
		if err != nil || math.Abs(got.P-c.p) > 1e-12 || math.Abs(got.LeastP-c.least) > 1e-12 || math.Abs(got.Share-c.share) > 1e-12 || got.Has("too_few_judges") != (c.least >= 0.05) {
			t.Errorf("%v: %+v (%v)", c.votes, got, err)
		}
	}
	var many []string
	for range 30 {
		many = append(many, "aab")
	}
	if got, err := Ballots(vote(many...)); err != nil || got.Verdict != Clear || got.Judges != 30 || got.Pairs[2].B != 30 {
		t.Errorf("thirty judges: %+v (%v)", got, err)
	}
	for path, in := range map[string]BallotsInput{"ballots": {}, "ballots[0].judge": {Ballots: []Ballot{{"", "1", "a"}}}, "ballots[0].pair": {Ballots: []Ballot{{"j", "", "a"}}}, "ballots[0].choice": {Ballots: []Ballot{{"j", "1", "left"}}}} {
		_, err := Ballots(in)
		wantField(t, err, path)
	}
}
