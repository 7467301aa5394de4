package evidence

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/stat/distuv"

	"ojime/internal/core/quantity"
	"ojime/internal/core/stats"
)

// PrintCount is one print: Failed of Judged specimens, at least one judged.
type PrintCount struct {
	Failed int64 `json:"failed"`
	Judged int64 `json:"judged"`
}

// PrintsInput is the prints of one side, or of two. Matters is the difference of
// rates that would matter, between 0 and 1 (default 0.2).
type PrintsInput struct {
	A       []PrintCount `json:"a"`
	B       []PrintCount `json:"b,omitempty"`
	Matters *float64     `json:"matters,omitempty"`
}

// UsualMatters is the difference of rates that matters where none is stated.
const UsualMatters = 0.2

// PrintsSide is a side's rate over its specimens, with an interval that knows that
// copies of one print share its fate: EffectiveN is how many independent specimens
// they are worth, DesignEffect (≥ 1) by how much fewer. UpperIfNone is what a rate
// of none seen may still be.
type PrintsSide struct {
	Prints       int64             `json:"prints"`
	Specimens    int64             `json:"specimens"`
	Failed       int64             `json:"failed"`
	Rate         float64           `json:"rate"`
	DesignEffect float64           `json:"design_effect"`
	EffectiveN   float64           `json:"effective_n"`
	CI           quantity.Interval `json:"ci"`
	UpperIfNone  *float64          `json:"upper_if_none"`
}

// PrintsResult is one side, or two and their difference a − b. LeastP is the
// smallest p that so many prints could give, PrintsNeeded a side how many would
// show a difference that matters with 80 % power. All but A is nil without B.
type PrintsResult struct {
	A            PrintsSide         `json:"a"`
	B            *PrintsSide        `json:"b"`
	Difference   *float64           `json:"difference"`
	CI           *quantity.Interval `json:"ci"`
	P            *float64           `json:"p"`
	Method       *string            `json:"method"`
	LeastP       *float64           `json:"least_p"`
	Verdict      *string            `json:"verdict"`
	PrintsNeeded *int64             `json:"prints_needed"`
	quantity.Warnings
}

// Significance is the p below which something is shown.
const Significance = 0.05

// Prints counts failures with the print as the unit: the design effect is the ratio
// estimator's (Rao and Scott 1992), held towards an intra-plate correlation of 0.45
// where prints are few; p deals the prints anew between the sides, or is Welch's on
// the prints' own shares above mostDeals deals. It warns assumed_clustering and
// too_few_prints.
func Prints(in PrintsInput) (PrintsResult, error) {
	matters := quantity.Or(in.Matters, UsualMatters)
	var c quantity.Checks
	checkPrints(&c, "a", in.A)
	if in.B != nil {
		checkPrints(&c, "b", in.B)
	}
	c.Above("matters", matters)
	if matters >= 1 {
		c.Fail("matters", "is %v; a difference of rates that matters lies between 0 and 1", matters)
	}
	if c.Err() != nil {
		return PrintsResult{}, c.Err()
	}
	out := PrintsResult{Warnings: quantity.None()}
	out.A = out.side(in.A)
	if in.B == nil {
		return out, nil
	}
	b := out.side(in.B)
	out.B = &b
	out.difference(in, matters)
	return out, nil
}

func checkPrints(c *quantity.Checks, side string, prints []PrintCount) {
	if len(prints) == 0 {
		c.Fail(side, "is empty; at least one print is needed")
	}
	for i, p := range prints {
		if p.Failed >= 0 && p.Judged > 0 && p.Failed <= p.Judged {
			continue // a field is named only where something is wrong with it
		}
		at := fmt.Sprintf("%s[%d].", side, i)
		c.CountNotBelow(at+"failed", p.Failed)
		c.CountAbove(at+"judged", p.Judged)
		if p.Failed > p.Judged {
			c.Fail(at+"failed", "is %d of %d judged; it cannot be more", p.Failed, p.Judged)
		}
	}
}

func (out *PrintsResult) side(prints []PrintCount) PrintsSide {
	rows := make([]cluster, len(prints))
	s := PrintsSide{Prints: int64(len(prints))}
	for i, p := range prints {
		rows[i] = cluster{float64(p.Failed), float64(p.Judged)}
		s.Failed, s.Specimens = s.Failed+p.Failed, s.Specimens+p.Judged
	}
	share, assumed := clustered(rows)
	if assumed {
		out.Warn("assumed_clustering", "So few prints, or prints so alike, do not show how far copies of one print share its fate; it is assumed (correlation 0.45).")
	}
	s.Rate, s.DesignEffect, s.EffectiveN, s.CI = share.rate, share.effect, share.n, share.ci
	if s.Failed == 0 {
		s.UpperIfNone = quantity.Ptr(1 - math.Pow(0.05, 1/s.EffectiveN))
	}
	return s
}

// cluster is what is counted of one print, or of one judge.
type cluster struct{ events, of float64 }

// clusteredShare is a share over clusters with what they are worth.
type clusteredShare struct {
	rate, effect, n float64
	ci              quantity.Interval
}

// assumedCorrelation is between copies of one print where the data do not tell.
const assumedCorrelation = 0.45

// clustered is a share of events over clusters. assumed says that the design effect
// is not known from them.
func clustered(rows []cluster) (s clusteredShare, assumed bool) {
	var events, of float64
	for _, r := range rows {
		events, of = events+r.events, of+r.of
	}
	m := float64(len(rows))
	s.rate = events / of
	usual := 1 + assumedCorrelation*(of/m-1)
	s.effect = math.Max(1, usual)
	if m >= 2 && s.rate > 0 && s.rate < 1 {
		var sum float64
		for _, r := range rows {
			rest := r.events - s.rate*r.of
			sum += rest * rest
		}
		seen := m / ((m - 1) * of * of) * sum / (s.rate * (1 - s.rate) / of)
		s.effect = math.Max(1, (6*usual+(m-1)*seen)/(m+5))
	} else {
		assumed = true
	}
	s.n = of / s.effect
	s.ci = stats.Wilson(s.rate*s.n, s.n)
	return s, assumed
}

