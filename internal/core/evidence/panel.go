package evidence

import (
	"math"

	"gonum.org/v1/gonum/stat/distuv"

	"ojime/internal/core/quantity"
	"ojime/internal/core/stats"
)

// Kinds of blind panels.
const (
	Preference = "preference"  // which of two; chance is 1/2
	OddOneOut  = "odd_one_out" // which of three differs (triangle, ISO 4120); chance is 1/3
)

// PanelInput is Picks of Votes.
type PanelInput struct {
	Kind  string `json:"kind"`
	Picks int64  `json:"picks"`
	Votes int64  `json:"votes"`
}

// PanelResult says whether the votes are off chance, and how many at the same
// share would be (nil when the share is not off chance or 10,000 would not do).
type PanelResult struct {
	P               float64           `json:"p"`
	Share           float64           `json:"share"`
	CI              quantity.Interval `json:"ci"`
	Verdict         string            `json:"verdict"`
	VotesToConvince *int64            `json:"votes_to_convince"`
	quantity.Warnings
}

// mostVotes is where the search for a convincing number of votes ends.
const mostVotes = 10_000

// Panel is the exact binomial test: two-sided against 1/2 for a preference,
// upper tail against 1/3 for the odd one out, with Wilson's interval.
func Panel(in PanelInput) (PanelResult, error) {
	var c quantity.Checks
	c.OneOf("kind", in.Kind, Preference, OddOneOut)
	c.CountNotBelow("picks", in.Picks)
	c.CountAbove("votes", in.Votes)
	if in.Picks > in.Votes {
		c.Fail("picks", "is %d of %d votes; it cannot be more", in.Picks, in.Votes)
	}
	if c.Err() != nil {
		return PanelResult{}, c.Err()
	}
	p := panelP(in.Kind, in.Picks, in.Votes)
	return PanelResult{
		P: p, Share: float64(in.Picks) / float64(in.Votes),
		CI: stats.Wilson(float64(in.Picks), float64(in.Votes)), Verdict: VerdictOf(p),
		VotesToConvince: votesToConvince(in), Warnings: quantity.None(),
	}, nil
}

func panelP(kind string, picks, votes int64) float64 {
	if kind == OddOneOut {
		return upperTail(picks, votes, 1.0/3)
	}
	if 2*picks == votes {
		return 1
	}
	return math.Min(1, 2*upperTail(max(picks, votes-picks), votes, 0.5))
}

// upperTail is P(X >= k) of n trials at chance p.
func upperTail(k, n int64, p float64) float64 {
	if k <= 0 {
		return 1
	}
	return distuv.Binomial{N: float64(n), P: p}.Survival(float64(k - 1))
}

func votesToConvince(in PanelInput) *int64 {
	atChance := 2*in.Picks == in.Votes
	if in.Kind == OddOneOut {
		atChance = 3*in.Picks <= in.Votes
	}
	if atChance {
		return nil
	}
	for n := in.Votes; n <= mostVotes; n++ {
		picks := int64(quantity.Round(float64(in.Picks) * float64(n) / float64(in.Votes)))
		if farBelowConvincing(in.Kind, picks, n) {
			continue
		}
		if quantity.Less(panelP(in.Kind, picks, n), 0.05) {
			return &n
		}
	}
	return nil
}

// farBelowConvincing skips the exact test where the normal score is so small
// that no exact p could reach 0.05; it only saves time.
func farBelowConvincing(kind string, picks, votes int64) bool {
	chance := 0.5
	if kind == OddOneOut {
		chance = 1.0 / 3
	}
	n := float64(votes)
	score := math.Abs(float64(picks)-n*chance) / math.Sqrt(n*chance*(1-chance))
	return score < 1.4
}
