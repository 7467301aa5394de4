package blind

import (
	"errors"
	"fmt"
	"math"
	"reflect"
	"slices"
	"testing"

	"ojime/internal/core/quantity"
)

// arms are so many arms with so many specimens each.
func arms(items ...int) (out []Arm) {
	for a, n := range items {
		arm := Arm{Name: string(rune('A' + a))}
		for i := range n {
			arm.Items = append(arm.Items, fmt.Sprintf("S-%d-%d", a, i))
		}
		out = append(out, arm)
	}
	return out
}

func deal(t *testing.T, in Input) Deal {
	t.Helper()
	out, err := New(in)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

func TestADealIsRepeatedByItsSeed(t *testing.T) {
	in := Input{Kind: Preference, Arms: arms(3, 2, 4), Judges: 9, Repeats: 2, Same: 1, Seed: 4711}
	if a, b := deal(t, in), deal(t, in); !reflect.DeepEqual(a, b) {
		t.Error("one seed deals two panels")
	}
	other := in
	other.Seed = 4712
	if reflect.DeepEqual(deal(t, in), deal(t, other)) {
		t.Error("two seeds deal one panel")
	}
}

func TestCodesSayNothing(t *testing.T) {
	first := 0
	const deals = 400
	for seed := range int64(deals) {
		d := deal(t, Input{Kind: Preference, Arms: arms(10, 10), Judges: 1, Seed: seed})
		codes := map[string]bool{}
		for i, k := range d.Key {
			if codes[k.Code] || len(k.Code) != 3 || k.Item == "" || i > 0 && d.Key[i-1].Code >= k.Code {
				t.Fatalf("%+v", d.Key)
			}
			codes[k.Code] = true
		}
		if len(d.Key) != 20 {
			t.Fatalf("%d of 20 specimens have a code", len(d.Key))
		}
		first += d.Key[0].Arm
	}
	// The first code in the order of the alphabet is of either arm as often: within four standard deviations.
	if math.Abs(float64(first)-deals/2) > 4*math.Sqrt(deals)/2 {
		t.Errorf("the first code is of the second arm %d times in %d", first, deals)
	}
}

// Whatever the panel: a trial shows no specimen twice, each under its own code, and the specimens of an arm take
// turns; what is counted here are trials that are no repeats.
func TestEveryTrialIsWellDealt(t *testing.T) {
	for seed := range int64(60) {
		for _, in := range []Input{
			{Kind: Preference, Arms: arms(1, 1), Judges: 7, Repeats: 1}, {Kind: Preference, Arms: arms(3, 2, 5), Judges: 8, Repeats: 2, Same: 2}, {Kind: Preference, Arms: arms(2, 1, 1, 1), Judges: 5, Repeats: 6, Same: 1},
			{Kind: OddOneOut, Arms: arms(2, 2), Judges: 12}, {Kind: OddOneOut, Arms: arms(3, 1, 1), Judges: 6}, {Kind: Ranking, Arms: arms(2, 3, 1, 1), Judges: 8}, {Kind: Matching, Arms: arms(4, 4, 4), Judges: 10},
		} {
			in.Seed = seed
			d := deal(t, in)
			code, uses := map[string]string{}, map[string]int{}
			for _, k := range d.Key {
				code[k.Item] = k.Code
			}
			if int64(len(d.Ballots)) != in.Judges {
				t.Fatalf("%s: %d ballots", in.Kind, len(d.Ballots))
			}
			for _, ballot := range d.Ballots {
				for i, trial := range ballot {
					seen := map[string]bool{}
					for _, s := range trial.Shown {
						if seen[s.Item] || s.Code != code[s.Item] || !slices.Contains(in.Arms[s.Arm].Items, s.Item) {
							t.Fatalf("%s: %+v", in.Kind, trial)
						}
						seen[s.Item] = true
						if trial.RepeatOf < 0 {
							uses[s.Item]++
						}
					}
					if again := trial.RepeatOf; again >= 0 {
						turned := slices.Clone(ballot[again].Shown)
						slices.Reverse(turned)
						if !slices.Equal(turned, trial.Shown) || again >= i || again == i-1 && len(ballot) > 2 {
							t.Fatalf("%s: trial %d repeats %d: %+v", in.Kind, i, again, ballot)
						}
					}
				}
			}
			for _, arm := range in.Arms {
				least, most := math.MaxInt, 0
				for _, item := range arm.Items {
					least, most = min(least, uses[item]), max(most, uses[item])
				}
				if most-least > 1 {
					t.Errorf("%s: specimens of %s are shown %d to %d times", in.Kind, arm.Name, least, most)
				}
			}
		}
	}
}

func TestSidesAreBalancedOverJudges(t *testing.T) {
	for judges := int64(1); judges <= 13; judges++ {
		left := map[[2]int][2]int64{}
		for _, ballot := range deal(t, Input{Kind: Preference, Arms: arms(2, 2, 2), Judges: judges, Seed: judges}).Ballots {
			if len(ballot) != 3 {
				t.Fatalf("%d trials of three pairs", len(ballot))
			}
			for _, trial := range ballot {
				n := left[trial.Pair]
				n[slices.Index(trial.Pair[:], trial.Shown[0].Arm)]++
				left[trial.Pair] = n
			}
		}
		for pair, n := range left {
			if d := n[0] - n[1]; d < -1 || d > 1 || n[0]+n[1] != judges {
				t.Errorf("%d judges, pair %v: left %v", judges, pair, n)
			}
		}
	}
	// Of a ranking, each arm in each place.
	places := map[[2]int]int{}
	for _, ballot := range deal(t, Input{Kind: Ranking, Arms: arms(1, 1, 1, 1), Judges: 8, Seed: 3}).Ballots {
		for place, s := range ballot[0].Shown {
			places[[2]int{s.Arm, place}]++
		}
	}
	for at, n := range places {
		if n != 2 || len(places) != 16 {
			t.Errorf("arm %d stands in place %d %d times", at[0], at[1], n)
		}
	}
}

// Where a guess may be right it is so by chance: always left, or never the same twice, fares no better.
func TestAGuessIsRightByChance(t *testing.T) {
	const judges, panels = 50, 60
	odd, kind := [3]int{}, [3]int{}
	trials, changed := 0, 0
	for seed := range int64(panels) {
		for _, ballot := range deal(t, Input{Kind: OddOneOut, Arms: arms(4, 4), Judges: judges, Seed: seed}).Ballots {
			one := ballot[0]
			odd[one.Odd]++
			for place, s := range one.Shown {
				if alone := s.Arm != one.Shown[(place+1)%3].Arm && s.Arm != one.Shown[(place+2)%3].Arm; alone != (place == one.Odd) {
					t.Fatalf("%+v", one)
				}
			}
		}
		for _, ballot := range deal(t, Input{Kind: Matching, Arms: arms(2, 2, 2), Judges: judges, Seed: seed}).Ballots {
			for i, trial := range ballot {
				kind[trial.Shown[0].Arm]++
				if i > 0 {
					trials++
					if trial.Shown[0].Arm != ballot[i-1].Shown[0].Arm {
						changed++
					}
				}
			}
		}
	}
	near := func(name string, n, of int, chance float64) {
		t.Helper()
		if sd := math.Sqrt(float64(of) * chance * (1 - chance)); math.Abs(float64(n)-chance*float64(of)) > 4*sd {
			t.Errorf("%s: %d of %d, by chance %.3f", name, n, of, chance)
		}
	}
	for place, n := range odd {
		near(fmt.Sprintf("odd in place %d", place), n, judges*panels, 1.0/3)
	}
	for arm, n := range kind {
		near(fmt.Sprintf("of arm %d", arm), n, 3*judges*panels, 1.0/3)
	}
	near("another arm than before", changed, trials, 2.0/3)
}

func TestAPanelThatCannotBeDealt(t *testing.T) {
	good := Input{Kind: Preference, Arms: arms(2, 1), Judges: 3}
	for field, spoil := range map[string]func(*Input){
		"kind": func(in *Input) { in.Kind = "beauty" }, "judges": func(in *Input) { in.Judges = 0 }, "arms": func(in *Input) { in.Arms = in.Arms[:1] }, "arms[1].items": func(in *Input) { in.Arms[1].Items = nil },
		"arms[1].items[0]": func(in *Input) { in.Arms[1].Items[0] = in.Arms[0].Items[0] }, "repeats": func(in *Input) { in.Repeats = 2 }, "same": func(in *Input) { in.Arms, in.Same = arms(1, 1), 1 },
	} {
		in := good
		in.Arms = arms(2, 1)
		spoil(&in)
		var at *quantity.FieldError
		if _, err := New(in); !errors.As(err, &at) || at.Path != field {
			t.Errorf("%v, want field %s", err, field)
		}
	}
	for _, in := range []Input{{Kind: OddOneOut, Arms: arms(1, 1), Judges: 3}, {Kind: Ranking, Arms: arms(1, 1), Judges: 3, Repeats: 1}, {Kind: Preference, Arms: arms(2, 2), Judges: 201}, {Kind: Preference, Arms: arms(1, 1), Judges: 1, Repeats: -1}, {Kind: Preference, Arms: arms(150, 51), Judges: 1}} {
		if _, err := New(in); err == nil {
			t.Errorf("%s of %d arms was dealt", in.Kind, len(in.Arms))
		}
	}
}
