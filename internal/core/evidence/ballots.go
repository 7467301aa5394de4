package evidence

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/stat/distuv"

	"ojime/internal/core/quantity"
)

// Choices of a ballot: an arm, not the place in which it was shown, or neither.
const (
	ChoiceA    = "a"
	ChoiceB    = "b"
	ChoiceNone = "none"
)

// Ballot is one judge's choice on one pair.
type Ballot struct {
	Judge  string `json:"judge"`
	Pair   string `json:"pair"`
	Choice string `json:"choice"`
}

// BallotsInput is the ballots of a blind choice, at least one.
type BallotsInput struct {
	Ballots []Ballot `json:"ballots"`
}

// PairVotes is what was chosen on one pair.
type PairVotes struct {
	Pair string `json:"pair"`
	A    int64  `json:"a"`
	B    int64  `json:"b"`
	None int64  `json:"none"`
}

// BallotsResult is the share that chose a (none counts half), with an interval and a p
// over judges. RepeatAgreement is the share of the pairs shown to a judge more than
// once on which all of that judge's choices agree; nil without any.
type BallotsResult struct {
	Judges          int64             `json:"judges"`
	Votes           int64             `json:"votes"`
	A               int64             `json:"a"`
	B               int64             `json:"b"`
	None            int64             `json:"none"`
	Share           float64           `json:"share"`
	CI              quantity.Interval `json:"ci"`
	P               float64           `json:"p"`
	LeastP          float64           `json:"least_p"`
	Verdict         string            `json:"verdict"`
	RepeatAgreement *float64          `json:"repeat_agreement"`
	Pairs           []PairVotes       `json:"pairs"`
	quantity.Warnings
}

// Ballots counts a blind choice with the judge as the unit: p flips the sign of each
// judge's balance, exactly up to mostFlipped judges. It warns too_few_judges.
func Ballots(in BallotsInput) (BallotsResult, error) {
	if err := checkBallots(in); err != nil {
		return BallotsResult{}, err
	}
	out := BallotsResult{Votes: int64(len(in.Ballots)), Pairs: []PairVotes{}, Warnings: quantity.None()}
	rows, balance := out.count(in.Ballots)
	out.Judges = int64(len(rows))
	share, _ := clustered(rows)
	out.Share, out.CI = share.rate, share.ci
	out.P, out.LeastP = flipP(balance)
	out.Verdict = VerdictOf(out.P)
	if quantity.AtMost(Significance, out.LeastP) {
		out.Warn("too_few_judges", "With so few judges who prefer one, no outcome could have shown a preference; six who do can.")
	}
	out.RepeatAgreement = agreement(in.Ballots)
	return out, nil
}

func checkBallots(in BallotsInput) error {
	var c quantity.Checks
	if len(in.Ballots) == 0 {
		c.Fail("ballots", "are empty; at least one is needed")
	}
	for i, b := range in.Ballots {
		at := fmt.Sprintf("ballots[%d].", i)
		if b.Judge == "" {
			c.Fail(at+"judge", "is missing; give each judge a name or number")
		}
		if b.Pair == "" {
			c.Fail(at+"pair", "is missing; give each pair a name or number")
		}
		c.OneOf(at+"choice", b.Choice, ChoiceA, ChoiceB, ChoiceNone)
	}
	return c.Err()
}

// count adds the ballots up, by pair and by judge in the order of their first, and
// gives each judge's balance of a over b.
func (out *BallotsResult) count(ballots []Ballot) (rows []cluster, balance []int64) {
	pair, judge := map[string]int{}, map[string]int{}
	for _, b := range ballots {
		p, known := pair[b.Pair]
		if !known {
			p = len(out.Pairs)
			pair[b.Pair], out.Pairs = p, append(out.Pairs, PairVotes{Pair: b.Pair})
		}
		j, known := judge[b.Judge]
		if !known {
			j = len(rows)
			judge[b.Judge], rows, balance = j, append(rows, cluster{}), append(balance, 0)
		}
		rows[j].of++
		switch b.Choice {
		case ChoiceA:
			out.A, out.Pairs[p].A, balance[j] = out.A+1, out.Pairs[p].A+1, balance[j]+1
			rows[j].events++
		case ChoiceB:
			out.B, out.Pairs[p].B, balance[j] = out.B+1, out.Pairs[p].B+1, balance[j]-1
		default:
			out.None, out.Pairs[p].None = out.None+1, out.Pairs[p].None+1
			rows[j].events += 0.5
		}
	}
	return rows, balance
}

// mostFlipped is up to how many judges sign patterns are counted exactly.
const mostFlipped = 20

// flipP is the share of sign patterns of the balances whose sum is at least as far
// from 0 as the one seen, and the least that it could have been.
func flipP(balance []int64) (p, least float64) {
	ways := map[int64]float64{0: 1}
	var total, squares float64
	judges := 0
	for _, d := range balance {
		if d == 0 {
			continue
		}
		judges++
		total, squares = total+float64(d), squares+float64(d*d)
		if judges > mostFlipped {
			continue
		}
		next := map[int64]float64{}
		for at, n := range ways {
			next[at+d] += n
			next[at-d] += n
		}
		ways = next
	}
	if judges == 0 {
		return 1, 1
	}
	least = math.Min(1, 2/math.Pow(2, float64(judges)))
	if judges > mostFlipped {
		return 2 * distuv.UnitNormal.Survival(math.Abs(total)/math.Sqrt(squares)), least
	}
	var extreme float64
	for at, n := range ways {
		if math.Abs(float64(at)) >= math.Abs(total) {
			extreme += n
		}
	}
	return extreme / math.Pow(2, float64(judges)), least
}

func agreement(ballots []Ballot) *float64 {
	type shown struct{ judge, pair string }
	times, choice, agree := map[shown]int{}, map[shown]string{}, map[shown]bool{}
	for _, b := range ballots {
		key := shown{b.Judge, b.Pair}
		if times[key]++; times[key] == 1 {
			choice[key], agree[key] = b.Choice, true
			continue
		}
		agree[key] = agree[key] && choice[key] == b.Choice
	}
	var repeated, same float64
	for key, n := range times {
		if n < 2 {
			continue
		}
		repeated++
		if agree[key] {
			same++
		}
	}
	if repeated == 0 {
		return nil
	}
	return quantity.Ptr(same / repeated)
}