func (out *PrintsResult) difference(in PrintsInput, matters float64) {
	a, b := out.A, *out.B
	d := a.Rate - b.Rate
	if quantity.Equal(a.Rate, b.Rate) {
		d = 0
	}
	out.Difference = &d
	// Newcombe's method 10 (1998).
	out.CI = &quantity.Interval{d - math.Hypot(a.Rate-a.CI[0], b.CI[1]-b.Rate), d + math.Hypot(a.CI[1]-a.Rate, b.Rate-b.CI[0])}
	least := LeastP(len(in.A), len(in.B))
	p, method := dealP(in.A, in.B, least)
	out.P, out.Method, out.LeastP, out.Verdict = &p, &method, &least, quantity.Ptr(VerdictOf(p))
	if quantity.AtMost(Significance, least) {
		out.Warn("too_few_prints", "With %d against %d prints no outcome could have shown a difference; four against four can.", a.Prints, b.Prints)
	}
	out.PrintsNeeded = printsNeeded(a, b, matters)
}

// LeastP is the smallest p that a deal of so many prints a side can give.
func LeastP(a, b int) float64 {
	sides := 1.0
	if a == b {
		sides = 2
	}
	return sides / deals(a, b)
}

// deals is the binomial coefficient C(a+b, a), +Inf where it is beyond all numbers.
func deals(a, b int) float64 {
	out := 1.0
	for i := 1; i <= min(a, b); i++ {
		out *= float64(max(a, b)+i) / float64(i)
	}
	return quantity.Round(out)
}

// mostDeals is up to how many deals are counted.
const mostDeals = 200_000

// dealP is the share of deals of the prints between the sides whose rates differ at
// least as much as those seen.
func dealP(a, b []PrintCount, least float64) (p float64, method string) {
	all := deals(len(a), len(b))
	if all > mostDeals {
		return sharesP(a, b, least), "welch"
	}
	var failed, judged int64
	for _, n := range append(append([]PrintCount{}, a...), b...) {
		failed, judged = failed+n.Failed, judged+n.Judged
	}
	differ := func(f, n int64) float64 {
		return math.Abs(float64(f)/float64(n) - float64(failed-f)/float64(judged-n))
	}
	var f, n int64
	for _, p := range a {
		f, n = f+p.Failed, n+p.Judged
	}
	seen := differ(f, n)
	var extreme float64
	for at, ways := range dealt(append(append([]PrintCount{}, a...), b...), len(a)) {
		if d := differ(at.failed, at.judged); d >= seen || quantity.Equal(d, seen) {
			extreme += ways
		}
	}
	return math.Min(1, extreme/all), "permutation"
}

// sum is what one side of a deal adds up to.
type sum struct{ failed, judged int64 }

// dealt counts in how many ways so many of the prints add up to each sum: the deals
// are counted, not listed.
func dealt(prints []PrintCount, many int) map[sum]float64 {
	ways := make([]map[sum]float64, many+1)
	for k := range ways {
		ways[k] = map[sum]float64{}
	}
	ways[0][sum{}] = 1
	for i, p := range prints {
		for k := min(i+1, many); k > 0; k-- {
			for at, n := range ways[k-1] {
				ways[k][sum{at.failed + p.Failed, at.judged + p.Judged}] += n
			}
		}
	}
	return ways[many]
}

// sharesP is Welch's test on the prints' own shares.
func sharesP(a, b []PrintCount, least float64) float64 {
	shares := func(prints []PrintCount) (out []float64) {
		for _, p := range prints {
			out = append(out, float64(p.Failed)/float64(p.Judged))
		}
		return out
	}
	d, u, df := welch(shares(a), shares(b))
	switch {
	case u > 0:
		return 2 * distuv.StudentsT{Mu: 0, Sigma: 1, Nu: df}.Survival(math.Abs(d)/u)
	case d == 0:
		return 1
	}
	return least
}

// welch is the difference of means, its standard error and Welch's degrees of freedom.
// A sample of one adds no spread.
func welch(a, b []float64) (difference, u, df float64) {
	var square, parts float64
	for _, v := range [][]float64{a, b} {
		if n := float64(len(v)); n >= 2 {
			of := stats.SampleVar(v) / n
			square, parts = square+of, parts+of*of/(n-1)
		}
	}
	return stats.Mean(a) - stats.Mean(b), math.Sqrt(square), square * square / parts
}

// leastPrints is the fewest prints a side that are asked for: fewer show nothing.
const leastPrints = 4

func printsNeeded(a, b PrintsSide, matters float64) *int64 {
	specimens := float64(a.Specimens + b.Specimens)
	p1 := float64(a.Failed+b.Failed+1) / (specimens + 2)
	return printsFor(p1, matters, (a.DesignEffect+b.DesignEffect)/2, specimens/float64(a.Prints+b.Prints))
}

// printsFor is how many prints a side tell a rate from one that differs by what matters.
func printsFor(p1, matters, effect, perPrint float64) *int64 {
	p2 := p1 + matters
	if quantity.Less(1, p2) {
		p2 = p1 - matters
	}
	if quantity.Less(p2, 0) {
		return nil
	}
	prints := quantity.Ceil(neededTrials(p1, p2) * effect / perPrint)
	return quantity.Ptr(max(leastPrints, int64(prints)))
}
