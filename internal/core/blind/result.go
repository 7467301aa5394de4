package blind

import (
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/stat/distuv"

	"ojime/internal/core/evidence"
	"ojime/internal/core/quantity"
	"ojime/internal/core/stats"
)

// Answer is what a judge said of one trial of their ballot: Place is the one chosen, from 0 at the left, −1
// for no difference (of a preference alone); Order are places from best to worst, of a ranking; Arm is the
// one named, of a matching. Sure is how sure the judge was, 0 a guess to 4 certain; nil where not said.
type Answer struct {
	Judge int    `json:"judge"`
	Trial int    `json:"trial"`
	Place int    `json:"place"`
	Order []int  `json:"order,omitempty"`
	Arm   int    `json:"arm"`
	Sure  *int64 `json:"sure,omitempty"`
}

// NoDifference is the place of a judge who saw none.
const NoDifference = -1

// PairResult is what was chosen between two arms, a the first of the pair.
type PairResult struct {
	Pair    [2]int                 `json:"pair"`
	Ballots evidence.BallotsResult `json:"ballots"`
}

// Guessed is how often judges were right where a guess may be: Right of Of, by chance Chance of them; P is the
// exact upper tail of the binomial, CI Wilson's interval of the share.
type Guessed struct {
	Right   int64             `json:"right"`
	Of      int64             `json:"of"`
	Chance  float64           `json:"chance"`
	Share   float64           `json:"share"`
	CI      quantity.Interval `json:"ci"`
	P       float64           `json:"p"`
	Verdict string            `json:"verdict"`
}

// Alike is how trials of two specimens of one arm were answered, where there is nothing to prefer: in how
// many of Of a difference was seen all the same.
type Alike struct {
	Seen int64 `json:"seen"`
	Of   int64 `json:"of"`
}

// Left is how often what stood on the left was preferred, where one was, with the exact two-sided p against a
// half: an even panel has no side.
type Left struct {
	Left int64   `json:"left"`
	Of   int64   `json:"of"`
	P    float64 `json:"p"`
}

// Strength is an arm of a ranking: its log strength about the mean of all, with a standard error by leaving
// out one judge after the other; nil of fewer than three judges.
type Strength struct {
	Arm      int      `json:"arm"`
	Strength float64  `json:"strength"`
	SE       *float64 `json:"se"`
}

// Result is what a panel showed. What its kind does not have is empty or nil.
type Result struct {
	Answers int64        `json:"answers"`
	Judges  int64        `json:"judges"`
	Pairs   []PairResult `json:"pairs"`
	Guessed *Guessed     `json:"guessed"`
	Alike   *Alike       `json:"alike"`
	Left    *Left        `json:"left"`
	Ranked  []Strength   `json:"ranked"`
	quantity.Warnings
}

// Results works out what the answers to a dealt panel show. An answer to no trial, a second one to the same, and
// one that its kind does not allow are errors that name it. Trials that nobody answered are left out.
func Results(in Input, d Deal, answers []Answer) (Result, error) {
	if err := checkAnswers(in, d, answers); err != nil {
		return Result{}, err
	}
	judges := map[int]bool{}
	for _, a := range answers {
		judges[a.Judge] = true
	}
	out := Result{Answers: int64(len(answers)), Judges: int64(len(judges)), Pairs: []PairResult{}, Ranked: []Strength{}, Warnings: quantity.None()}
	if len(answers) == 0 {
		out.Warn("no_answers", "Nobody has answered yet.")
		return out, nil
	}
	switch in.Kind {
	case Preference:
		return out, out.prefer(d, answers)
	case OddOneOut:
		out.Guessed = guessed(answers, 1.0/3, func(a Answer) bool { return a.Place == d.Ballots[a.Judge][a.Trial].Odd })
	case Matching:
		out.Guessed = guessed(answers, 1/float64(len(in.Arms)), func(a Answer) bool { return a.Arm == d.Ballots[a.Judge][a.Trial].Shown[0].Arm })
	case Ranking:
		return out, out.rank(in, d, answers)
	}
	return out, nil
}

func checkAnswers(in Input, d Deal, answers []Answer) error {
	var c quantity.Checks
	seen := map[[2]int]bool{}
	for i, a := range answers {
		at := fmt.Sprintf("answers[%d].", i)
		if a.Judge < 0 || a.Judge >= len(d.Ballots) {
			c.Fail(at+"judge", "is %d; the panel has judges 0 to %d", a.Judge, len(d.Ballots)-1)
			continue
		}
		if a.Trial < 0 || a.Trial >= len(d.Ballots[a.Judge]) {
			c.Fail(at+"trial", "is %d; that judge's ballot has trials 0 to %d", a.Trial, len(d.Ballots[a.Judge])-1)
			continue
		}
		if key := [2]int{a.Judge, a.Trial}; seen[key] {
			c.Fail(at+"trial", "is %d, which that judge has answered already", a.Trial)
		} else {
			seen[key] = true
		}
		shown := len(d.Ballots[a.Judge][a.Trial].Shown)
		switch in.Kind {
		case Ranking:
			if !everyPlace(a.Order, shown) {
				c.Fail(at+"order", "is no order of %d places", shown)
			}
		case Matching:
			if a.Arm < 0 || a.Arm >= len(in.Arms) {
				c.Fail(at+"arm", "is %d; the panel has arms 0 to %d", a.Arm, len(in.Arms)-1)
			}
		default:
			if a.Place >= shown || a.Place < NoDifference || a.Place == NoDifference && in.Kind != Preference {
				c.Fail(at+"place", "is %d; the places are 0 to %d, and no difference is said of a preference alone", a.Place, shown-1)
			}
		}
		if a.Sure != nil && (*a.Sure < 0 || *a.Sure > 4) {
			c.Fail(at+"sure", "is %d; it runs from 0, a guess, to 4, certain", *a.Sure)
		}
	}
	return c.Err()
}

