package blind

import (
	"errors"
	"math"
	"math/rand/v2"
	"testing"

	"ojime/internal/core/evidence"
	"ojime/internal/core/quantity"
)

// answered asks a judge of every trial.
func answered(d Deal, say func(judge int, t Trial) Answer) (out []Answer) {
	for j, ballot := range d.Ballots {
		for i, trial := range ballot {
			a := say(j, trial)
			a.Judge, a.Trial = j, i
			out = append(out, a)
		}
	}
	return out
}

func results(t *testing.T, in Input, d Deal, answers []Answer) Result {
	t.Helper()
	out, err := Results(in, d, answers)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

// place is where an arm stands in a trial.
func place(t Trial, arm int) int {
	for i, s := range t.Shown {
		if s.Arm == arm {
			return i
		}
	}
	return NoDifference
}

func TestAPreferenceIsCountedByArmNotBySide(t *testing.T) {
	in := Input{Kind: Preference, Arms: arms(3, 3), Judges: 8, Repeats: 1, Same: 1, Seed: 5}
	d := deal(t, in)
	// All prefer the second arm, and see nothing between two of one.
	got := results(t, in, d, answered(d, func(_ int, t Trial) Answer {
		if t.Pair[0] == t.Pair[1] {
			return Answer{Place: NoDifference}
		}
		return Answer{Place: place(t, 1)}
	}))
	if got.Judges != 8 || got.Answers != 24 || len(got.Pairs) != 1 || got.Guessed != nil || len(got.Ranked) != 0 {
		t.Fatalf("%+v", got)
	}
	b := got.Pairs[0].Ballots
	if b.A != 0 || b.B != 16 || b.Judges != 8 || b.P >= 0.05 || b.RepeatAgreement == nil || *b.RepeatAgreement != 1 {
		t.Errorf("%+v", b)
	}
	if *got.Alike != (Alike{0, 8}) || got.Left.Of != 16 || got.Left.Left != 8 || got.Left.P != 1 || got.Has("one_sided") {
		t.Errorf("alike %+v, left %+v: a repeat turns its places, so that both sides are chosen as often", got.Alike, got.Left)
	}
	// One who always points to the left prefers no arm, is caught by the sides and by the check.
	got = results(t, in, d, answered(d, func(int, Trial) Answer { return Answer{Place: 0} }))
	if b := got.Pairs[0].Ballots; b.A != 8 || b.B != 8 || *b.RepeatAgreement != 0 {
		t.Errorf("%+v", b)
	}
	if *got.Alike != (Alike{8, 8}) || got.Left.Left != 24 || !got.Has("one_sided") {
		t.Errorf("alike %+v, left %+v", got.Alike, got.Left)
	}
	// With five judges nothing can be shown, and that is said.
	five := in
	five.Judges = 5
	d = deal(t, five)
	if got := results(t, five, d, answered(d, func(_ int, t Trial) Answer { return Answer{Place: place(t, t.Pair[1])} })); !got.Pairs[0].Ballots.Has("too_few_judges") {
		t.Errorf("%+v", got.Pairs[0].Ballots)
	}
}

func TestGuessesAreHeldAgainstChance(t *testing.T) {
	in := Input{Kind: OddOneOut, Arms: arms(4, 4), Judges: 12, Seed: 8}
	d := deal(t, in)
	sees := results(t, in, d, answered(d, func(_ int, t Trial) Answer { return Answer{Place: t.Odd} })).Guessed
	if sees.Right != 12 || sees.Chance != 1.0/3 || math.Abs(sees.P-math.Pow(1.0/3, 12)) > 1e-12 || sees.Verdict != evidence.VerdictOf(0.001) || sees.CI[1] < 0.999 {
		t.Errorf("%+v", sees)
	}
	blindly := results(t, in, d, answered(d, func(_ int, t Trial) Answer { return Answer{Place: (t.Odd + 1) % 3} })).Guessed
	if blindly.Right != 0 || blindly.P != 1 || blindly.Share != 0 {
		t.Errorf("%+v", blindly)
	}
	match := Input{Kind: Matching, Arms: arms(2, 2, 2, 2), Judges: 6, Seed: 8}
	d = deal(t, match)
	half := results(t, match, d, answered(d, func(j int, t Trial) Answer {
		if j%2 == 0 {
			return Answer{Arm: t.Shown[0].Arm}
		}
		return Answer{Arm: (t.Shown[0].Arm + 1) % 4}
	})).Guessed
	if half.Right != 12 || half.Of != 24 || half.Chance != 0.25 || half.P >= 0.05 || half.P < 1e-4 {
		t.Errorf("%+v", half)
	}
}

// Where judges guess, a panel shows something as seldom as it says.
func TestGuessesShowNothing(t *testing.T) {
	chance := rand.New(rand.NewPCG(2, 7))
	shown, of := 0, 600
	for seed := range of {
		in := Input{Kind: Matching, Arms: arms(2, 2, 2), Judges: 10, Seed: int64(seed)}
		d := deal(t, in)
		// Every judge says what was not said before, as one would who thinks that each comes once.
		got := results(t, in, d, answered(d, func(j int, t Trial) Answer { return Answer{Arm: (j + chance.IntN(3)) % 3} }))
		if got.Guessed.P < 0.05 {
			shown++
		}
	}
	if share := float64(shown) / float64(of); share > 0.05+3*math.Sqrt(0.05*0.95/float64(of)) {
		t.Errorf("%d of %d panels of guesses show something", shown, of)
	}
}

func TestARankingIsOfJudges(t *testing.T) {
	in := Input{Kind: Ranking, Arms: arms(2, 2, 2), Judges: 9, Seed: 4}
	d := deal(t, in)
	// The third arm before the first before the second, but for one judge, who says the opposite.
	orders := func(judge int, t Trial) Answer {
		order := []int{place(t, 2), place(t, 0), place(t, 1)}
		if judge == 0 {
			order = []int{place(t, 1), place(t, 0), place(t, 2)}
		}
		return Answer{Order: order}
	}
	got := results(t, in, d, answered(d, orders))
	r := got.Ranked
	if len(r) != 3 || !(r[2].Strength > r[0].Strength && r[0].Strength > r[1].Strength) || math.Abs(r[0].Strength+r[1].Strength+r[2].Strength) > 1e-9 {
		t.Fatalf("%+v", r)
	}
	if r[2].SE == nil || *r[2].SE <= 0 || *r[0].SE > *r[2].SE {
		t.Errorf("the one that a judge turned over is less sure than the one in the middle: %+v", r)
	}
	two := results(t, in, d, answered(d, orders)[1:3])
	if two.Ranked[0].SE != nil || !two.Has("too_few_judges") || two.Judges != 2 {
		t.Errorf("%+v", two)
	}
}

func TestAnswersThatCannotBe(t *testing.T) {
	sure := quantity.Ptr[int64]
	for _, c := range []struct {
		kind   string
		answer Answer
		field  string
	}{
		{Preference, Answer{Judge: 3}, "answers[0].judge"}, {Preference, Answer{Trial: 1}, "answers[0].trial"}, {Preference, Answer{Place: 2}, "answers[0].place"}, {Preference, Answer{Place: -2}, "answers[0].place"},
		{Preference, Answer{Sure: sure(5)}, "answers[0].sure"}, {OddOneOut, Answer{Place: NoDifference}, "answers[0].place"}, {OddOneOut, Answer{Place: 3}, "answers[0].place"}, {Matching, Answer{Arm: 2}, "answers[0].arm"},
		{Ranking, Answer{Order: []int{0}}, "answers[0].order"}, {Ranking, Answer{Order: []int{0, 0}}, "answers[0].order"}, {Ranking, Answer{Order: []int{1, 2}}, "answers[0].order"}, {Ranking, Answer{Order: []int{-1, 0}}, "answers[0].order"},
	} {
		in := Input{Kind: c.kind, Arms: arms(2, 2), Judges: 2, Seed: 1}
		d := deal(t, in)
		if c.kind == Matching {
			d.Ballots[0] = d.Ballots[0][:1]
		}
		var at *quantity.FieldError
		if _, err := Results(in, d, []Answer{c.answer}); !errors.As(err, &at) || at.Path != c.field {
			t.Errorf("%s %+v: %v, want field %s", c.kind, c.answer, err, c.field)
		}
	}
	in := Input{Kind: Preference, Arms: arms(2, 2), Judges: 2, Seed: 1}
	d := deal(t, in)
	var at *quantity.FieldError
	if _, err := Results(in, d, []Answer{{}, {}}); !errors.As(err, &at) || at.Path != "answers[1].trial" {
		t.Errorf("answered twice: %v", err)
	}
	if got := results(t, in, d, nil); !got.Has("no_answers") || got.Pairs == nil {
		t.Errorf("%+v", got)
	}
}
