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

// PairResult is what was chosen between two arms, a the first of the pair. JudgesNeeded is about how many
// judges would show it, were those who prefer one divided as they are: by the exact binomial over them; nil
// where it is shown already, where they are even, or where 10,000 would not do.
type PairResult struct {
	Pair         [2]int                 `json:"pair"`
	Ballots      evidence.BallotsResult `json:"ballots"`
	JudgesNeeded *int64                 `json:"judges_needed"`
}

// Guessed is how often judges were right where a guess may be: Right of Of, by chance Chance of them; P is the
// exact upper tail of the binomial, CI Wilson's interval of the share. Least is the fewest answers of which all
// right would be shown; Needed about how many would show the share that was found, nil where it is shown
// already, at chance or below it, or where 10,000 would not do.
type Guessed struct {
	Right   int64             `json:"right"`
	Of      int64             `json:"of"`
	Chance  float64           `json:"chance"`
	Share   float64           `json:"share"`
	CI      quantity.Interval `json:"ci"`
	P       float64           `json:"p"`
	Verdict string            `json:"verdict"`
	Least   int64             `json:"least"`
	Needed  *int64            `json:"needed"`
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

// SureRow is how many answers were given with a sureness, 0 a guess to 4 certain, and how many of them were
// right; nil where an answer can be neither.
type SureRow struct {
	Sure    int64  `json:"sure"`
	Answers int64  `json:"answers"`
	Right   *int64 `json:"right"`
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
	// Sure are the five steps of sureness; empty where nobody said how sure.
	Sure []SureRow `json:"sure"`
	quantity.Warnings
}

// Results works out what the answers to a dealt panel show. An answer to no trial, a second one to the same, and
// one that its kind does not allow are errors that name it. Trials that nobody answered are left out.
func Results(in Input, d Deal, answers []Answer) (Result, error) {
	if err := CheckAnswers(in, d, answers); err != nil {
		return Result{}, err
	}
	judges := map[int]bool{}
	for _, a := range answers {
		judges[a.Judge] = true
	}
	out := Result{Answers: int64(len(answers)), Judges: int64(len(judges)), Pairs: []PairResult{}, Ranked: []Strength{}, Sure: []SureRow{}, Warnings: quantity.None()}
	if len(answers) == 0 {
		out.Warn("no_answers", "Nobody has answered yet.")
		return out, nil
	}
	var right func(Answer) bool
	chance := 1.0 / 3
	switch in.Kind {
	case Preference:
		err := out.prefer(d, answers)
		out.Sure = sure(answers, nil)
		return out, err
	case Ranking:
		err := out.rank(in, d, answers)
		out.Sure = sure(answers, nil)
		return out, err
	case OddOneOut:
		right = func(a Answer) bool { return a.Place == d.Ballots[a.Judge][a.Trial].Odd }
	case Matching:
		right, chance = func(a Answer) bool { return a.Arm == d.Ballots[a.Judge][a.Trial].Shown[0].Arm }, 1/float64(len(in.Arms))
	}
	out.Guessed, out.Sure = guessed(answers, chance, right), sure(answers, right)
	return out, nil
}

// sure counts answers by how sure the judge was.
func sure(answers []Answer, right func(Answer) bool) []SureRow {
	out, said := make([]SureRow, surest+1), false
	for i := range out {
		if out[i].Sure = int64(i); right != nil {
			out[i].Right = new(int64)
		}
	}
	for _, a := range answers {
		if a.Sure == nil {
			continue
		}
		said = true
		row := &out[*a.Sure]
		if row.Answers++; right != nil && right(a) {
			*row.Right++
		}
	}
	if !said {
		return []SureRow{}
	}
	return out
}

// surest is certain.
const surest = 4

// CheckAnswers reports answers to no trial of a deal, second ones to the same, and those that its kind does not
// allow, by field (answers[3].place). It needs of the deal no more than how many each trial shows.
func CheckAnswers(in Input, d Deal, answers []Answer) error {
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
		if a.Sure != nil && (*a.Sure < 0 || *a.Sure > surest) {
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
		needed, err := judgesNeeded(byPair[pair], counted)
		if err != nil {
			return err
		}
		r.Pairs = append(r.Pairs, PairResult{pair, counted, needed})
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
	out.P = byGuessing(out.Right, out.Of, chance)
	out.Share, out.CI, out.Verdict = float64(out.Right)/float64(out.Of), stats.Wilson(float64(out.Right), float64(out.Of)), evidence.VerdictOf(out.P)
	out.Least = int64(math.Floor(math.Log(evidence.Significance)/math.Log(chance))) + 1
	if out.Verdict != evidence.NotShown || out.Share <= chance {
		return &out
	}
	for n := out.Of + 1; n <= mostNeeded; n++ {
		if byGuessing(int64(math.Round(out.Share*float64(n))), n, chance) < evidence.Significance {
			out.Needed = &n
			break
		}
	}
	return &out
}

// byGuessing is the chance of so many right answers at least, of all by guessing.
func byGuessing(right, of int64, chance float64) float64 {
	if right <= 0 {
		return 1
	}
	return distuv.Binomial{N: float64(of), P: chance}.Survival(float64(right - 1))
}

// mostNeeded is where the search for enough answers ends.
const mostNeeded = 10_000

// judgesNeeded holds the judges who prefer one of a pair, by the balance of their choices, against a half.
func judgesNeeded(ballots []evidence.Ballot, counted evidence.BallotsResult) (*int64, error) {
	if counted.Verdict != evidence.NotShown {
		return nil, nil
	}
	balance := map[string]int{}
	for _, b := range ballots {
		balance[b.Judge] += map[string]int{evidence.ChoiceA: 1, evidence.ChoiceB: -1}[b.Choice]
	}
	panel := evidence.PanelInput{Kind: evidence.Preference}
	for _, n := range balance {
		if n != 0 {
			panel.Votes++
		}
		if n > 0 {
			panel.Picks++
		}
	}
	if panel.Votes == 0 {
		return nil, nil
	}
	out, err := evidence.Panel(panel)
	if n := out.VotesToConvince; n != nil && *n <= panel.Votes {
		return nil, err // as many were asked: how much each prefers it, not how many do, is too little
	}
	return out.VotesToConvince, err
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
