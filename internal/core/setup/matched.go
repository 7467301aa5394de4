package setup

import (
	"math"

	"gonum.org/v1/gonum/stat/distuv"

	"ojime/internal/core/quantity"
	"ojime/internal/core/stats"
)

// TimeStratum is the times in s of two sides' prints of one kind of plate.
type TimeStratum struct {
	A []float64
	B []float64
}

// MatchedTimes compares times plate by plate: the logarithm of the ratio is the mean of the
// strata's, each counting alike, and the spread within kinds and sides is taken to be the
// same throughout (the residual of a blocked analysis of variance, with its degrees of
// freedom). Where no kind was printed twice on a side, the spread of the strata's own
// ratios stands for it (a paired t test). No spread is taken below what the times' resolution
// can't tell apart. Without either there is a ratio and no interval.
// Each stratum has a time above 0 on either side.
func MatchedTimes(strata []TimeStratum) TimeRatio {
	k := float64(len(strata))
	var ratios []float64
	var squares, weights, df float64
	var all [][]float64
	for _, s := range strata {
		all = append(all, s.A, s.B)
	}
	resolution := timeResolution(all...)
	for _, s := range strata {
		a, b := logsOf(s.A), logsOf(s.B)
		ratios = append(ratios, stats.Mean(a)-stats.Mean(b))
		weights += 1/float64(len(a)) + 1/float64(len(b))
		for _, times := range [][]float64{s.A, s.B} {
			if n := len(times); n > 1 {
				squares, df = squares+float64(n-1)*logVariance(times, resolution), df+float64(n-1)
			}
		}
	}
	d := stats.Mean(ratios)
	out := TimeRatio{Ratio: math.Exp(d)}
	var u float64
	switch {
	case df > 0:
		u = math.Sqrt(squares/df*weights) / k
	case len(ratios) > 1:
		u, df = math.Sqrt(stats.SampleVar(ratios)/k), k-1
	}
	if df == 0 || u < 1e-12 {
		return out
	}
	t := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: df}
	half := t.Quantile(0.975) * u
	out.CI, out.P = quantity.ExpInterval(d-half, d+half), quantity.Ptr(2*t.Survival(math.Abs(d)/u))
	return out
}
