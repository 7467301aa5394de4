package evidence

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/stat/distuv"

	"ojime/internal/core/quantity"
)

// Stratum is the prints of two sides that are alike in what they hold: they are set against
// each other, and against no others.
type Stratum struct {
	A []PrintCount
	B []PrintCount
}

// MatchedResult is the difference of two failure rates over strata.
type MatchedResult struct {
	Difference float64
	CI         quantity.Interval
	P          float64
	LeastP     float64
	Method     string // permutation or welch
}

// Matched compares failure rates stratum by stratum: the difference is the mean of the
// strata's differences, each counting alike. Its interval combines theirs (Newcombe's
// method 10 in each; the method of variance estimates recovery, Zou and Donner 2008). P
// deals the prints anew between the sides within each stratum; the differences are added
// up on a grid of 1e-4, ties counting as reached. Above 200,000 deals of a stratum it is
// Welch's on the prints' own shares. Each stratum has a print on either side.
func Matched(strata []Stratum) (MatchedResult, error) {
	var c quantity.Checks
	if len(strata) == 0 {
		c.Fail("strata", "are none; two sides need prints that hold the same")
	}
	for i, s := range strata {
		checkPrints(&c, fmt.Sprintf("strata[%d].a", i), s.A)
		checkPrints(&c, fmt.Sprintf("strata[%d].b", i), s.B)
	}
	if c.Err() != nil {
		return MatchedResult{}, c.Err()
	}
	k := float64(len(strata))
	out := MatchedResult{LeastP: leastMatched(strata)}
	var low, high float64
	var warned PrintsResult
	for _, s := range strata {
		a, b := warned.side(s.A), warned.side(s.B)
		out.Difference += (a.Rate - b.Rate) / k
		low += square(a.Rate-a.CI[0]) + square(b.CI[1]-b.Rate)
		high += square(a.CI[1]-a.Rate) + square(b.Rate-b.CI[0])
	}
	if quantity.Equal(out.Difference, 0) {
		out.Difference = 0
	}
	out.CI = quantity.Interval{out.Difference - math.Sqrt(low)/k, out.Difference + math.Sqrt(high)/k}
	out.P, out.Method = matchedP(strata, out.LeastP)
	return out, nil
}

// MatchedNested is the mean of differences of sizes over pieces, each counting alike, with
// its interval and p: uncertainties add up as of independent prints, degrees of freedom by
// Welch and Satterthwaite. All nil without a result that has an interval; results of single
// prints, which have none, are left out.
func MatchedNested(results []NestedResult) (difference *float64, ci *quantity.Interval, p *float64) {
	var d, variance, parts, k float64
	for _, r := range results {
		if r.CI == nil || r.DF == nil || r.DifferenceMM == nil {
			continue
		}
		u := (r.CI[1] - r.CI[0]) / 2 / distuv.StudentsT{Mu: 0, Sigma: 1, Nu: *r.DF}.Quantile(0.975)
		d, variance, parts, k = d+*r.DifferenceMM, variance+u*u, parts + square(u*u) / *r.DF, k+1
	}
	if k == 0 || variance == 0 {
		return nil, nil, nil
	}
	d /= k
	t := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: square(variance) / parts}
	u := math.Sqrt(variance) / k
	half := t.Quantile(0.975) * u
	return &d, &quantity.Interval{d - half, d + half}, quantity.Ptr(2 * t.Survival(math.Abs(d)/u))
}

func square(v float64) float64 { return v * v }

// leastMatched is the smallest p that any outcome could give: one deal of all, or two where
// the sides may change places.
func leastMatched(strata []Stratum) float64 {
	out, both := 1.0, true
	for _, s := range strata {
		out /= deals(len(s.A), len(s.B))
		both = both && len(s.A) == len(s.B)
	}
	if both {
		out *= 2
	}
	return math.Min(1, out)
}

// grid is the step on which differences of strata are added up.
const grid = 1e-4

func matchedP(strata []Stratum, least float64) (p float64, method string) {
	var seen int64
	chances := map[int64]float64{0: 1} // of each sum of differences, in steps
	for _, s := range strata {
		all := deals(len(s.A), len(s.B))
		if all > mostDeals {
			return matchedWelch(strata, least), "welch"
		}
		var failed, judged, f, n int64
		for _, one := range s.A {
			f, n = f+one.Failed, n+one.Judged
		}
		failed, judged = f, n
		for _, one := range s.B {
			failed, judged = failed+one.Failed, judged+one.Judged
		}
		steps := func(f, n int64) int64 {
			return int64(math.Round((float64(f)/float64(n) - float64(failed-f)/float64(judged-n)) / grid))
		}
		seen += steps(f, n)
		here := map[int64]float64{}
		for at, ways := range dealt(append(append([]PrintCount{}, s.A...), s.B...), len(s.A)) {
			here[steps(at.failed, at.judged)] += ways / all
		}
		next := make(map[int64]float64, len(chances))
		for sum, chance := range chances {
			for step, share := range here {
				next[sum+step] += chance * share
			}
		}
		chances = next
	}
	// Rounding moves a sum by up to half a step a stratum: what lies so near counts.
	reached := int64(math.Abs(float64(seen))) - int64(len(strata))
	for sum, chance := range chances {
		if int64(math.Abs(float64(sum))) >= reached {
			p += chance
		}
	}
	return math.Min(1, p), "permutation"
}

// matchedWelch is a t test on the prints' own shares, stratum by stratum, with Welch's
// degrees of freedom over all.
func matchedWelch(strata []Stratum, least float64) float64 {
	share := func(prints []PrintCount) (out []float64) {
		for _, p := range prints {
			out = append(out, float64(p.Failed)/float64(p.Judged))
		}
		return out
	}
	var d, variance, parts float64
	for _, s := range strata {
		difference, u, df := welch(share(s.A), share(s.B))
		d, variance = d+difference, variance+u*u
		if u > 0 {
			parts += square(u*u) / df
		}
	}
	switch {
	case variance > 0:
		return 2 * distuv.StudentsT{Mu: 0, Sigma: 1, Nu: square(variance) / parts}.Survival(math.Abs(d)/math.Sqrt(variance))
	case quantity.Equal(d, 0):
		return 1
	}
	return least
}