// everyPlace reports an order in which each place stands once.
func everyPlace(order []int, places int) bool {
	seen := make([]bool, places)
	for _, p := range order {
		if p < 0 || p >= places || seen[p] {
			return false
		}
		seen[p] = true
	}
	return len(order) == places
}

// prefer counts a preference: by pair, with what was shown twice; by side; and of one arm against itself.
func (r *Result) prefer(d Deal, answers []Answer) error {
	byPair, alike, left := map[[2]int][]evidence.Ballot{}, Alike{}, Left{}
	var pairs [][2]int
	for _, a := range answers {
		trial := d.Ballots[a.Judge][a.Trial]
		if a.Place != NoDifference {
			left.Of++
			if a.Place == 0 {
				left.Left++
			}
		}
		if trial.Pair[0] == trial.Pair[1] {
			alike.Of++
			if a.Place != NoDifference {
				alike.Seen++
			}
			continue
		}
		choice := evidence.ChoiceNone
		if a.Place != NoDifference {
			choice = evidence.ChoiceB
			if trial.Shown[a.Place].Arm == trial.Pair[0] {
				choice = evidence.ChoiceA
			}
		}
		if _, known := byPair[trial.Pair]; !known {
			pairs = append(pairs, trial.Pair)
		}
		byPair[trial.Pair] = append(byPair[trial.Pair], evidence.Ballot{Judge: fmt.Sprint(a.Judge), Pair: fmt.Sprint(trial.Pair), Choice: choice})
	}
	slices.SortFunc(pairs, func(a, b [2]int) int { return slices.Compare(a[:], b[:]) })
	for _, pair := range pairs {
		counted, err := evidence.Ballots(evidence.BallotsInput{Ballots: byPair[pair]})
		if err != nil {
			return err
		}
		r.Pairs = append(r.Pairs, PairResult{pair, counted})
	}
	if alike.Of > 0 {
		r.Alike = &alike
	}
	if left.Of > 0 {
		panel, err := evidence.Panel(evidence.PanelInput{Kind: evidence.Preference, Picks: left.Left, Votes: left.Of})
		if err != nil {
			return err
		}
		left.P = panel.P
		r.Left = &left
		if panel.P < evidence.Significance {
			r.Warn("one_sided", "Judges chose one side more than chance does, whatever stood there; look at light and shadow where the panel was held.")
		}
	}
	return nil
}

// guessed is how often answers were right, against chance. Source: exact binomial, since the right answers were
// drawn for each trial on its own.
func guessed(answers []Answer, chance float64, right func(Answer) bool) *Guessed {
	out := Guessed{Of: int64(len(answers)), Chance: chance, P: 1}
	for _, a := range answers {
		if right(a) {
			out.Right++
		}
	}
	if out.Right > 0 {
		out.P = distuv.Binomial{N: float64(out.Of), P: chance}.Survival(float64(out.Right - 1))
	}
	out.Share, out.CI, out.Verdict = float64(out.Right)/float64(out.Of), stats.Wilson(float64(out.Right), float64(out.Of)), evidence.VerdictOf(out.P)
	return &out
}

// rank takes every order as a contest of each two of its places, and the judge as the unit: the error of a
// strength is that of leaving out one judge after the other (Tukey's jackknife).
func (r *Result) rank(in Input, d Deal, answers []Answer) error {
	all, err := strengths(in, d, answers)
	if err != nil {
		return err
	}
	for a, s := range all {
		r.Ranked = append(r.Ranked, Strength{Arm: a, Strength: s})
	}
	n := len(answers) // each judge ranks once
	if n < 3 {
		r.Warn("too_few_judges", "With fewer than three judges nothing is known of how far they agree.")
		return nil
	}
	without := make([][]float64, n)
	for i := range answers {
		rest := slices.Delete(slices.Clone(answers), i, i+1)
		if without[i], err = strengths(in, d, rest); err != nil {
			return err
		}
	}
	for a := range r.Ranked {
		var values []float64
		for i := range without {
			values = append(values, without[i][a])
		}
		mean, sum := stats.Mean(values), 0.0
		for _, v := range values {
			sum += (v - mean) * (v - mean)
		}
		r.Ranked[a].SE = quantity.Ptr(math.Sqrt(sum * float64(n-1) / float64(n)))
	}
	return nil
}

func strengths(in Input, d Deal, answers []Answer) ([]float64, error) {
	rank := evidence.RankInput{}
	for a := range in.Arms {
		rank.Items = append(rank.Items, fmt.Sprint(a))
	}
	for _, a := range answers {
		shown := d.Ballots[a.Judge][a.Trial].Shown
		for i, better := range a.Order {
			for _, worse := range a.Order[i+1:] {
				rank.Contests = append(rank.Contests, evidence.Contest{A: rank.Items[shown[better].Arm], B: rank.Items[shown[worse].Arm], AWins: 1})
			}
		}
	}
	out, err := evidence.Rank(rank)
	return out.Strength, err
}
