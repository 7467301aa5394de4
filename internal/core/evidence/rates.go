// Package evidence says what counts, votes and readings show and what they do
// not: rates with intervals, differences, blind panels, rankings and means.
package evidence

import (
	"fmt"
	"math"
	"sort"

	"gonum.org/v1/gonum/stat/combin"
	"gonum.org/v1/gonum/stat/distuv"

	"ojime/internal/core/quantity"
	"ojime/internal/core/stats"
)

// Verdicts on a difference, by its p value.
const (
	Clear    = "clear"     // p < 0.01
	Likely   = "likely"    // p < 0.05
	NotShown = "not_shown" // anything else
)

// zPower80 is the 0.8 quantile of the normal distribution.
const zPower80 = 0.841621234

// VerdictOf is what a p shows: clear below 0.01, likely below 0.05, else not shown.
func VerdictOf(p float64) string {
	switch {
	case quantity.Less(p, 0.01):
		return Clear
	case quantity.Less(p, 0.05):
		return Likely
	}
	return NotShown
}

// Count is Events of Trials.
type Count struct {
	Events int64 `json:"events"`
	Trials int64 `json:"trials"`
}

func (n Count) rate() float64 { return float64(n.Events) / float64(n.Trials) }

func (n Count) wilson() quantity.Interval {
	return stats.Wilson(float64(n.Events), float64(n.Trials))
}

func (n Count) check(c *quantity.Checks, at string, leastTrials int64) {
	c.CountNotBelow(at+"events", n.Events)
	if leastTrials > 0 {
		c.CountAbove(at+"trials", n.Trials)
	} else {
		c.CountNotBelow(at+"trials", n.Trials)
	}
	if n.Events > n.Trials {
		c.Fail(at+"events", "is %d of %d trials; it cannot be more", n.Events, n.Trials)
	}
}

// RateResult is a rate with its Wilson interval. UpperIfNone is what a rate of
// none seen may still be, at 95 %. All nil without trials.
type RateResult struct {
	Rate        *float64           `json:"rate"`
	CI          *quantity.Interval `json:"ci"`
	UpperIfNone *float64           `json:"upper_if_none"`
	quantity.Warnings
}

// Rate is events/trials with Wilson's interval (1927), and 1 − 0.05^(1/n) for
// none in n. It warns no_trials.
func Rate(in Count) (RateResult, error) {
	var c quantity.Checks
	in.check(&c, "", 0)
	if c.Err() != nil {
		return RateResult{}, c.Err()
	}
	out := RateResult{Warnings: quantity.None()}
	if in.Trials == 0 {
		out.Warn("no_trials", "Nothing was tried yet, so there is no rate.")
		return out, nil
	}
	out.Rate, out.CI = quantity.Ptr(in.rate()), quantity.Ptr(in.wilson())
	if in.Events == 0 {
		out.UpperIfNone = quantity.Ptr(1 - math.Pow(0.05, 1/float64(in.Trials)))
	}
	return out, nil
}

// TwoRatesInput sets two counts against each other, both with trials.
type TwoRatesInput struct {
	A Count `json:"a"`
	B Count `json:"b"`
}

// TwoRatesResult is the difference of rates a − b, its interval, Fisher's p,
// how many trials a side would show this difference, and the verdict.
type TwoRatesResult struct {
	Difference     float64           `json:"difference"`
	CI             quantity.Interval `json:"ci"`
	P              float64           `json:"p"`
	NeededPerGroup *int64            `json:"needed_per_group"`
	Verdict        string            `json:"verdict"`
	quantity.Warnings
}

// TwoRates uses Newcombe's method 10 (1998) for the interval, Fisher's exact
// test (two-sided, tables no likelier than the one seen), and the usual
// sample size for 80 % power at 5 %.
func TwoRates(in TwoRatesInput) (TwoRatesResult, error) {
	var c quantity.Checks
	in.A.check(&c, "a.", 1)
	in.B.check(&c, "b.", 1)
	if c.Err() != nil {
		return TwoRatesResult{}, c.Err()
	}
	pa, pb := in.A.rate(), in.B.rate()
	a, b := in.A.wilson(), in.B.wilson()
	out := TwoRatesResult{Difference: pa - pb, P: fisher(in.A, in.B), Warnings: quantity.None()}
	if quantity.Equal(pa, pb) {
		out.Difference = 0
	}
	out.CI = quantity.Interval{
		out.Difference - math.Hypot(pa-a[0], b[1]-pb),
		out.Difference + math.Hypot(a[1]-pa, pb-b[0]),
	}
	if out.Difference != 0 {
		out.NeededPerGroup = quantity.Ptr(needed(pa, pb))
	}
	out.Verdict = VerdictOf(out.P)
	return out, nil
}

func needed(pa, pb float64) int64 { return int64(quantity.Ceil(neededTrials(pa, pb))) }

// neededTrials is how many a side show the difference of two rates with 80 % power.
func neededTrials(pa, pb float64) float64 {
	mean := (pa + pb) / 2
	root := stats.Z*math.Sqrt(2*mean*(1-mean)) + zPower80*math.Sqrt(pa*(1-pa)+pb*(1-pb))
	return root * root / ((pa - pb) * (pa - pb))
}

// likelihoodSlack is how much likelier a table may compute and still count as
// no likelier than the one seen.
const likelihoodSlack = 1e-7

// fisher sums the hypergeometric probabilities of the tables with the same
// margins that are no likelier than the one seen. The probabilities rise to a
// mode and fall again, so each tail begins where a search finds it and ends
// where it no longer counts; counts of millions cost no more than dozens.
func fisher(a, b Count) float64 {
	events := a.Events + b.Events
	all := combin.LogGeneralizedBinomial(float64(a.Trials+b.Trials), float64(events))
	probability := func(k int64) float64 {
		return math.Exp(combin.LogGeneralizedBinomial(float64(a.Trials), float64(k)) +
			combin.LogGeneralizedBinomial(float64(b.Trials), float64(events-k)) - all)
	}
	low, high := max(0, events-b.Trials), min(events, a.Trials)
	mode := int64(float64(a.Trials+1) * float64(events+1) / float64(a.Trials+b.Trials+2))
	mode = min(max(mode, low), high)
	limit := probability(a.Events) * (1 + likelihoodSlack)
	if probability(mode) <= limit {
		return 1
	}
	// The first table right and left of the mode that is no likelier.
	right := mode + 1 + int64(sort.Search(int(high-mode), func(i int) bool { return probability(mode+1+int64(i)) <= limit }))
	left := mode - 1 - int64(sort.Search(int(mode-low), func(i int) bool { return probability(mode-1-int64(i)) <= limit }))
	var p float64
	for k := right; k <= high && tailCounts(probability(k), &p); k++ {
	}
	for k := left; k >= low && tailCounts(probability(k), &p); k-- {
	}
	return math.Min(1, p)
}

// tailCounts adds a term to a sum and reports whether it changed it.
func tailCounts(term float64, sum *float64) bool {
	before := *sum
	*sum += term
	return *sum != before
}

// MeansInput holds two samples of at least two values each, in one unit.
type MeansInput struct {
	A []float64 `json:"a"`
	B []float64 `json:"b"`
}

// MeansResult is the difference of means a − b; the rest is nil without any
// spread.
type MeansResult struct {
	Difference float64            `json:"difference"`
	CI         *quantity.Interval `json:"ci"`
	P          *float64           `json:"p"`
	DF         *float64           `json:"df"`
	quantity.Warnings
}

// Means is Welch's test with his degrees of freedom. It warns no_spread.
func Means(in MeansInput) (MeansResult, error) {
	var c quantity.Checks
	checkSample(&c, "a", in.A)
	checkSample(&c, "b", in.B)
	if c.Err() != nil {
		return MeansResult{}, c.Err()
	}
	out := MeansResult{Difference: stats.Mean(in.A) - stats.Mean(in.B), Warnings: quantity.None()}
	na, nb := float64(len(in.A)), float64(len(in.B))
	va, vb := stats.SampleVar(in.A)/na, stats.SampleVar(in.B)/nb
	if va+vb == 0 {
		out.Warn("no_spread", "Neither side shows any spread, so the difference has no interval; read with a finer resolution.")
		return out, nil
	}
	df := (va + vb) * (va + vb) / (va*va/(na-1) + vb*vb/(nb-1))
	se := math.Sqrt(va + vb)
	half := stats.T(df) * se
	t := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: df}
	out.DF = &df
	out.CI = &quantity.Interval{out.Difference - half, out.Difference + half}
	out.P = quantity.Ptr(2 * t.Survival(math.Abs(out.Difference)/se))
	return out, nil
}

func checkSample(c *quantity.Checks, at string, values []float64) {
	if len(values) < 2 {
		c.Fail(at, "has %d values; at least 2 are needed", len(values))
	}
	for i, v := range values {
		c.Number(fmt.Sprintf("%s[%d]", at, i), v)
	}
}
